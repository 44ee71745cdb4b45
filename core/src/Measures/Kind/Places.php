<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Measures\Measures;
use Anvil\Measures\Renamable;
use Anvil\Measures\SetMeasure;
use Anvil\Measures\Subject;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\Tie;
use Anvil\Place\TiePlace;
use Anvil\Place\TiePlaces;

/**
 * How low and high of the ties of a set lie on each other. Computed a set at a time, since its ties share a tree.
 *
 * @extends SetMeasure<list<TiePlace>>
 */
final class Places extends SetMeasure implements Renamable
{
    public function name(): string
    {
        return 'places';
    }

    public function revision(): int
    {
        return 2;
    }

    public function words(Subject $subject): string
    {
        return "holding low and high of $subject->key against each other";
    }

    public function reads(): array
    {
        return [Contents::class, Turn::class];
    }

    public function subjects(Measures $measures): array
    {
        return array_map(Subject::set(...), $measures->wholeSets());
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        return [...$subject->ofSet()->low, ...$subject->ofSet()->target()];
    }

    public function inputs(Measures $measures, Subject $subject): array
    {
        $set = $subject->ofSet();

        return $measures->unplaced($set) !== null ? [null] : [
            $measures->asset->standard->rays->smooth, TiePlaces::pointsEach(count($measures->asset->pairing->ties)),
            array_map(static fn (Tie $tie): array => [Measures::hashes($tie->low), Measures::hashes($tie->high)], $measures->asset->tiesOf($set)),
            Measures::hashes($this->meshes($measures, $subject)),
        ];
    }

    public function compute(Measures $measures, Subject $subject): array
    {
        $set = $subject->ofSet();

        return $measures->unplaced($set) !== null ? [] : TiePlaces::of($measures->asset->tiesOf($set), $measures->common()->surfaces()[$set->name], count($measures->asset->pairing->ties));
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return array_map(static fn (TiePlace $place): array => $place->toArray(), $result);
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): array
    {
        /** @var list<array<string, mixed>> $all */
        $all = $stored ?? [];

        return array_map(TiePlace::ofArray(...), $all);
    }

    public function names(Measures $measures, Subject $subject): array
    {
        $called = static fn (RoledPart $part): array => [$part->path, $part->part->name];

        return ['ties' => array_map(static fn (Tie $tie): array => ['base' => $tie->base, 'low' => array_map($called, $tie->low), 'high' => array_map($called, $tie->high)], $measures->asset->tiesOf($subject->ofSet()))];
    }

    public function renamed(array $stored, array $then, array $now): array
    {
        /**
         * @var list<array{base: string, low: string, high: string, file: string, doubled: list<array{first: string, second: string, file: string}>}> $stored
         * @var array{ties: list<array{base: string, low: list<array{string, string}>, high: list<array{string, string}>}>} $then
         * @var array{ties: list<array{base: string, low: list<array{string, string}>, high: list<array{string, string}>}>} $now
         */
        $ties = [];
        foreach ($then['ties'] as $i => $tie) {
            $ties[$tie['base']."\0".($tie['low'][0][1] ?? '')] = [$tie, $now['ties'][$i]];
        }

        return array_map(static function (array $place) use ($ties): array {
            $tie = $ties["$place[base]\0$place[low]"] ?? null;

            return $tie === null ? $place : TiePlace::underNames($place, ...$tie);
        }, $stored);
    }
}
