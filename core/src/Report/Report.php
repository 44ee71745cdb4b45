<?php

declare(strict_types=1);

namespace Anvil\Report;

use Anvil\Asset\ReadFile;
use Anvil\Checks\Cause;
use Anvil\Checks\CheckResult;
use Anvil\Checks\Finding;
use Anvil\Clearance\SetClearance;
use Anvil\Geometry\MeshContents;
use Anvil\Measures\Kind\Contents;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measures;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\Suggestion;
use Anvil\Parallel\Forks;
use Anvil\Sets\BakeSet;
use Anvil\Standard\Severity;
use Anvil\Standard\Waiver;

/**
 * What `anvil:inspect` prints (CLI.md).
 */
final readonly class Report
{
    /**
     * @param  list<CheckResult>  $results
     * @param  array{read: float, pair: float, check: float, total: float}  $seconds
     * @param  array<string, array{float, float, float}>  $vectors  explode vector of each set that moves
     * @param  list<Waiver>  $waivers  that were applied
     */
    public function __construct(
        public Measures $measures,
        public array $results,
        public array $seconds,
        public array $vectors = [],
        public array $waivers = [],
    ) {
    }

    /**
     * @return list<Finding>
     */
    public function findings(): array
    {
        return array_merge(...array_map(static fn (CheckResult $result): array => $result->findings, $this->results));
    }

    /**
     * @return list<Cause>
     */
    public function causes(): array
    {
        return Cause::of($this->findings());
    }

    public function isReady(): bool
    {
        foreach ($this->results as $result) {
            if ($result->blocks($this->measures->asset->standard)) {
                return false;
            }
        }

        return true;
    }

    /**
     * The reach that every set shares.
     *
     * @return array{out: array{float, float|null}|null, in: array{float, float|null}|null}
     */
    public function common(): array
    {
        $out = ['out' => null, 'in' => null];
        // A set of which all was left out has told nothing.
        $clearances = array_filter($this->measures->has(Rays::class) ? $this->measures->clearances() : [], static fn (SetClearance $one): bool => $one->samples > 0);
        foreach (['out', 'in'] as $side) {
            $from = 0.0;
            $to = null;
            foreach ($clearances as $clearance) {
                $from = max($from, $clearance->needed->{$side});
                $wrong = $clearance->firstWrong[$side];
                $to = $wrong === null ? $to : min($to ?? INF, $wrong);
            }
            if ($clearances !== [] && ($to === null || $from < $to)) {
                $out[$side] = [$from, $to];
            }
        }

        return $out;
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        $measures = $this->measures;
        $contents = array_map(static fn (RoledPart $part): MeshContents => $measures->ofPart(Contents::class, $part), $measures->asset->parts);
        $vertices = [];
        foreach ($measures->asset->parts as $i => $part) {
            $vertices[$part->file] = ($vertices[$part->file] ?? 0) + $contents[$i]->vertices;
        }

        return [
            'tool' => 'yellow-anvil',
            'schema' => 1,
            'verdict' => $this->isReady() ? 'ready' : 'blocked',
            'files' => array_map(static fn (ReadFile $file, int $i): array => [
                'path' => $file->path,
                'role' => ($file->role ?? RoledPart::roleOfFile($file->path, $measures->asset->standard))?->value,
                'format' => $file->scene->format ?? strtolower(pathinfo($file->path, PATHINFO_EXTENSION)),
                'sha256' => $file->sha256,
                'unit' => $file->scene?->unit,
                'upAxis' => $file->scene?->upAxis,
                'parts' => count($file->scene->parts ?? []),
                'triangles' => $file->scene?->triangleCount() ?? 0,
                'vertices' => $vertices[$i] ?? 0,
                'materials' => $file->materials(),
                'bounds' => $file->bounds()?->toArray(),
            ], $measures->asset->files, array_keys($measures->asset->files)),
            'parts' => array_map(static fn (RoledPart $part, MeshContents $contents): array => [
                'file' => $part->path,
                'name' => $part->part->name,
                'role' => $part->role?->value,
                'base' => $part->base,
                'triangles' => $contents->triangles,
                'vertices' => $contents->vertices,
                'bounds' => $part->part->bounds()?->toArray(),
                'materials' => $contents->materials,
                'uvSets' => $contents->hasUvs ? 1 : 0,
                'hasNormals' => $contents->hasAllNormals,
            ], $measures->asset->parts, $contents),
            'sets' => array_map(fn (BakeSet $set): array => $this->set($set), $measures->asset->sets),
            'common' => $this->common(),
            'suggestions' => array_map(static fn (Suggestion $suggestion): array => [
                'part' => $suggestion->part->part->name,
                'file' => $suggestion->part->path,
                'rename' => $suggestion->rename,
                'reason' => $suggestion->reason,
                'confidence' => $suggestion->confidence,
            ], $measures->asset->pairing->suggestions),
            'findings' => array_map(static fn (Finding $finding): array => $finding->toArray(), $this->findings()),
            'causes' => array_map(static fn (Cause $cause): array => ['code' => $cause->code, 'severity' => $cause->severity->value, 'message' => $cause->message, 'remedy' => $cause->remedy, 'findings' => $cause->findings], $this->causes()),
            'checks' => array_map(static fn (CheckResult $result): array => $result->toArray(), $this->results),
            'seconds' => array_map(static fn (float $seconds): float => round($seconds, 4), $this->seconds),
            'peakMemoryBytes' => memory_get_peak_usage(true) + Forks::$beside,
        ];
    }

    /** How many causes of a severity are open. */
    public function count(Severity $severity): int
    {
        return Cause::count($this->causes(), $severity);
    }

    /**
     * @return array<string, mixed>
     */
    private function set(BakeSet $set): array
    {
        $clearance = $this->measures->has(Rays::class) ? $this->measures->clearanceOf($set) : null;
        $none = ['out' => null, 'in' => null];
        $judged = $clearance !== null && $clearance->samples > 0 ? $clearance : null;

        return [
            'name' => $set->name,
            'low' => RoledPart::names($set->low),
            'high' => RoledPart::names($set->high),
            'id' => RoledPart::names($set->id),
            'cage' => RoledPart::names($set->cage),
            'reach' => $clearance?->set?->toArray(),
            'needed' => $judged?->needed->toArray() ?? $none,
            'firstWrong' => $judged->firstWrong ?? $none,
            'recommended' => $judged?->recommended->toArray() ?? $none,
            'explode' => $this->vectors[$set->name] ?? [0.0, 0.0, 0.0],
        ];
    }
}
