<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Asset\GivenFile;
use Anvil\ColorId\IdFileWriter;
use Anvil\ColorId\IdPlan;
use Anvil\ColorId\Legend;
use Anvil\Formats\Sink;
use Anvil\Measures\Measures;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;
use Anvil\Unreadable;
use App\Models\Delivery;

/**
 * How the IDs of an asset are written: as copies or onto the high poly, as materials or as vertex colors.
 */
final readonly class WrittenIds
{
    public function __construct(public bool $onto = false, public bool $asVertexColors = false)
    {
    }

    /**
     * @param  array<mixed>  $asked  `onto`, `as`
     */
    public static function of(array $asked): self
    {
        return new self(($asked['onto'] ?? null) === 'high', ($asked['as'] ?? null) === 'vertex-colors');
    }

    /**
     * @return array{onto: string, as: string}
     */
    public function toArray(): array
    {
        return ['onto' => $this->onto ? 'high' : 'copy', 'as' => $this->asVertexColors ? 'vertex-colors' : 'materials'];
    }

    /**
     * Numbers of the files that bear high parts.
     *
     * @return list<int>
     */
    public static function files(Measures $measures): array
    {
        return array_values(array_unique(array_map(static fn (RoledPart $part): int => $part->file, $measures->asset->judged(Role::High))));
    }

    /**
     * @param  list<GivenFile>  $given
     * @return array<string, mixed> the legend
     *
     * @throws Unreadable
     */
    public function write(Delivery $delivery, Measures $measures, array $given, Sink $sink, bool $withLegend): array
    {
        $plan = IdPlan::of($measures->asset, IdCut::sheetOf($delivery->asset));
        $writer = new IdFileWriter($measures->asset, $plan, $this->onto, $this->asVertexColors);
        foreach (self::files($measures) as $number) {
            $writer->write($number, $given[$number]->source, $sink);
        }
        $legend = Legend::ofPlan($plan, $measures->asset, $this->onto);
        if ($withLegend) {
            $legend->write($sink);
        }

        return $legend->toArray();
    }
}
