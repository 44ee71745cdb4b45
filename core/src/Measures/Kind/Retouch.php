<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Clearance\SetClearance;
use Anvil\Measures\Measures;
use Anvil\Measures\RayedMeasure;
use Anvil\Measures\Subject;
use Anvil\Pairing\RoledPart;
use Anvil\Place\Facing;
use Anvil\Place\FacingMask;
use Anvil\Proof\ProofPage;
use Anvil\Proof\RetouchTexels;
use Anvil\Proof\TexelRays;
use Anvil\Proof\TrialBake;
use Anvil\Rays\Visibility;
use Anvil\Sets\BakeSet;

/**
 * Texels of a set, page by page, whose rays miss or go wrong at the map size.
 *
 * @extends RayedMeasure<array<int, array{runs: list<array{int, int, int, int}>, seen: int, where: array<int, array{float, float, float}>}>>
 */
final class Retouch extends RayedMeasure
{
    public function name(): string
    {
        return 'retouch';
    }

    public function revision(): int
    {
        return 5;
    }

    public function words(Subject $subject): string
    {
        return "counting texels of $subject->key to paint by hand";
    }

    public function reads(): array
    {
        return [Rays::class, Seen::class];
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        $set = $subject->ofSet();
        $out = [...parent::meshes($measures, $subject), ...$set->cage, ...(new Seen)->meshes($measures, $subject), ...(new Pages)->meshes($measures, $subject)];
        foreach (self::others($measures, $set) as $other) {
            array_push($out, ...$other->target());
        }

        return $out;
    }

    /**
     * Sets whose high poly stands in the way.
     *
     * @return list<BakeSet>
     */
    private static function others(Measures $measures, BakeSet $set): array
    {
        return $measures->asset->standard->rays->setsKeptApart ? [] : array_values(array_filter($measures->asset->sets, static fn (BakeSet $other): bool => $other->name !== $set->name));
    }

    protected function depends(Measures $measures, SetClearance $rays): mixed
    {
        $set = $measures->set($rays->name);

        return [
            $rays->inUse(), self::isClean($rays), $rays->isMasked(), $measures->asset->standard->mapSize, $measures->asset->standard->udim, $measures->asset->standard->rays,
            $set === null ? [] : array_keys($measures->common()->cardsOf($set)), $set === null ? '' : $measures->ofSet(Seen::class, $set), $set === null ? [] : Measures::hashes($set->cage),
            Measures::hashes((new Pages)->meshes($measures, Subject::asset())), array_map(static fn (BakeSet $other): array => Measures::hashes($other->target()), $set === null ? [] : self::others($measures, $set)),
        ];
    }

    /** Whether its rays told of no miss and no wrong hit: then a coarser grid looks for what they did not see. */
    private static function isClean(SetClearance $rays): bool
    {
        return array_sum($rays->details->missesByPart) + $rays->details->unseenMisses + $rays->details->wrongShare + $rays->missShare === 0.0;
    }

    protected function measure(Measures $measures, Subject $subject, SetClearance $rays): array
    {
        $set = $subject->ofSet();
        $texelRays = (new TrialBake($measures->common()->trialInputsOf($set)))->raysOf($set, self::shots($rays));
        if (! $texelRays instanceof TexelRays) {
            return [];
        }
        $visibility = $measures->common()->isAllSeen($set) ? null : new Visibility($measures->common()->assembledLow()[0]);
        $mask = $rays->isMasked() ? new FacingMask(Facing::of($texelRays->set), $texelRays->set->high(), $texelRays->d) : null;
        $out = [];
        foreach ($measures->common()->pages() as $number => $page) {
            if (self::isOn($set, $page)) {
                $out[$number] = RetouchTexels::of($texelRays, $page, $set, $measures->common()->owners($number), $measures->asset->standard->rays->count, self::isClean($rays), $visibility, $mask, $measures->common()->cardsOf($set));
            }
        }

        return $out;
    }

    private static function shots(SetClearance $rays): int
    {
        return self::isClean($rays) ? 40_000 : 160_000;
    }

    private static function isOn(BakeSet $set, ProofPage $page): bool
    {
        return array_filter($set->low, static fn (RoledPart $part): bool => in_array($part, $page->parts, true)) !== [];
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): ?array
    {
        return $result;
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): ?array
    {
        /** @var array<int, array{runs: list<array{int, int, int, int}>, seen: int, where: array<int, array{float, float, float}>}>|null */
        return $stored;
    }
}
