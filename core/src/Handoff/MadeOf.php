<?php

declare(strict_types=1);

namespace Anvil\Handoff;

use Anvil\Asset\Asset;
use Anvil\Asset\ReadFile;
use Anvil\Standard\RaySettings;

/**
 * What a verdict, a package or a written file was made of, as one hash: files with their roles, standard and choices. Where two differ, they are of two
 * deliveries, or something was decided in between. How many rays were shot is no part of it.
 */
final class MadeOf
{
    /**
     * @param  array<mixed>  $beside  what else was decided
     * @return string SHA-256, in hexadecimal
     */
    public static function of(Asset $asset, array $beside = []): string
    {
        $files = array_map(static fn (ReadFile $file): array => [basename(str_replace('\\', '/', $file->path)), $file->role?->value, $file->sha256], $asset->files);
        sort($files);
        $standard = array_diff_key($asset->standard->withRays(new RaySettings($asset->standard->rays->smooth, $asset->standard->rays->cageLength, $asset->standard->rays->backFaces, 0, $asset->standard->rays->setsKeptApart))->toArray(), ['name' => 0]);

        return hash('sha256', json_encode([$files, $standard, $asset->choices->toArray(), $beside], JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE | JSON_PRESERVE_ZERO_FRACTION));
    }
}
