<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Clearance\SetClearance;
use Anvil\Measures\Measures;
use Anvil\Measures\RayedMeasure;
use Anvil\Measures\Subject;
use Anvil\Rays\Visibility;
use Anvil\Surface\CoarseDetails;
use Anvil\Surface\Relief;

/**
 * Share of a set's seen low area over which details of the high poly are narrower than two texels, by map size.
 *
 * @extends RayedMeasure<array{shares: array<int, float>, samples: int, where: list<array{float, float, float}>, texels: float}>
 */
final class FineDetails extends RayedMeasure
{
    public function name(): string
    {
        return 'fine-details';
    }

    public function revision(): int
    {
        return 1;
    }

    public function words(Subject $subject): string
    {
        return "looking for details of $subject->key finer than its texels";
    }

    public function reads(): array
    {
        return [Rays::class, Seen::class, Contents::class];
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        return [...parent::meshes($measures, $subject), ...(new Seen)->meshes($measures, $subject)];
    }

    protected function depends(Measures $measures, SetClearance $rays): mixed
    {
        $set = $measures->set($rays->name);

        return [$rays->inUse(), $measures->asset->standard->mapSize, $set === null ? 0 : $measures->common()->samplesOf($set), $set === null ? '' : $measures->ofSet(Seen::class, $set)];
    }

    protected function measure(Measures $measures, Subject $subject, SetClearance $rays): array
    {
        $set = $subject->ofSet();
        $relief = new Relief($measures->common()->surfaces()[$subject->key], $rays->inUse(), $measures->asset->standard->mapSize, $rays->d);

        return CoarseDetails::of($relief, $measures->common()->isAllSeen($set) ? null : new Visibility($measures->common()->assembledLow()[0]), intdiv($measures->common()->samplesOf($set), 16));
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): ?array
    {
        return $result;
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): ?array
    {
        /** @var array{shares: array<int, float>, samples: int, where: list<array{float, float, float}>, texels: float}|null */
        return $stored;
    }
}
