<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Asset\Asset;
use Anvil\Place\QuarterTurn;
use Anvil\Rays\SetSurfaces;
use Anvil\Rays\Visibility;
use Anvil\Sets\BakeSet;
use Anvil\Standard\Reach;
use Anvil\Standard\Role;

/**
 * Whether everything as one set, whatever the names, would bake clean at one distance (METHODS, "One and one").
 */
final readonly class WholeBake
{
    /** Enough that 0.05 % of the area is several rays. */
    private const SAMPLES = 16_384;

    private const MISSES = 0.0005;

    /** At least 64 rays a part are shot; of more parts than this nobody bakes without names. */
    private const MOST_PARTS = 512;

    /**
     * @param  Reach  $reach  the recommended one
     */
    private function __construct(public Reach $reach, public bool $isClean, public int $samples)
    {
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        return ['reach' => $this->reach->toArray(), 'isClean' => $this->isClean, 'samples' => $this->samples];
    }

    /**
     * @param  array<mixed>  $stored  of `toArray`
     */
    public static function ofArray(array $stored): self
    {
        /** @var array{reach: array{out: float, in: float}, isClean: bool, samples: int} $stored */
        return new self(new Reach($stored['reach']['out'], $stored['reach']['in']), $stored['isClean'], $stored['samples']);
    }

    /** Null where the question does not arise: it is whole already, there is one set only, or a side is missing or lies elsewhere. */
    public static function of(Asset $asset, ?QuarterTurn $turn): ?self
    {
        $low = $asset->judged(Role::Low);
        $high = $asset->judged(Role::High);
        if ($asset->standard->whole || $low === [] || $high === [] || count($low) + count($high) < 3 || count($low) > self::MOST_PARTS || $asset->differsInSize() || $turn !== null) {
            return null;
        }
        $standard = $asset->standard->asWhole();
        $surfaces = SetSurfaces::of(new BakeSet('whole', $low, $high, [], [], false), $standard->rays->smooth);
        $measured = ClearanceMeasure::of($surfaces, [], Visibility::assembled([$surfaces]), $standard, self::SAMPLES);
        $opens = static fn (float $needed, ?float $wrong): bool => $wrong === null || $needed < $wrong;

        return $measured->samples === 0 ? null : new self(
            $measured->recommended,
            $measured->missShare <= self::MISSES && $opens($measured->needed->out, $measured->firstWrong['out']) && $opens($measured->needed->in, $measured->firstWrong['in']),
            $measured->samples,
        );
    }
}
