<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Pairing\NameReading;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;
use App\Http\Data\StationData;
use App\Models\Delivery;
use App\Models\State\DeliveryState;

/**
 * What the rack shows of a delivery: counts and the state of each station. Kept with a delivery once it is over, so that a rack of a thousand
 * assets is read without their parts and findings.
 */
final readonly class RackRow
{
    /**
     * @param  list<StationData>  $stations
     */
    private function __construct(public int $parts, public int $sets, public int $low, public int $high, public array $stations)
    {
    }

    public static function of(Delivery $delivery, Standard $standard): self
    {
        $roles = [];
        foreach ($delivery->files as $file) {
            $roles[$file->id] = [$file->role, RoledPart::roleOfFile($file->name, $standard)?->value];
        }
        $triangles = [Role::Low->value => 0, Role::High->value => 0];
        foreach ($delivery->parts as $part) {
            [$chosen, $ofFile] = $roles[$part->file_id] ?? [null, null];
            $role = $chosen ?? NameReading::of($part->name, $standard)->role->value ?? $ofFile;
            if ($role !== null && isset($triangles[$role])) {
                $triangles[$role] += $part->triangles;
            }
        }

        return new self($delivery->parts->count(), $delivery->sets->count(), $triangles['low'], $triangles['high'], StationStates::of($delivery));
    }

    /** The row that was kept, where it is of this run and state. */
    public static function kept(Delivery $delivery): ?self
    {
        $kept = $delivery->summary;
        if ($kept === null || $kept['run'] !== $delivery->run || $kept['state'] !== $delivery->state->value || ! $delivery->isOver()) {
            return null;
        }

        return new self($kept['parts'], $kept['sets'], $kept['low'], $kept['high'], array_map(static fn (array $one): StationData => new StationData(...[...$one, 'subjects' => $one['subjects'] ?? 0]), $kept['stations']));
    }

    /**
     * @return array{run: int, state: string, parts: int, sets: int, low: int, high: int, stations: list<array{key: string, title: string, state: string, blockers: int, cautions: int, notes: int, subjects: int, reason: string|null}>}
     */
    public function toKeep(int $run, DeliveryState $state): array
    {
        return [
            'run' => $run, 'state' => $state->value, 'parts' => $this->parts, 'sets' => $this->sets, 'low' => $this->low, 'high' => $this->high,
            'stations' => array_map(static fn (StationData $one): array => ['key' => $one->key, 'title' => $one->title, 'state' => $one->state, 'blockers' => $one->blockers, 'cautions' => $one->cautions, 'notes' => $one->notes, 'subjects' => $one->subjects, 'reason' => $one->reason], $this->stations),
        ];
    }

    /**
     * The stations, with hand-off as it is now: sealing changes nothing else of a delivery.
     *
     * @return list<StationData>
     */
    public function stations(bool $isSealed): array
    {
        return array_map(static fn (StationData $one): StationData => $one->key === 'hand-off' && $isSealed && $one->state === 'waiting' ? new StationData($one->key, $one->title, 'clear', $one->blockers, $one->cautions, $one->notes, $one->subjects, null) : $one, $this->stations);
    }
}
