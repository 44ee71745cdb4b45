<?php

declare(strict_types=1);

namespace Anvil\Handoff;

use Anvil\Checks\Finding;
use Anvil\Formats\Folder;
use Anvil\Standard\Severity;

/**
 * Something that was written from an asset and goes into its package beside the files: exploded files, cages, ID files, trial maps, retouch masks.
 */
final readonly class Extra
{
    /** What may go along, and how people call it. */
    public const KINDS = ['exploded' => 'exploded layout with its plan', 'cage' => 'cages', 'ids' => 'ID files', 'trial' => 'trial maps', 'retouch' => 'retouch masks'];

    /**
     * @param  string  $folder  with its files
     * @param  string  $of  hash of what it was made of (`MadeOf`)
     */
    public function __construct(public string $kind, public string $folder, public string $of)
    {
    }

    /**
     * @return array<string, string> path in the package → where it lies, in order
     */
    public function files(): array
    {
        $out = [];
        foreach (Folder::files($this->folder) as $name) {
            $out["outputs/$this->kind/$name"] = "$this->folder/$name";
        }
        ksort($out, SORT_STRING);

        return $out;
    }

    /**
     * Those that were made of something else than what is sealed.
     *
     * @param  list<self>  $extras
     * @return list<Finding> of `package-mixed`
     */
    public static function mixed(array $extras, string $of): array
    {
        $out = [];
        foreach ($extras as $extra) {
            if ($extra->of !== $of) {
                $out[] = self::finding($extra->kind);
            }
        }

        return $out;
    }

    public static function finding(string $kind): Finding
    {
        $words = self::KINDS[$kind] ?? $kind;

        return new Finding('package-mixed', Severity::Blocker, "the $words in this package were made of another delivery, or before something was decided anew: they do not belong to its files", "write the $words again and seal again", ['file' => "outputs/$kind"]);
    }
}
