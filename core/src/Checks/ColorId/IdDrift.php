<?php

declare(strict_types=1);

namespace Anvil\Checks\ColorId;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Measures;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * Triangles and bounds of the ID parts against those of the high parts, all together and base by base; the farthest corner as a share of D.
 */
final class IdDrift implements Check
{
    public function about(): About
    {
        return new About(
            code: 'id-drift',
            station: Station::ColorId,
            row: 660,
            severity: Severity::Blocker,
            title: 'ID mesh is not the high mesh',
            measured: 'Triangles and bounds of the ID parts against those of the high parts, all together and base by base; the greatest difference of bounds as a share of the size of the asset.',
            limit: 1e-5,
            unit: 'share',
            limitWords: 'as many triangles; 0.001 % of the size of the asset',
            afterBake: 'ID colors in other places than the details that they stand for',
            remedy: 'make the ID file anew from this high poly',
            symptoms: ['colors shifted', 'colors in the wrong place'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $asset = $measures->asset;
        $id = $asset->judged(Role::Id);
        $high = $asset->judged(Role::High);
        if ($id === [] || $high === []) {
            return Outcome::notApplicable($id === [] ? 'there is no ID file' : 'there is no high poly');
        }
        $limit = $this->about()->limitBy($asset->standard);
        $size = max(1e-30, $asset->diagonal());
        if ($this->differs($id, $high, $limit * $size) === null) {
            return Outcome::of([]);
        }
        $byBase = [];
        foreach ($high as $part) {
            $byBase[$part->base][] = $part;
        }
        $files = $of = [];
        foreach ($id as $part) {
            $of[$part->base][] = $part;
            $files[$part->base] ??= $part->path;
        }
        /** @var array<string, list<array{string, Measured}>> $found */
        $found = [];
        foreach ($of as $base => $parts) {
            $name = $parts[0]->part->name;
            if (! isset($byBase[$base])) {
                $found[$files[$base]][] = ["$name has no high part", new Measured($this->count($parts), 0, 'count')];

                continue;
            }
            $apart = $this->differs($parts, $byBase[$base], $limit * $size);
            if ($apart === 'count') {
                [$a, $b] = [$this->count($parts), $this->count($byBase[$base])];
                $found[$files[$base]][] = ["$name has ".number_format($a).' triangles, '.$byBase[$base][0]->part->name.' has '.number_format($b), new Measured(abs($a - $b), 0, 'count')];
            } elseif (is_float($apart)) {
                $found[$files[$base]][] = ["$name is ".Words::length($apart, $asset).' off '.$byBase[$base][0]->part->name, new Measured($apart / $size, $limit, 'share')];
            }
        }
        $without = array_diff_key($byBase, $of);
        if ($without !== []) {
            $first = array_values($without)[0][0]->part->name;
            $found[$id[0]->path][] = [count($without) === 1 ? "$first has no ID part" : "$first and ".(count($without) - 1).' more high parts have no ID part', new Measured(count($without), 0, 'count')];
        }
        $findings = [];
        foreach ($found as $file => $all) {
            $findings[] = new Finding('id-drift', Severity::Blocker, 'the ID mesh is not the high mesh: '.$all[0][0].(count($all) > 1 ? ', and '.(count($all) - 1).' more' : ''), 'make the ID file anew from this high poly', ['file' => $file], $all[0][1], count: count($all));
        }

        return Outcome::of($findings);
    }

    /**
     * @param  list<RoledPart>  $one
     * @param  list<RoledPart>  $two
     * @return float|string|null null where they are the same; `count`, or how far their bounds are apart
     */
    private function differs(array $one, array $two, float $within): float|string|null
    {
        if ($this->count($one) !== $this->count($two)) {
            return 'count';
        }
        $a = RoledPart::boundsOf($one);
        $b = RoledPart::boundsOf($two);
        if ($a === null || $b === null) {
            return null;
        }
        $apart = 0.0;
        for ($k = 0; $k < 3; $k++) {
            $apart = max($apart, abs($a->min[$k] - $b->min[$k]), abs($a->max[$k] - $b->max[$k]));
        }

        return $apart > $within ? $apart : null;
    }

    /**
     * @param  list<RoledPart>  $parts
     */
    private function count(array $parts): int
    {
        return array_sum(array_map(static fn (RoledPart $part): int => $part->part->triangleCount(), $parts));
    }
}
