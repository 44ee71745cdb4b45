<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Measures\Measures;
use Anvil\Measures\PartMeasure;
use Anvil\Measures\Subject;
use Anvil\Standard\Role;
use Anvil\Surface\Facets;

/**
 * How much of each high part will show as facets.
 *
 * @extends PartMeasure<Facets>
 */
final class HighFacets extends PartMeasure
{
    public function name(): string
    {
        return 'facets';
    }

    public function revision(): int
    {
        return 2;
    }

    protected function roles(): array
    {
        return [Role::High];
    }

    public function compute(Measures $measures, Subject $subject): Facets
    {
        return Facets::of($subject->ofPart()->part->mesh);
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return ['share' => $result->share, 'where' => $result->where];
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): Facets
    {
        return Facets::kept($stored ?? []);
    }
}
