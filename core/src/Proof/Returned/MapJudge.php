<?php

declare(strict_types=1);

namespace Anvil\Proof\Returned;

use Anvil\Asset\GivenMap;
use Anvil\Formats\Images\Image;
use Anvil\Formats\Images\ImageHeader;
use Anvil\Proof\ProofPage;
use Anvil\Proof\TrialBake;
use Anvil\Proof\TrialInputs;
use Anvil\Proof\TrialMaps;
use Anvil\Unreadable;

/**
 * Holds maps that came back from a baker against the trial maps of their pages.
 */
final class MapJudge
{
    /** Size of the trial that they are held against, px. */
    public const SIZE = 256;

    /** 8192² px of four channels of 16 bits, not packed. */
    private const MOST_BYTES = 600 << 20;

    /**
     * @param  list<GivenMap>  $maps
     * @param  list<ProofPage>  $pages
     * @return list<MapVerdict> in their order
     */
    public static function of(array $maps, array $pages, TrialInputs $inputs): array
    {
        $out = [];
        $verdicts = [];
        $byPage = [];
        foreach ($maps as $number => $map) {
            try {
                [$page, $kind] = self::place($map, $pages);
                // Each is read again when it is its turn: all of them at once would not fit.
                $byPage[$page][] = [$number, $map, $kind, ImageHeader::of(self::bytes($map))];
            } catch (Unreadable $error) {
                $verdicts[$number] = MapVerdict::unreadable($map, $error);
            }
        }
        $bake = new TrialBake($inputs);
        foreach ($byPage as $number => $given) {
            $page = $pages[$number];
            $kinds = array_values(array_unique(array_map(static fn (array $one): string => $one[2], $given)));
            $size = min(self::SIZE, $inputs->asset->standard->mapSize);
            $trial = $bake->page($page, $size, 1, ['normal', ...$kinds], true);
            $layouts = [];
            foreach ($given as [$at, $map, $kind, $header]) {
                try {
                    $verdicts[$at] = self::one($map, $kind, Image::decode(self::bytes($map), $header), $trial, $bake, $inputs, $layouts);
                } catch (Unreadable $error) {
                    $verdicts[$at] = MapVerdict::unreadable($map, $error);
                }
            }
        }
        ksort($verdicts);
        foreach ($verdicts as $verdict) {
            $out[] = $verdict;
        }

        return $out;
    }

    /**
     * The page that a map is of, by its number, and its kind.
     *
     * @param  list<ProofPage>  $pages
     * @return array{int, string}
     */
    private static function place(GivenMap $map, array $pages): array
    {
        if ($map->kind === null) {
            throw Unreadable::because('its name does not end in the kind of a known map ('.implode(', ', array_map(static fn (string $kind): string => "_$kind", GivenMap::KINDS)).'); say it as map:KIND:path');
        }
        if ($pages === []) {
            throw Unreadable::because('there is no page to hold it against: the low poly has no UVs');
        }
        foreach ([static fn (string $name): string => $name, strtolower(...)] as $as) {
            foreach ($pages as $number => $page) {
                if ($map->page !== null && in_array($as($map->page), [$as($page->name), $as($page->file)], true)) {
                    return [$number, $map->kind];
                }
            }
        }
        $names = implode(', ', array_slice(array_map(static fn (ProofPage $page): string => $page->name, $pages), 0, 6));
        if ($map->isTold) {
            throw Unreadable::because("there is no page $map->page; there are: $names");
        }
        if (count($pages) > 1) {
            throw Unreadable::because("its name does not tell which page it is of: name it PAGE_$map->kind, or say it as map:$map->kind@PAGE:path; the pages are $names");
        }

        return [0, $map->kind];
    }

    private static function bytes(GivenMap $map): string
    {
        $stream = $map->source->open();
        $bytes = (string) stream_get_contents($stream, self::MOST_BYTES + 1);
        fclose($stream);
        if (strlen($bytes) > self::MOST_BYTES) {
            throw Unreadable::because('it is over '.(self::MOST_BYTES >> 20).' MiB; no map of '.ImageHeader::MOST.' px is');
        }

        return $bytes;
    }

    /**
     * @param  array<int, array{list<int>, array<int, array{float, int}>}>  $layouts  of the page, by width of the map
     */
    private static function one(GivenMap $map, string $kind, Image $image, TrialMaps $trial, TrialBake $bake, TrialInputs $inputs, array &$layouts): MapVerdict
    {
        $standard = $inputs->asset->standard;
        [$color, $cover] = $image->reduced($trial->size);
        $fit = MapFit::of($trial, $kind, $color, $cover);
        $holes = $stops = $blends = null;
        $differs = $fit->differs;
        $isOther = $fit->isAsked && $fit->median !== null && $fit->median > MapFit::OTHER[$kind];
        if ($fit->fitsAsIs() && ! $isOther && $image->width() === $image->height()) {
            $padding = $standard->padding() * $image->width() / $standard->mapSize;
            $layouts[$image->width()] ??= MapFaults::layout($trial->page, $image->width(), $padding);
            $faults = new MapFaults($image, $trial->page, $padding, $layouts[$image->width()]);
            $holes = $faults->holes($bake, $kind);
            // What a hole differs in is told by it.
            $differs = $holes['share'] > 0.0 ? $faults->written($differs, $trial->size) : $differs;
            $stops = $faults->padding();
            if ($kind === 'id') {
                $ids = ($inputs->ids)();
                $blends = $ids->colors !== [] ? $faults->blends(array_map(strval(...), array_keys($ids->colors))) : null;
            }
        }
        $worst = $differs;
        usort($worst, static fn (int $a, int $b): int => [$fit->distances[$b], $a] <=> [$fit->distances[$a], $b]);
        $size = $trial->size;

        return new MapVerdict(
            $map->path, $map->sha256, $kind, $trial->page->name, null, $image->header, $fit->median, $fit->turn, $fit->greenInverted, $fit->srgb, $fit->isAsked, $isOther, $fit->compared === [] ? 0.0 : count($differs) / count($fit->compared), count($fit->compared),
            self::places($trial->page, array_map(static fn (int $texel): array => [$trial->owners[$texel], ($texel % $size + 0.5) / $size, 1.0 - (intdiv($texel, $size) + 0.5) / $size], $worst)),
            $holes === null ? null : [...$holes, 'where' => self::places($trial->page, $holes['where'])], $stops === null ? null : [...$stops, 'where' => self::places($trial->page, $stops['where'])],
            $blends === null ? null : [...$blends, 'where' => self::places($trial->page, $blends['where'])],
            $size, self::preview($color), self::difference($fit, $kind, $size),
        );
    }

    /**
     * @param  list<array{int, float, float}>  $list  triangle of the page, u, v
     * @return list<array{float, float, float}> on the low poly
     */
    private static function places(ProofPage $page, array $list): array
    {
        return array_map(static fn (array $one): array => $page->place($one[0], $one[1], $one[2]), array_slice($list, 0, 40));
    }

    /**
     * @param  list<float>  $color  rgb, 0–1
     */
    private static function preview(array $color): string
    {
        return (string) gzcompress(pack('C*', ...array_map(static fn (float $one): int => (int) round(255 * max(0.0, min(1.0, $one))), $color)));
    }

    private static function difference(MapFit $fit, string $kind, int $size): string
    {
        $out = array_fill(0, $size * $size, 0);
        foreach ($fit->distances as $texel => $distance) {
            $out[$texel] = (int) max(1, min(255, round(128 * $distance / MapFit::DIFFERS[$kind])));
        }

        return (string) gzcompress(pack('C*', ...$out));
    }
}
