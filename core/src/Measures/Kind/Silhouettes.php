<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Clearance\SetClearance;
use Anvil\Measures\Measures;
use Anvil\Measures\RayedMeasure;
use Anvil\Measures\Subject;
use Anvil\Surface\Outlines;

/**
 * The greatest distance between the outlines of a set's low and high poly.
 *
 * @extends RayedMeasure<array{loss: float, at: array{float, float, float}|null, outside: bool}>
 */
final class Silhouettes extends RayedMeasure
{
    public function name(): string
    {
        return 'silhouettes';
    }

    public function revision(): int
    {
        return 1;
    }

    public function words(Subject $subject): string
    {
        return "comparing the outlines of $subject->key";
    }

    protected function depends(Measures $measures, SetClearance $rays): mixed
    {
        $set = $measures->set($rays->name);

        return $set === null ? null : array_keys($measures->common()->cardsOf($set));
    }

    protected function measure(Measures $measures, Subject $subject, SetClearance $rays): array
    {
        return Outlines::of($measures->common()->surfaces()[$subject->key], $measures->common()->cardsOf($subject->ofSet()));
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): ?array
    {
        return $result;
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): ?array
    {
        /** @var array{loss: float, at: array{float, float, float}|null, outside: bool}|null */
        return $stored;
    }
}
