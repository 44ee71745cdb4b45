<?php

declare(strict_types=1);

namespace App\Models;

use App\Models\State\DeliveryState;
use App\Models\State\Step;
use Database\Factories\DeliveryFactory;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Factories\HasFactory;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Carbon;

/**
 * One set of files handed in for an asset; its files never change afterwards.
 *
 * @property int $id
 * @property int $asset_id
 * @property int $number
 * @property string|null $judged_of hash of the files, choices, standard and maps that it was judged of
 * @property int|null $derived_from
 * @property int|null $exploded_from the delivery of the asset that this one is an exploded layout of
 * @property int|null $compared_to the delivery that what changed is told against
 * @property string|null $made_by_words why a derived one was made
 * @property array{files: array<int, array{names: array<string, string>, moves: array<string, array{float|int, float|int, float|int}>, placed: list<float|int>|null}>, exploded: bool, ids?: array{onto: string, as: string}, sheet?: int}|null $changes what a derived one changes in each mesh file of the other, and whether a layout that was exploded still is
 * @property DeliveryState $state
 * @property string|null $error
 * @property string|null $verdict ready, blocked, or waiting for its other side
 * @property int $blockers
 * @property int $cautions
 * @property int $notes
 * @property array<string, mixed>|null $report
 * @property array{run: int, state: string, parts: int, sets: int, low: int, high: int, stations: list<array{key: string, title: string, state: string, blockers: int, cautions: int, notes: int, subjects?: int, reason: string|null}>}|null $summary what the rack shows of it
 * @property string|null $core_version
 * @property int|null $standard_version
 * @property Step|null $step while it goes on
 * @property int $wave of its plan, while it is measured
 * @property int $judged how often its findings were written
 * @property string|null $waits_for high or low: the side that is still to be handed in
 * @property int $run how often it was begun; a job of an earlier run does nothing
 * @property string $handed_in_by
 * @property Carbon|null $checked_at
 * @property Carbon $created_at
 * @property Carbon $updated_at
 * @property Asset $asset
 * @property Collection<int, File> $files
 * @property Collection<int, Part> $parts
 * @property Collection<int, BakeSet> $sets
 * @property Collection<int, Finding> $findings
 * @property Collection<int, Output> $outputs
 * @property Collection<int, Package> $packages
 */
final class Delivery extends Model
{
    /** @use HasFactory<DeliveryFactory> */
    use HasFactory;

    protected $guarded = [];

    /** Whether it was there before it was asked for: it has just the files that came, or what was asked to be written. Not kept. */
    public bool $wasKnown = false;

    /**
     * @return array<string, string>
     */
    protected function casts(): array
    {
        return ['state' => DeliveryState::class, 'step' => Step::class, 'changes' => 'array', 'report' => 'array', 'summary' => 'array', 'checked_at' => 'datetime'];
    }

    /**
     * @return BelongsTo<Asset, $this>
     */
    public function asset(): BelongsTo
    {
        return $this->belongsTo(Asset::class);
    }

    /**
     * @return HasMany<File, $this>
     */
    public function files(): HasMany
    {
        return $this->hasMany(File::class)->orderBy('position');
    }

    /**
     * @return HasMany<Part, $this>
     */
    public function parts(): HasMany
    {
        return $this->hasMany(Part::class)->orderBy('id');
    }

    /**
     * @return HasMany<BakeSet, $this>
     */
    public function sets(): HasMany
    {
        return $this->hasMany(BakeSet::class)->orderBy('name');
    }

    /**
     * @return HasMany<Finding, $this>
     */
    public function findings(): HasMany
    {
        return $this->hasMany(Finding::class)->orderBy('position');
    }

    /**
     * @return HasMany<Output, $this>
     */
    public function outputs(): HasMany
    {
        return $this->hasMany(Output::class)->orderBy('id');
    }

    /**
     * @return HasMany<Package, $this>
     */
    public function packages(): HasMany
    {
        return $this->hasMany(Package::class)->orderBy('id');
    }

    /**
     * @return HasMany<Task, $this>
     */
    public function tasks(): HasMany
    {
        return $this->hasMany(Task::class)->orderBy('id');
    }

    public function isOver(): bool
    {
        return $this->state->isOver();
    }

    /** Where its files and what is made of them are kept, under the storage disk. */
    public function folder(): string
    {
        return "assets/$this->asset_id/$this->number";
    }
}
