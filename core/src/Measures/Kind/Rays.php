<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Clearance\AssetClearance;
use Anvil\Clearance\ClearanceMeasure;
use Anvil\Clearance\NotMeasured;
use Anvil\Clearance\SetClearance;
use Anvil\Measures\Measures;
use Anvil\Measures\Renamable;
use Anvil\Measures\SetMeasure;
use Anvil\Measures\Subject;
use Anvil\Rays\SetSurfaces;
use Anvil\Sets\BakeSet;

/**
 * What the rays of a set meet: reaches, misses, wrong hits, bleeds, floating shells, leans. These are one measure, since all are read from one field of
 * hits, which takes longer to shoot than all of them to read, and is larger than all of them to keep.
 *
 * @extends SetMeasure<SetClearance|NotMeasured>
 */
final class Rays extends SetMeasure implements Renamable
{
    public function name(): string
    {
        return 'rays';
    }

    public function revision(): int
    {
        return 3;
    }

    public function words(Subject $subject): string
    {
        return "shooting rays of $subject->key";
    }

    public function reads(): array
    {
        return [Contents::class, Turn::class, Seen::class];
    }

    public function subjects(Measures $measures): array
    {
        return array_map(Subject::set(...), $measures->wholeSets());
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        $out = [...$subject->ofSet()->target(), ...(new Seen)->meshes($measures, $subject)];
        foreach (self::near($measures, $subject->ofSet()) as $other) {
            array_push($out, ...$other->target());
        }

        return $out;
    }

    public function inputs(Measures $measures, Subject $subject): array
    {
        $set = $subject->ofSet();
        $refusal = $measures->refusal($set);
        if ($refusal !== null) {
            return [$refusal];
        }
        $standard = $measures->asset->standard;

        return [
            $standard->rays, $standard->mapSize, $standard->rayLimits(), $standard->reach[$set->name] ?? null, $standard->reach['*'] ?? null, $measures->common()->samplesOf($set), $set->onItself, array_keys($measures->common()->cardsOf($set)),
            $measures->common()->isAllSeen($set), $measures->ofSet(Seen::class, $set), Measures::hashes($set->low), Measures::hashes($set->target()),
            array_map(static fn (BakeSet $other): array => Measures::hashes($other->target()), self::near($measures, $set)),
        ];
    }

    /**
     * The other sets whose high poly its rays may meet.
     *
     * @return list<BakeSet>
     */
    private static function near(Measures $measures, BakeSet $set): array
    {
        $low = $set->lowBounds();
        $reached = $low?->grown($low->diagonal());

        return array_values(array_filter($measures->asset->sets, static fn (BakeSet $other): bool => $other->name !== $set->name && $reached !== null
            && $measures->common()->boundsOfTarget($other)?->meets($reached) === true));
    }

    public function compute(Measures $measures, Subject $subject): SetClearance|NotMeasured
    {
        $set = $subject->ofSet();
        $refusal = $measures->refusal($set);
        if ($refusal !== null) {
            return new NotMeasured($refusal);
        }
        $surfaces = $measures->common()->surfaces();
        $others = array_values(array_filter($surfaces, static fn (SetSurfaces $other): bool => $other->name !== $set->name));
        $measured = ClearanceMeasure::of($surfaces[$set->name], $others, $measures->common()->assembledLow()[0], $measures->asset->standard, $measures->common()->samplesOf($set), $measures->common()->isAllSeen($set), $measures->common()->cardsOf($set));

        return $measured->samples === 0 && ! $measured->isMasked() ? new NotMeasured(AssetClearance::NO_AREA) : $measured;
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return $result instanceof NotMeasured ? ['reason' => $result->reason] : $result->toArray();
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): SetClearance|NotMeasured
    {
        $reason = $stored['reason'] ?? null;

        /** @var array<string, mixed> $stored */
        return is_string($reason) ? new NotMeasured($reason) : SetClearance::ofArray($stored);
    }

    public function names(Measures $measures, Subject $subject): array
    {
        return ['set' => $subject->key, 'others' => array_map(static fn (BakeSet $other): string => $other->name, self::near($measures, $subject->ofSet()))];
    }

    public function renamed(array $stored, array $then, array $now): array
    {
        /**
         * @var array<string, mixed> $stored
         * @var array{set: string, others: list<string>} $then
         * @var array{set: string, others: list<string>} $now
         */
        return isset($stored['reason']) ? $stored : SetClearance::underNames($stored, $then, $now);
    }
}
