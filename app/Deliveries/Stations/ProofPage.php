<?php

declare(strict_types=1);

namespace App\Deliveries\Stations;

use App\Deliveries\DisplayFile;
use App\Deliveries\Store;
use App\Deliveries\StoredDelivery;
use App\Deliveries\Trial;
use App\Http\Data\ProofAreaData;
use App\Http\Data\ProofData;
use App\Http\Data\ProofPageData;
use App\Http\Data\ReturnedMapData;
use App\Http\Data\TrialData;
use App\Models\Delivery;
use App\Models\File;
use App\Models\Output;
use App\Models\State\DeliveryState;
use App\Models\State\MakingState;

/**
 * The trial maps of a delivery, what is left to paint, and the maps that came back.
 */
final class ProofPage
{
    public static function of(Delivery $delivery): ProofData
    {
        $rules = $delivery->asset->rules();
        [$pages, $judged] = self::stored($delivery);
        $before = $delivery->asset->deliveries()->where('number', '<', $delivery->number)->where('state', DeliveryState::Done)->latest('number')->first();
        $caged = [];
        foreach ((new StoredDelivery($delivery))->alone()->asset->sets as $set) {
            if ($set->cage !== []) {
                $caged[] = $set->name;
            }
        }

        return new ProofData($rules->mapSize, $rules->greenChannel === '-Y' ? '-Y' : '+Y', $pages, self::trials($delivery), $before === null ? [] : self::trials($before), $before?->id, $before?->number, self::maps($delivery, $judged), $caged);
    }

    /**
     * @return list<string> names of the pages, once they are measured
     */
    public static function pages(Delivery $delivery): array
    {
        return array_map(static fn (ProofPageData $page): string => $page->name, self::stored($delivery)[0]);
    }

    /**
     * @return array{list<ProofPageData>, list<array<string, mixed>>} pages; what was found of each map
     */
    private static function stored(Delivery $delivery): array
    {
        $text = $delivery->state === DeliveryState::Done ? Store::get(DisplayFile::proofPath($delivery, 'proof.json')) : null;
        if ($text === null) {
            return [[], []];
        }
        /** @var array{pages: list<array{name: string, file: string, inside: int, texels: int, share: float|int, sets: list<string>, areas: list<array{kind: string, set: string, texels: int, x: int, y: int, where: list<float>}>}>, maps: list<array<string, mixed>>} $stored */
        $stored = json_decode($text, true, flags: JSON_THROW_ON_ERROR);
        $pages = array_map(static fn (array $page): ProofPageData => new ProofPageData(
            $page['name'], $page['file'], $page['inside'], $page['texels'], (float) $page['share'], $page['sets'],
            array_map(static fn (array $area): ProofAreaData => new ProofAreaData($area['kind'], $area['set'], $area['texels'], $area['x'], $area['y'], $area['where']), $page['areas']),
        ), $stored['pages']);

        return [$pages, $stored['maps']];
    }

    /**
     * @return list<TrialData>
     */
    private static function trials(Delivery $delivery): array
    {
        $rows = $delivery->outputs()->where('kind', Trial::KIND)->orderBy('id')->get();

        return array_values($rows->filter(static fn (Output $output): bool => Trial::isNew($delivery, $output))->map(static function (Output $output): TrialData {
            $asked = Trial::asked($output);
            /** @var array{done?: float|int, inside?: int, missShare?: float|int, wrongShare?: float|int, notShot?: array<string, string>, hasRays?: bool} $detail */
            $detail = $output->detail ?? [];
            $notShot = [];
            foreach ($detail['notShot'] ?? [] as $set => $reason) {
                $notShot[] = "$set: $reason";
            }

            return new TrialData(
                $output->id, $asked['page'], $asked['pass'], $asked['size'], $asked['samples'], $asked['through'], $asked['exploded'], $output->state, $output->error,
                $output->state === MakingState::Done ? 1.0 : (float) ($detail['done'] ?? 0.0), $detail['inside'] ?? 0, (float) ($detail['missShare'] ?? 0.0), (float) ($detail['wrongShare'] ?? 0.0), $notShot, $detail['hasRays'] ?? false,
            );
        })->all());
    }

    /**
     * @param  list<array<string, mixed>>  $judged
     * @return list<ReturnedMapData>
     */
    private static function maps(Delivery $delivery, array $judged): array
    {
        $out = [];
        foreach ((new StoredDelivery($delivery))->maps() as $number => $map) {
            $file = array_values($delivery->files->where('kind', 'map')->all())[$number];
            /** @var array{sha256: string, kind: string|null, page: string|null, error: array{message: string}|null, header: array{width: int, height: int, bits: int, tag: string|null}|null, median: float|int|null, turn: string, greenInverted: bool, srgb: bool, differsShare: float|int, size: int}|null $found */
            $found = ($judged[$number]['sha256'] ?? null) === $map->sha256 ? $judged[$number] : null;
            $out[] = self::map($delivery, $file, $found === null ? -1 : $number, $map->kind, $map->page, $found);
        }

        return $out;
    }

    /**
     * @param  array{kind: string|null, page: string|null, error: array{message: string}|null, header: array{width: int, height: int, bits: int, tag: string|null}|null, median: float|int|null, turn: string, greenInverted: bool, srgb: bool, differsShare: float|int, size: int}|null  $found
     */
    private static function map(Delivery $delivery, File $file, int $number, ?string $kind, ?string $page, ?array $found): ReturnedMapData
    {
        $header = $found['header'] ?? null;
        $codes = $delivery->findings->filter(static fn ($finding): bool => str_starts_with($finding->code, 'map-') && ($finding->subject['file'] ?? null) === $file->name)->pluck('code')->unique()->values()->all();

        return new ReturnedMapData(
            $file->id, $number, $file->name, $kind, $found['page'] ?? $page, $header['width'] ?? null, $header['height'] ?? null, $header['bits'] ?? null, $header['tag'] ?? null,
            $found['error']['message'] ?? null, isset($found['median']) ? (float) $found['median'] : null, $found['turn'] ?? 'as-is', $found['greenInverted'] ?? false, $found['srgb'] ?? false, (float) ($found['differsShare'] ?? 0.0),
            array_values(array_filter($codes, is_string(...))), $found['size'] ?? 0,
        );
    }
}
