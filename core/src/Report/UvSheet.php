<?php

declare(strict_types=1);

namespace Anvil\Report;

use Anvil\Checks\Catalogue;
use Anvil\Checks\Surface\UvParts;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\FineDetails;
use Anvil\Measures\Kind\IslandFacts;
use Anvil\Measures\Kind\PageLayout;
use Anvil\Measures\Kind\PoseUvs;
use Anvil\Measures\Kind\Sights;
use Anvil\Measures\Measures;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;
use Anvil\Surface\CoarseDetails;
use Anvil\Surface\UvGaps;

/**
 * All that is known of the UV pages of an asset, page by page and island by island, for whoever draws them; with what at other map sizes would break.
 */
final readonly class UvSheet
{
    /**
     * @param  list<string>  $parts  low parts by name, in the order of `island.part`
     * @param  list<array{name: string, islands: int, use: float, overlap: float, regions: list<list<float>>, gaps: list<array{one: int, two: int, px: float, ends: array{float, float, float, float}}>}>  $pages
     * @param  list<array{part: int, page: int, key: string, triangles: int, density: float, stretch: float, gap: float|null, seen: float, turned: float|null, mirrored: bool, meant: bool, overlaps: bool, box: array{float, float, float, float}}>  $islands
     *                                                                                                                                                                                                                                        `gap` in px; `box` u v of its least and greatest corner
     * @param  float  $reference  px a unit that densities are held against
     * @param  list<array{size: int, breaks: list<string>, gap: float|null}>  $sizes  what of the layout breaks at a map size; the least gap there in px
     * @param  list<string>  $secondSets  low parts with more than one set of UVs
     * @param  list<array{page: string, ships: bool, outline: list<float>}>  $pose  UV triangles that only the low that ships, or only the one that is baked, has
     * @param  array{overlap: float, density: float, stretch: float}  $limits  in force for `uv-overlap`, `texel-density` and `uv-stretch`
     */
    private function __construct(
        public int $mapSize,
        public float $padding,
        public float $reference,
        public array $parts,
        public array $pages,
        public array $islands,
        public array $sizes,
        public array $secondSets,
        public array $pose,
        public array $limits,
    ) {
    }

    /**
     * @param  bool  $whole  false: without what only rays tell, for whoever draws the pages alone
     */
    public static function of(Measures $measures, bool $whole = true): self
    {
        $standard = $measures->asset->standard;
        $parts = UvParts::low($measures);
        $layout = $measures->ofAsset(PageLayout::class);
        $sights = $measures->ofAsset(Sights::class);
        $exempt = PageLayout::exempt($measures);
        $numbers = $islands = $first = $counts = [];
        /** @var list<array{name: string, islands: int, use: float, overlap: float, regions: list<list<float>>, gaps: list<array{one: int, two: int, px: float, ends: array{float, float, float, float}}>}> $pages */
        $pages = [];
        foreach ($parts as $number => $part) {
            $facts = $measures->ofPart(IslandFacts::class, $part);
            $first[] = count($islands);
            $overlapping = array_flip($layout->overlapping[$number] ?? []);
            for ($i = 0, $n = $facts->count(); $i < $n; $i++) {
                [$u, $v] = $facts->tile($i);
                $name = UvParts::page($standard, $facts->page[$i], $u, $v);
                if (! isset($numbers[$name])) {
                    $numbers[$name] = count($pages);
                    $pages[] = ['name' => $name, 'islands' => 0, 'use' => 0.0, 'overlap' => 0.0, 'regions' => [], 'gaps' => []];
                }
                $counts[$numbers[$name]] = ($counts[$numbers[$name]] ?? 0) + 1;
                $gap = $layout->nearest[$number][$i] ?? null;
                $islands[] = [
                    'part' => $number, 'page' => $numbers[$name], 'key' => $facts->key($i), 'triangles' => $facts->triangles[$i], 'density' => $facts->density($i, $standard->mapSize),
                    'stretch' => $facts->stretch[$i], 'gap' => $gap === null ? null : $gap * $standard->mapSize, 'seen' => $sights[$number]['seen'][$i] ?? 1.0, 'turned' => $facts->turned[$i],
                    'mirrored' => $facts->mirrored[$i], 'meant' => $exempt[$number] === true || isset($exempt[$number][$i]), 'overlaps' => isset($overlapping[$i]),
                    'box' => [$facts->minU[$i], $facts->minV[$i], $facts->maxU[$i], $facts->maxV[$i]],
                ];
            }
        }
        foreach ($counts as $page => $count) {
            $pages[$page] = [...$pages[$page], 'islands' => $count];
        }
        foreach ($layout->tiles as $tile) {
            $page = $numbers[UvParts::page($standard, $tile['page'], $tile['u'], $tile['v'])] ?? null;
            if ($page === null) {
                continue;
            }
            $one = $pages[$page];
            $gaps = $one['gaps'];
            foreach ($tile['gaps'] as $gap) {
                $gaps[] = ['one' => $first[$gap['one'][0]] + $gap['one'][1], 'two' => $first[$gap['two'][0]] + $gap['two'][1], 'px' => $gap['gap'] * $standard->mapSize, 'ends' => $gap['ends']];
            }
            $pages[$page] = [...$one, 'use' => max($one['use'], $tile['covered']), 'overlap' => max($one['overlap'], $tile['overlap']), 'regions' => [...$one['regions'], ...$tile['regions']], 'gaps' => $gaps];
        }
        $twice = array_values(array_filter($parts, static fn (RoledPart $part): bool => $part->part->facts->uvSets > 1));

        return new self(
            $standard->mapSize, $standard->padding(), UvParts::reference($measures), array_map(static fn (RoledPart $part): string => $part->part->name, $parts), array_values($pages), $islands,
            $whole ? self::sizes($measures, $layout->nearest) : [], array_map(static fn (RoledPart $part): string => $part->part->name, $twice),
            ! $whole || $measures->asset->judged(Role::Pose) === [] ? [] : $measures->ofAsset(PoseUvs::class)->outlines,
            ['overlap' => self::limit($measures, 'uv-overlap'), 'density' => self::limit($measures, 'texel-density'), 'stretch' => self::limit($measures, 'uv-stretch')],
        );
    }

    private static function limit(Measures $measures, string $code): float
    {
        return Catalogue::about()[$code]->limitBy($measures->asset->standard);
    }

    /**
     * @param  list<array<int, float>>  $nearest
     * @return list<array{size: int, breaks: list<string>, gap: float|null}>
     */
    private static function sizes(Measures $measures, array $nearest): array
    {
        $standard = $measures->asset->standard;
        $least = INF;
        foreach ($nearest as $ofPart) {
            $least = min($least, ...array_values($ofPart), ...[INF]);
        }
        $coarse = [];
        $limit = self::limit($measures, 'texel-coarse');
        foreach ($measures->clearances() as $clearance) {
            $set = $measures->set($clearance->name);
            foreach ($set === null ? [] : $measures->ofSet(FineDetails::class, $set)['shares'] ?? [] as $size => $share) {
                if ($share > $limit) {
                    $coarse[$size][] = [$share, $clearance->name];
                }
            }
        }
        $out = [];
        foreach (CoarseDetails::SIZES as $size) {
            $breaks = [];
            // A padding that is given in px stays; the usual one goes with the map.
            $wanted = $standard->limit('uv-padding', $size / 256);
            if ($least * $size < $wanted - 1e-9) {
                $breaks[] = 'the least gap is '.Words::pixels($least * $size).' of '.Words::pixels($wanted);
            }
            $density = $standard->texelDensity;
            $reached = $density === null ? 0.0 : UvParts::usual($measures) * $size / $standard->mapSize;
            if ($density !== null && $reached < $density * (1 - self::limit($measures, 'texel-density'))) {
                $breaks[] = 'density is '.Words::pixels($reached).'/unit of '.Words::pixels($density);
            }
            if (isset($coarse[$size])) {
                rsort($coarse[$size]);
                $breaks[] = 'details of '.$coarse[$size][0][1].(count($coarse[$size]) > 1 ? ' and '.(count($coarse[$size]) - 1).' more' : '').' are narrower than 2 px on '.Words::percent($coarse[$size][0][0]);
            }
            $out[] = ['size' => $size, 'breaks' => $breaks, 'gap' => $least < UvGaps::FAR ? $least * $size : null];
        }

        return $out;
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        return [
            'mapSize' => $this->mapSize, 'padding' => $this->padding, 'reference' => $this->reference, 'parts' => $this->parts, 'pages' => $this->pages, 'islands' => $this->islands,
            'sizes' => $this->sizes, 'secondSets' => $this->secondSets, 'pose' => $this->pose, 'limits' => $this->limits,
        ];
    }
}
