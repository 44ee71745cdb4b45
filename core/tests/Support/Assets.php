<?php

declare(strict_types=1);

namespace Anvil\Tests\Support;

use Anvil\Asset\GivenMap;
use Anvil\Asset\LastDelivery;
use Anvil\Asset\ReadFile;
use Anvil\Checks\Catalogue;
use Anvil\Checks\Finding;
use Anvil\Checks\Runner;
use Anvil\Checks\Station;
use Anvil\Explode\Assembled;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Geometry\Scene;
use Anvil\Measures\Measures;
use Anvil\Measures\Plan;
use Anvil\Modelling\Polygons;
use Anvil\Report\Report;
use Anvil\Standard\Choices;
use Anvil\Standard\RaySettings;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;
use Anvil\Standard\Waiver;

/**
 * Assets put together in memory, and what the checks say of them. Nothing is written to disk.
 */
final class Assets
{
    public const RAYS = 4096;

    /**
     * @param  array<string, Polygons|Mesh>  $low  part name → shape
     * @param  array<string, Polygons|Mesh>  $high
     * @param  list<Waiver>  $waivers
     */
    public static function report(array $low, array $high, string $standard = '{}', string $choices = '{}', array $waivers = [], int $rays = self::RAYS): Report
    {
        return self::reportOf([self::file('x_low.obj', $low), self::file('x_high.obj', $high)], $standard, $choices, $waivers, $rays);
    }

    /**
     * @param  list<ReadFile>  $files
     * @param  list<Waiver>  $waivers
     * @param  list<GivenMap>  $maps
     * @param  LastDelivery|null  $last  what was handed in before
     */
    public static function reportOf(array $files, string $standard = '{}', string $choices = '{}', array $waivers = [], int $rays = self::RAYS, ?Assembled $assembled = null, array $maps = [], ?LastDelivery $last = null): Report
    {
        $rules = Standard::ofJson($standard);
        $own = $rules->rays;
        $rules = $rules->withRays(new RaySettings($own->smooth, $own->cageLength, $own->backFaces, $rays, $own->setsKeptApart));
        $measures = Measures::of($files, $rules, Choices::ofJson($choices), $maps)->since($last);
        $measures = SharedMeasures::of($assembled === null ? $measures : $measures->exploded($assembled));
        Plan::of($measures, Runner::measures($measures))->run($measures);

        return new Report($measures, Runner::run($measures, $waivers), ['read' => 0.0, 'pair' => 0.0, 'check' => 0.0, 'total' => 0.0], [], $waivers);
    }

    /**
     * @param  array<string, Polygons|Mesh|Part>  $parts
     */
    public static function file(string $path, array $parts, ?Role $role = null): ReadFile
    {
        $all = [];
        foreach ($parts as $name => $shape) {
            $all[] = $shape instanceof Part ? $shape : new Part((string) $name, self::worn($shape instanceof Mesh ? $shape : $shape->mesh()));
        }

        return new ReadFile($path, $role, hash('sha256', $path), new Scene('obj', $all), null);
    }

    /** A mesh with a material, as exporters write them. */
    public static function worn(Mesh $mesh): Mesh
    {
        return $mesh->materials !== [] ? $mesh : new Mesh($mesh->positions, $mesh->triangles, $mesh->uvs, $mesh->triUvs, $mesh->normals, $mesh->triNormals, $mesh->colors, $mesh->faces, ['plain'], [[0, 0]], $mesh->smoothing);
    }

    /**
     * @return list<string> `code severity`, in the report's order
     */
    public static function codes(Report $report): array
    {
        return array_map(static fn (Finding $finding): string => "$finding->code {$finding->severity->value}", $report->findings());
    }

    /**
     * The same without what is found on the UVs of shapes that are there to show something else, and without what is left to paint, which follows from the rest.
     *
     * @return list<string>
     */
    public static function codesBesideSurface(Report $report): array
    {
        return array_values(array_filter(self::codes($report), static fn (string $one): bool => ! in_array(Catalogue::about()[explode(' ', $one)[0]]->station, [Station::Surface, Station::Proof], true)));
    }

    public static function finding(Report $report, string $code): ?Finding
    {
        foreach ($report->findings() as $finding) {
            if ($finding->code === $code) {
                return $finding;
            }
        }

        return null;
    }

    public static function state(Report $report, string $code): ?string
    {
        foreach ($report->results as $result) {
            if ($result->about->code === $code) {
                return $result->state;
            }
        }

        return null;
    }
}
