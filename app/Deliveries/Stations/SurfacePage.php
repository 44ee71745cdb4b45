<?php

declare(strict_types=1);

namespace App\Deliveries\Stations;

use App\Deliveries\DisplayFile;
use App\Deliveries\Store;
use App\Http\Data\SurfaceData;
use App\Http\Data\UvGapData;
use App\Http\Data\UvIslandData;
use App\Http\Data\UvLimitsData;
use App\Http\Data\UvPageData;
use App\Http\Data\UvPoseData;
use App\Http\Data\UvSheetData;
use App\Http\Data\UvSizeData;
use App\Models\Delivery;
use App\Models\State\DeliveryState;

/**
 * The UV pages of a delivery, as they were measured when it was judged.
 */
final class SurfacePage
{
    public static function of(Delivery $delivery): SurfaceData
    {
        $text = $delivery->state === DeliveryState::Done ? Store::get(DisplayFile::sheetPath($delivery)) : null;
        /** @var array{mapSize: int, padding: float, reference: float, parts: list<string>, pages: list<array{name: string, islands: int, use: float, overlap: float, regions: list<list<float>>, gaps: list<array{one: int, two: int, px: float, ends: list<float>}>}>, islands: list<array{part: int, page: int, key: string, triangles: int, density: float, stretch: float, gap: float|null, seen: float, turned: float|null, mirrored: bool, meant: bool, overlaps: bool, box: list<float>}>, sizes: list<array{size: int, breaks: list<string>, gap: float|null}>, secondSets: list<string>, pose: list<array{page: string, ships: bool, outline: list<float>}>, limits: array{overlap: float, density: float, stretch: float}}|null $sheet */
        $sheet = $text === null ? null : json_decode($text, true, flags: JSON_THROW_ON_ERROR);

        return new SurfaceData($sheet === null ? null : new UvSheetData(
            $sheet['mapSize'], $sheet['padding'], $sheet['reference'], $sheet['parts'],
            array_map(static fn (array $page): UvPageData => new UvPageData($page['name'], $page['islands'], $page['use'], $page['overlap'], $page['regions'], array_map(static fn (array $gap): UvGapData => new UvGapData(...$gap), $page['gaps'])), $sheet['pages']),
            array_map(static fn (array $island): UvIslandData => new UvIslandData(...$island), $sheet['islands']), array_map(static fn (array $size): UvSizeData => new UvSizeData(...$size), $sheet['sizes']),
            $sheet['secondSets'], array_map(static fn (array $one): UvPoseData => new UvPoseData(...$one), $sheet['pose']),
            new UvLimitsData(...$sheet['limits']),
        ), $delivery->asset->decided()->mirrored);
    }
}
