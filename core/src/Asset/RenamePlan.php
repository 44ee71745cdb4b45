<?php

declare(strict_types=1);

namespace Anvil\Asset;

use Anvil\Pairing\ByPlace;
use Anvil\Pairing\NameReading;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\SuffixState;
use Anvil\Pairing\Tie;
use Anvil\Standard\Role;

/**
 * Which parts get which new names, why, and what stands in the way.
 */
final readonly class RenamePlan
{
    /** Suggestions less sure than this are for a person to take, or for `following`. */
    private const SURE = 0.75;

    private const SAFE_LENGTH = 64;

    /**
     * @param  list<array{file: string, number: int, from: string, to: string, reason: string}>  $rows
     * @param  list<string>  $clashes  what makes the plan impossible, in words
     * @param  list<string>  $unsafe  new names that programs trip over, in words
     */
    private function __construct(public array $rows, public array $clashes, public array $unsafe)
    {
    }

    /** What would mend the ties; ID copies and cages of a renamed base go with it. */
    public static function suggested(Asset $asset): self
    {
        $rows = [];
        foreach ($asset->pairing->suggestions as $suggestion) {
            if ($suggestion->confidence >= self::SURE) {
                $rows[] = [$suggestion->part, $suggestion->rename, $suggestion->reason];
            }
        }

        return self::of($asset, self::withCopies($asset, $rows));
    }

    public static function replacing(Asset $asset, string $find, string $replace, ?Role $role = null): self
    {
        $rows = [];
        foreach (self::parts($asset, $role) as $part) {
            if ($find !== '' && str_contains($part->part->name, $find)) {
                $rows[] = [$part, str_replace($find, $replace, $part->part->name), $replace === '' ? "$find taken out" : "$find replaced by $replace"];
            }
        }

        return self::of($asset, $rows);
    }

    /** The role suffix on every part that lacks it; a suffix in other letter case or with another separator is put right. */
    public static function addingSuffixes(Asset $asset, ?Role $role = null): self
    {
        $rows = [];
        foreach (self::parts($asset, $role) as $part) {
            if ($part->role !== null && ! $part->mixed && $part->suffixState() !== SuffixState::Exact) {
                $rows[] = [$part, $part->base.$asset->standard->suffixFor($part->role), "the {$part->role->value} suffix added"];
            }
        }

        return self::of($asset, $rows);
    }

    /**
     * This suffix on every name that lacks it: of the parts of its role and of those whose role nothing tells, where it is a role's
     * suffix by the standard; else of all parts.
     */
    public static function addingSuffix(Asset $asset, string $suffix): self
    {
        $role = NameReading::of("x$suffix", $asset->standard);
        $known = $role->state === SuffixState::Exact ? $role->role : null;
        $rows = [];
        foreach ($asset->parts as $part) {
            if (str_ends_with($part->part->name, $suffix) || ($known !== null && $part->role !== null && $part->role !== $known)) {
                continue;
            }
            $isMisspelt = $known !== null && in_array($part->suffixState(), [SuffixState::OtherCase, SuffixState::OtherSeparator], true);
            $rows[] = [$part, ($isMisspelt ? $part->base : $part->part->name).$suffix, "$suffix added"];
        }

        return self::of($asset, $rows);
    }

    /** Another suffix, or none, in the place of the one at the end of names. */
    public static function changingSuffix(Asset $asset, string $from, string $to, ?Role $role = null): self
    {
        $rows = [];
        foreach (self::parts($asset, $role) as $part) {
            $name = $part->part->name;
            if ($from !== '' && str_ends_with($name, $from) && strlen($name) > strlen($from)) {
                $rows[] = [$part, substr($name, 0, -strlen($from)).$to, $to === '' ? "$from taken off" : "$from changed to $to"];
            }
        }

        return self::of($asset, $rows);
    }

    /**
     * New bases by a pattern, in the order of the names: a run of `#` is the number, padded with zeros to its length. All parts of one
     * base get one number, so that pairs stay pairs; suffixes stay.
     *
     * @param  string  $only  letters that a base must hold to be numbered; empty for all
     */
    public static function numbering(Asset $asset, string $pattern, int $first = 1, string $only = ''): self
    {
        $bases = [];
        foreach (self::parts($asset, null) as $part) {
            if ($only === '' || str_contains($part->base, $only)) {
                $bases[$part->base][] = $part;
            }
        }
        uksort($bases, static fn (string|int $a, string|int $b): int => strnatcasecmp((string) $a, (string) $b) ?: strcmp((string) $a, (string) $b));
        $rows = [];
        $number = $first;
        foreach ($bases as $base => $parts) {
            $new = (string) preg_replace_callback('/#+/', static fn (array $run): string => str_pad((string) $number, strlen($run[0]), '0', STR_PAD_LEFT), $pattern);
            foreach ($parts as $part) {
                $rows[] = [$part, $new.substr($part->part->name, strlen((string) $base)), "number $number"];
            }
            $number++;
        }
        $plan = self::of($asset, $rows);

        return str_contains($pattern, '#') || count($bases) < 2 ? $plan : new self($plan->rows, ['the pattern has no # for the number, so all bases would get one name', ...$plan->clashes], $plan->unsafe);
    }

    /** Names in lower case, or upper case, suffixes as the standard writes them. */
    public static function casing(Asset $asset, bool $upper, ?Role $role = null): self
    {
        $rows = [];
        foreach (self::parts($asset, $role) as $part) {
            $suffix = $part->suffixState() === SuffixState::OtherCase && $part->role !== null ? $asset->standard->suffixFor($part->role) : substr($part->part->name, strlen($part->base));
            $new = ($upper ? mb_strtoupper($part->base) : mb_strtolower($part->base)).$suffix;
            $rows[] = [$part, $new, $upper ? 'upper case' : 'lower case'];
        }

        return self::of($asset, $rows);
    }

    /** The names of one side go to the parts of the other that stand in the same place, ID copies with them. */
    public static function following(Asset $asset, Role $leader): self
    {
        $lows = $highs = [];
        foreach ($asset->pairing->ties as $tie) {
            if ($tie->low !== []) {
                $lows[] = $tie;
            }
            if ($tie->high !== []) {
                $highs[] = $tie;
            }
        }
        $place = ByPlace::of(array_map(static fn (Tie $tie) => RoledPart::boundsOf($tie->low), $lows), array_map(static fn (Tie $tie) => RoledPart::boundsOf($tie->high), $highs));
        $rows = [];
        foreach ($place->partner as $i => [$j]) {
            $low = $lows[$i]->low;
            $high = $highs[$j]->high;
            [$leads, $follows, $role] = $leader === Role::High ? [$high[0], $low, Role::Low] : [$low[0], $high, Role::High];
            foreach ($follows as $part) {
                $suffix = $part->suffixState() === SuffixState::Exact ? $part->reading->suffix : $asset->standard->suffixFor($role);
                $rows[] = [$part, $leads->base.$suffix, "stands where {$leads->part->name} stands"];
            }
        }

        return self::of($asset, self::withCopies($asset, $rows));
    }

    /** Parts of one role take the bases of those of another role that they lie on, such as an ID copy its high parts'. */
    public static function copying(Asset $asset, Role $from, Role $to): self
    {
        $leaders = $asset->judged($from);
        $rows = [];
        $followers = $asset->judged($to);
        $bounds = static fn (RoledPart $part) => $part->part->bounds();
        foreach (ByPlace::of(array_map($bounds, $followers), array_map($bounds, $leaders))->partner as $i => [$j]) {
            $part = $followers[$i];
            $suffix = $part->suffixState() === SuffixState::Exact ? $part->reading->suffix : $asset->standard->suffixFor($to);
            $rows[] = [$part, $leaders[$j]->base.$suffix, "a copy of {$leaders[$j]->part->name}"];
        }

        return self::of($asset, $rows);
    }

    /**
     * Renames by hand.
     *
     * @param  array<int, array<string, array{string, string}>>  $renames  file number → part → new name, reason
     */
    public static function byHand(Asset $asset, array $renames): self
    {
        $rows = [];
        foreach ($asset->parts as $part) {
            [$new, $reason] = $renames[$part->file][$part->part->name] ?? [null, ''];
            if ($new !== null) {
                $rows[] = [$part, $new, $reason === '' ? 'by hand' : $reason];
            }
        }

        return self::of($asset, $rows);
    }

    /**
     * @param  list<string>  $clashes
     */
    public function withClashes(array $clashes): self
    {
        return new self($this->rows, [...$this->clashes, ...$clashes], $this->unsafe);
    }

    /**
     * @return array<string, string> old → new, of one file
     */
    public function namesIn(int $file): array
    {
        $out = [];
        foreach ($this->rows as $row) {
            if ($row['number'] === $file) {
                $out[$row['from']] = $row['to'];
            }
        }

        return $out;
    }

    /**
     * @return array{plan: list<array{file: string, from: string, to: string, reason: string}>, clashes: list<string>}
     */
    public function toArray(): array
    {
        return [
            'plan' => array_map(static fn (array $row): array => ['file' => $row['file'], 'from' => $row['from'], 'to' => $row['to'], 'reason' => $row['reason']], $this->rows),
            'clashes' => $this->clashes,
        ];
    }

    /**
     * @return list<RoledPart>
     */
    private static function parts(Asset $asset, ?Role $role): array
    {
        return $role === null ? $asset->parts : array_values(array_filter($asset->parts, static fn (RoledPart $part): bool => $part->role === $role));
    }

    /**
     * ID copies and cages whose base is one of the renamed ones follow it.
     *
     * @param  list<array{RoledPart, string, string}>  $rows
     * @return list<array{RoledPart, string, string}>
     */
    private static function withCopies(Asset $asset, array $rows): array
    {
        $bases = [];
        foreach ($rows as [$part, $new]) {
            $base = NameReading::of($new, $asset->standard)->base;
            if ($base !== $part->base && ($part->role === Role::High || $part->role === Role::Low)) {
                $bases[$part->role->value][$part->base] = $base;
            }
        }
        foreach ($asset->judged() as $part) {
            $leader = match ($part->role) {
                Role::Id => 'high', Role::Cage, Role::Pose => 'low', default => null,
            };
            $base = $leader === null ? null : ($bases[$leader][$part->base] ?? null);
            if ($base !== null) {
                $rows[] = [$part, $base.substr($part->part->name, strlen($part->base)), "goes with its $leader part"];
            }
        }

        return $rows;
    }

    /**
     * @param  list<array{RoledPart, string, string}>  $wanted
     */
    private static function of(Asset $asset, array $wanted): self
    {
        $rows = $clashes = $unsafe = $new = [];
        foreach ($wanted as [$part, $to, $reason]) {
            if ($to === $part->part->name) {
                continue;
            }
            $rows[] = ['file' => $part->path, 'number' => $part->file, 'from' => $part->part->name, 'to' => $to, 'reason' => $reason];
            if (isset($new[$part->file][$part->part->name]) && $new[$part->file][$part->part->name] !== $to) {
                $clashes[] = "{$part->part->name} would be renamed twice, to {$new[$part->file][$part->part->name]} and to $to";
            }
            $new[$part->file][$part->part->name] = $to;
            if ($to === '' || preg_match('/[\x00-\x1f\x7f]|^\s|\s$/', $to) === 1 || strlen($to) > 255) {
                $clashes[] = "\"$to\" cannot be a name: it is empty, too long, or holds control characters or blanks at its ends";
            } elseif (preg_match('/[^\x21-\x7e]/', $to) === 1 || strlen($to) > self::SAFE_LENGTH) {
                $unsafe[] = "\"$to\" is a name that programs trip over: blanks, characters outside ASCII, or over ".self::SAFE_LENGTH.' characters';
            }
            if ($part->part->facts->namedByFile) {
                $clashes[] = "{$part->part->name} is named by its file, which holds no name of its own for it; rename the file instead";
            }
            if (strtolower(pathinfo($part->path, PATHINFO_EXTENSION)) === 'usda') {
                $clashes[] = "{$part->part->name} stands in a USD text file, which is read here and not written; export .glb, .obj or .dae";
            }
        }
        $taken = [];
        foreach ($asset->parts as $part) {
            $name = $new[$part->file][$part->part->name] ?? $part->part->name;
            $key = "$part->file $name";
            $before = $taken[$key] ?? null;
            // Two parts of one name are told of by a check; here only what this plan would bring about.
            if ($before !== null && $before !== $part->part->name) {
                $clashes[] = "$name would be the name of both $before and {$part->part->name} in ".basename($part->path);
            }
            $taken[$key] = $part->part->name;
        }

        return new self($rows, array_values(array_unique($clashes)), array_values(array_unique($unsafe)));
    }
}
