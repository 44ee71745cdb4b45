<?php

declare(strict_types=1);

namespace Anvil\Pairing;

use Anvil\Standard\Role;
use Anvil\Standard\Standard;

/**
 * What a name says by itself: its role suffix and its base, letter for letter and, where that fails, but for letter case or the separator.
 */
final readonly class NameReading
{
    private function __construct(public ?Role $role, public string $base, public string $suffix, public SuffixState $state)
    {
    }

    public static function of(string $name, Standard $standard): self
    {
        $exact = self::longest($name, $standard, false);
        if ($exact !== null) {
            return new self($exact[0], substr($name, 0, -strlen($exact[1])), $exact[1], SuffixState::Exact);
        }
        $loose = self::longest($name, $standard, true);
        if ($loose !== null) {
            return new self($loose[0], substr($name, 0, -strlen($loose[1])), $loose[1], SuffixState::OtherCase);
        }
        foreach ($standard->suffixes as $role => $suffixes) {
            foreach ($suffixes as $suffix) {
                $word = trim($suffix, '*_-. ');
                if ($word !== '' && preg_match('/^(.+?)([-. _]+'.preg_quote($word, '/').')$/iu', $name, $found) === 1) {
                    return new self(Role::from($role), $found[1], $found[2], SuffixState::OtherSeparator);
                }
            }
        }

        return new self(null, $name, '', SuffixState::None);
    }

    /**
     * @return array{Role, string}|null role and the suffix as it stands in the name; the longest that fits
     */
    private static function longest(string $name, Standard $standard, bool $fold): ?array
    {
        $best = null;
        $held = $fold ? strtolower($name) : $name;
        foreach ($standard->suffixes as $role => $suffixes) {
            foreach ($suffixes as $suffix) {
                $wanted = $fold ? strtolower($suffix) : $suffix;
                if (str_ends_with($wanted, '*')) {
                    $start = strpos($held, substr($wanted, 0, -1), 1);
                    $length = $start === false ? 0 : strlen($name) - $start;
                } else {
                    $length = str_ends_with($held, $wanted) ? strlen($wanted) : 0;
                }
                if ($length > 0 && $length < strlen($name) && ($best === null || $length > strlen($best[1]))) {
                    $best = [Role::from($role), substr($name, -$length)];
                }
            }
        }

        return $best;
    }
}
