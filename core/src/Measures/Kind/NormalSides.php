<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Geometry\MeshHealth;
use Anvil\Measures\Measures;
use Anvil\Measures\PartMeasure;
use Anvil\Measures\Subject;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;
use Anvil\Surface\InvertedNormals;

/**
 * How much of each low part has normals on the inner side of its faces, but for faces that are turned themselves.
 *
 * @extends PartMeasure<InvertedNormals>
 */
final class NormalSides extends PartMeasure
{
    public function name(): string
    {
        return 'normal-sides';
    }

    public function revision(): int
    {
        return 1;
    }

    public function reads(): array
    {
        return [Rays::class];
    }

    protected function roles(): array
    {
        return [Role::Low];
    }

    public function inputs(Measures $measures, Subject $subject): array
    {
        return [$subject->ofPart()->part->hash(), array_column(self::faced($measures, $subject->ofPart()), 'first')];
    }

    public function compute(Measures $measures, Subject $subject): InvertedNormals
    {
        $mesh = $subject->ofPart()->part->mesh;
        if ($mesh->triNormals === []) {
            return InvertedNormals::none();
        }
        $health = MeshHealth::of($mesh, false);
        $out = $health->turned;
        $shells = $health->insideOutShells;
        foreach (self::faced($measures, $subject->ofPart()) as $shell) {
            $shells[$health->shellOf($shell['first'])] = true;
        }
        for ($t = 0, $count = $shells === [] ? 0 : $mesh->triangleCount(); $t < $count; $t++) {
            if (isset($shells[$health->shellOf($t)])) {
                $out[$t] = true;
            }
        }

        return InvertedNormals::of($mesh, $out);
    }

    /**
     * Shells of a part that face the wrong way against the other side; `first` is the part's own number of their first triangle.
     *
     * @return list<array{part: int, triangles: int, first: int, where: array{float, float, float}}>
     */
    public static function faced(Measures $measures, RoledPart $part): array
    {
        $set = $measures->setOf($part);
        $faced = $set === null ? null : $measures->clearanceOf($set)?->details->faced;
        $out = [];
        foreach ($set === null || $faced === null ? [] : [[$set->low, $faced['low']], [$set->high, $faced['high']]] as [$parts, $shells]) {
            foreach ($shells as $shell) {
                if (($parts[$shell['part']] ?? null) === $part) {
                    $out[] = $shell;
                }
            }
        }

        return $out;
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return ['share' => $result->share, 'where' => $result->where];
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): InvertedNormals
    {
        return InvertedNormals::kept($stored ?? []);
    }
}
