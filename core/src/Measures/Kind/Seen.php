<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Clearance\AssetClearance;
use Anvil\Measures\Measures;
use Anvil\Measures\OnlyForInputs;
use Anvil\Measures\SetMeasure;
use Anvil\Measures\Subject;
use Anvil\Rays\Visibility;

/**
 * Which of some fixed places on a set's low poly are seen: where the answers are as before, what hides the set is, and its rays need not be shot again.
 *
 * @extends SetMeasure<string>
 */
final class Seen extends SetMeasure implements OnlyForInputs
{
    public function name(): string
    {
        return 'seen';
    }

    public function revision(): int
    {
        return 1;
    }

    public function words(Subject $subject): string
    {
        return "looking at what hides $subject->key";
    }

    public function reads(): array
    {
        return [];
    }

    public function subjects(Measures $measures): array
    {
        return array_map(Subject::set(...), $measures->wholeSets());
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        $out = $subject->ofSet()->low;
        foreach (AssetClearance::staying($measures->asset) as $set) {
            array_push($out, ...$set->low);
        }

        return $out;
    }

    public function inputs(Measures $measures, Subject $subject): array
    {
        $isAll = $measures->common()->isAllSeen($subject->ofSet());

        return [$isAll, $measures->asset->standard->rays->smooth, $isAll ? [] : Measures::hashes($subject->ofSet()->low), $isAll ? '' : $measures->common()->hashOfStaying()];
    }

    public function compute(Measures $measures, Subject $subject): string
    {
        return $measures->common()->isAllSeen($subject->ofSet()) ? 'all' : Visibility::seenFrom($measures->common()->surfaces()[$subject->key], $measures->common()->assembledLow()[0], false);
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return [hash('sha256', $result)];
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): string
    {
        $hash = $stored[0] ?? '';

        return is_string($hash) ? $hash : '';
    }
}
