<?php

declare(strict_types=1);

namespace Anvil\Asset;

use Anvil\Formats\Source;

/**
 * A map that came back from a baker: as it was named, and of what kind and page it is, where that was told.
 */
final readonly class GivenMap
{
    /** What maps are held against; names end in these. */
    public const KINDS = ['normal', 'ao', 'id', 'height'];

    public const ENDINGS = ['png', 'tga', 'tif', 'tiff'];

    /**
     * @param  string  $path  as it was named
     * @param  string|null  $kind  of KINDS; null: no known one
     * @param  string|null  $page  as it was told, or as the name has it before its kind; null: neither
     * @param  bool  $isTold  whether the page was told
     */
    public function __construct(public string $path, public ?string $kind, public ?string $page, public bool $isTold, public string $sha256, public Source $source)
    {
    }

    /** By what its prefix says, else by its name. */
    public static function of(string $path, ?string $kind, ?string $page, Source $source): self
    {
        $read = self::read($path);
        $stream = $source->open();
        $hash = hash_init('sha256');
        hash_update_stream($hash, $stream);
        fclose($stream);

        return new self($path, $kind ?? $read[0] ?? null, $page ?? $read[1] ?? null, $page !== null, hash_final($hash), $source);
    }

    /**
     * Kind and page by a name like `lantern_normal.png`.
     *
     * @return array{string, string}|null null where the name ends in no kind
     */
    public static function read(string $path): ?array
    {
        $stem = pathinfo($path, PATHINFO_FILENAME);

        return in_array(strtolower(pathinfo($path, PATHINFO_EXTENSION)), self::ENDINGS, true)
            && preg_match('/^(.*)_('.implode('|', self::KINDS).')$/si', $stem, $found) === 1 ? [strtolower($found[2]), $found[1]] : null;
    }
}
