<?php

declare(strict_types=1);

namespace Tests\Architecture;

use PHPat\Selector\Selector;
use PHPat\Test\Attributes\TestRule;
use PHPat\Test\Builder\Rule;
use PHPat\Test\PHPat;

/**
 * The floors of the core (docs/architecture.md): a namespace knows those beneath it and none above, so that there is no circle. PHPStan holds the
 * code to this.
 */
final class Floors
{
    /** From the ground up. */
    public const FLOORS = [
        'Geometry', 'Modelling', 'Spatial', 'Formats', 'Parallel', 'Standard', 'Pairing', 'Sets', 'Asset', 'Rays', 'Place', 'Surface', 'ColorId', 'Clearance', 'Occlusion', 'Explode',
        'Cage', 'Proof', 'Changes', 'Measures', 'Checks', 'Report', 'Handoff', 'Inspection',
    ];

    /**
     * @return iterable<string, Rule>
     */
    #[TestRule]
    public function no_floor_knows_one_above_it(): iterable
    {
        foreach (self::FLOORS as $number => $floor) {
            $above = array_slice(self::FLOORS, $number + 1);
            if ($above !== []) {
                yield $floor => PHPat::rule()->classes(Selector::inNamespace("Anvil\\$floor"))->shouldNotDependOn()
                    ->classes(...array_map(static fn (string $one) => Selector::inNamespace("Anvil\\$one"), $above))->because('floors know only what is beneath them');
            }
        }
    }

    #[TestRule]
    public function the_ground_knows_no_floor(): Rule
    {
        return PHPat::rule()->classes(Selector::classname('/^Anvil\\\\[A-Za-z]+$/', true))->shouldNotDependOn()
            ->classes(...array_map(static fn (string $one) => Selector::inNamespace("Anvil\\$one"), self::FLOORS))->because('errors and JSON are known everywhere');
    }

    /** The rules of the job have no interface in them. */
    #[TestRule]
    public function the_core_knows_no_framework(): Rule
    {
        return PHPat::rule()->classes(Selector::inNamespace('Anvil'))->shouldNotDependOn()
            ->classes(Selector::inNamespace('App'), Selector::inNamespace('Illuminate'), Selector::inNamespace('Laravel'), Selector::inNamespace('Symfony'))->because('the core is tested and used by itself');
    }
}
