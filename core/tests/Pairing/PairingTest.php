<?php

declare(strict_types=1);

namespace Anvil\Tests\Pairing;

use Anvil\Asset\ReadFile;
use Anvil\Asset\RenamePlan;
use Anvil\Geometry\Bounds;
use Anvil\Measures\Measures;
use Anvil\Modelling\Shapes;
use Anvil\Pairing\NameReading;
use Anvil\Pairing\PlaceCost;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\SuffixState;
use Anvil\Pairing\Tie;
use Anvil\Standard\Choices;
use Anvil\Standard\Pattern;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\Assets;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Roles, bases, ties, sets and rename plans from names alone (METHODS, "Pairing"; CLI, "A part's role comes from").
 */
final class PairingTest extends TestCase
{
    /**
     * @return iterable<string, array{string, string|null, string, SuffixState, string}>
     */
    public static function names(): iterable
    {
        $listed = '{"suffixes":{"high":["_high","_high_*","_highpoly"]}}';
        yield 'low' => ['drum_low', 'low', 'drum', SuffixState::Exact, '{}'];
        yield 'only the last suffix counts' => ['low_drum_high', 'high', 'low_drum', SuffixState::Exact, '{}'];
        yield 'other case' => ['drum_LOW', 'low', 'drum', SuffixState::OtherCase, '{}'];
        yield 'other separator' => ['drum-low', 'low', 'drum', SuffixState::OtherSeparator, '{}'];
        yield 'a blank' => ['drum low', 'low', 'drum', SuffixState::OtherSeparator, '{}'];
        yield 'none' => ['yellow', null, 'yellow', SuffixState::None, '{}'];
        yield 'a suffix alone is a name' => ['_low', null, '_low', SuffixState::None, '{}'];
        yield 'a pattern' => ['drum_high_2', 'high', 'drum', SuffixState::Exact, $listed];
        yield 'a pattern wants something in its place' => ['drum_high', 'high', 'drum', SuffixState::Exact, $listed];
        yield 'the longest fits' => ['drum_highpoly', 'high', 'drum', SuffixState::Exact, $listed];
        yield 'a studio\'s own' => ['drum_lp', 'low', 'drum', SuffixState::Exact, '{"suffixes":{"low":"_lp","high":"_hp"}}'];
    }

    #[DataProvider('names')]
    public function test_a_name_says_its_role_and_base(string $name, ?string $role, string $base, SuffixState $state, string $standard): void
    {
        $reading = NameReading::of($name, Standard::ofJson($standard));
        self::assertSame([$role, $base, $state], [$reading->role?->value, $reading->base, $reading->state]);
    }

    public function test_the_role_comes_from_prefix_then_part_then_file(): void
    {
        $role = static fn (string $file, string $part, ?Role $given = null): ?string => self::inspection([Assets::file($file, [$part => Shapes::box(1, 1, 1)], $given)])->asset->parts[0]->role?->value;
        self::assertSame('high', $role('winch_low.obj', 'drum_high'));
        self::assertSame('low', $role('winch_low.obj', 'drum'));
        self::assertSame('low', $role('Winch_Low.obj', 'drum'));
        self::assertSame('id', $role('winch.obj', 'drum', Role::Id));
        self::assertNull($role('winch.obj', 'drum'));
        // An ID copy may keep its high names and a cage its low names: no contradiction.
        self::assertFalse(self::inspection([Assets::file('x.obj', ['drum_high' => Shapes::box(1, 1, 1)], Role::Id)])->asset->parts[0]->mixed);
        self::assertFalse(self::inspection([Assets::file('x.obj', ['drum_low' => Shapes::box(1, 1, 1)], Role::Cage)])->asset->parts[0]->mixed);
    }

    public function test_a_base_with_several_high_parts_is_one_tie_of_many(): void
    {
        $measures = self::assets(['drum_low', 'pawl_low'], ['drum_high_a', 'drum_high_b', 'pawl_high'], '{"suffixes":{"high":["_high","_high_*"]}}');
        self::assertSame(['drum exact 1 2', 'pawl exact 1 1'], self::ties($measures));
    }

    public function test_one_and_one_tie_whatever_their_names(): void
    {
        self::assertSame(['Cube one-and-one 1 1'], self::ties(self::assets(['Cube'], ['Sphere.001'])));
        self::assertSame(['Cube one-and-one 1 1'], self::ties(self::assets(['Cube', 'lost'], ['Sphere.001'], '{}', '{"leftOut":["lost"]}')));
    }

    public function test_whole_makes_one_set_and_no_name_matters(): void
    {
        $measures = self::assets(['a', 'b'], ['x', 'y', 'z'], '{"pairing":"whole"}');
        self::assertSame(['whole whole 2 3'], self::ties($measures));
        self::assertSame(['whole'], array_map(static fn ($set): string => $set->name, $measures->asset->sets));
        self::assertSame([], $measures->asset->pairing->suggestions);
    }

    public function test_two_spellings_of_a_base_are_not_guessed_between(): void
    {
        self::assertSame(['DRUM open 0 1', 'Drum open 0 1', 'drum open 1 0', 'pawl exact 1 1'], self::ties(self::assets(['drum_low', 'pawl_low'], ['Drum_high', 'DRUM_high', 'pawl_high'])));
    }

    public function test_choices_group_bases_into_sets_and_bake_on_itself(): void
    {
        $measures = self::assets(['drum_low', 'flange_low', 'pawl_low'], ['drum_high', 'flange_high'], '{}', '{"sets":{"body":["drum","fla*"]},"bakedOnItself":["pawl"]}');
        self::assertSame(['body 2 2', 'pawl 1 0 self'], array_map(static fn ($set): string => trim("$set->name ".count($set->low).' '.count($set->high).' '.($set->onItself ? 'self' : '')), $measures->asset->sets));
        self::assertSame(['pawl_low'], RoledPart::names($measures->asset->sets[1]->target()));
    }

    public function test_suggestions_keep_the_spelling_in_lower_case(): void
    {
        $renames = static fn (Measures $measures): array => array_map(static fn ($s): string => "{$s->part->part->name} > $s->rename", $measures->asset->pairing->suggestions);
        self::assertSame(['Drum_low > drum_low'], $renames(self::assets(['Drum_low', 'b_low'], ['drum_high', 'b_high'])));
        self::assertSame(['drum_HIGH > drum_high'], $renames(self::assets(['drum_low', 'b_low'], ['drum_HIGH', 'b_high'])));
        self::assertSame(['drum > drum_low'], $renames(self::assets(['drum', 'b_low'], ['drum_high', 'b_high'])));
        self::assertSame([], $renames(self::assets(['drum_low', 'b_low'], ['drum_high', 'b_high'])));
    }

    public function test_a_rename_plan_tells_clashes_and_unsafe_names(): void
    {
        $measures = self::assets(['a_low', 'b_low'], ['a_high', 'b_high']);
        self::assertSame([], self::byHand($measures, ['a_low' => 'c_low'])->clashes);
        self::assertStringContainsString('both', self::byHand($measures, ['a_low' => 'b_low'])->clashes[0] ?? '');
        self::assertStringContainsString('cannot be a name', self::byHand($measures, ['a_low' => "a\nlow"])->clashes[0] ?? '');
        self::assertSame([], self::byHand($measures, ['a_low' => str_repeat('a', 255)])->clashes);
        self::assertStringContainsString('too long', self::byHand($measures, ['a_low' => str_repeat('a', 256)])->clashes[0] ?? '');
        self::assertSame([], RenamePlan::replacing($measures->asset, '', 'x')->rows);
        self::assertSame([['a_low' => 'b_low', 'b_low' => 'a_low'], []], [self::byHand($measures, ['a_low' => 'b_low', 'b_low' => 'a_low'])->namesIn(0), self::byHand($measures, ['a_low' => 'b_low', 'b_low' => 'a_low'])->clashes]);
        self::assertSame(['a_low' => 'a_lp', 'b_low' => 'b_lp'], RenamePlan::replacing($measures->asset, '_low', '_lp')->namesIn(0));
        self::assertSame(['crank' => 'crank_low'], RenamePlan::addingSuffixes(self::assets(['crank', 'b_low'], ['crank_high', 'b_high'])->asset)->namesIn(0));
    }

    public function test_place_cost_is_that_of_the_formula(): void
    {
        // Diagonal 3 (2, 2, 1); centres 0.3 apart; sizes differ by 0.2 in one axis: (0.3 + 0.2/2) / 3.
        $low = Bounds::of([0.0, 0.0, 0.0], [2.0, 2.0, 1.0]);
        self::assertSame(0.0, PlaceCost::of($low, $low));
        self::assertEqualsWithDelta(0.4 / 3, PlaceCost::of($low, Bounds::of([0.2, 0.0, 0.0], [2.4, 2.0, 1.0])), 1e-12);
    }

    public function test_patterns_hold_from_end_to_end(): void
    {
        self::assertTrue(Pattern::anyFits(['b', 'post_*'], 'post_a'));
        self::assertFalse(Pattern::anyFits(['post'], 'post_a'));
        self::assertFalse(Pattern::anyFits(['p.st_a'], 'post_a'), 'a dot is a dot');
        self::assertFalse(Pattern::anyFits([], 'post_a'));
    }

    /**
     * @param  list<string>  $low
     * @param  list<string>  $high
     */
    private static function assets(array $low, array $high, string $standard = '{}', string $choices = '{}'): Measures
    {
        $shapes = static fn (array $names): array => array_combine($names, array_fill(0, count($names), Shapes::box(1, 1, 1)));

        return self::inspection([Assets::file('x_low.obj', $shapes($low)), Assets::file('x_high.obj', $shapes($high))], $standard, $choices);
    }

    /**
     * @param  list<ReadFile>  $files
     */
    private static function inspection(array $files, string $standard = '{}', string $choices = '{}'): Measures
    {
        return Measures::of($files, Standard::ofJson($standard), Choices::ofJson($choices));
    }

    /**
     * @return list<string>
     */
    private static function ties(Measures $measures): array
    {
        return array_map(static fn (Tie $tie): string => "$tie->base {$tie->kind->value} ".count($tie->low).' '.count($tie->high), $measures->asset->pairing->ties);
    }

    /**
     * @param  array<string, string>  $names
     */
    private static function byHand(Measures $measures, array $names): RenamePlan
    {
        return RenamePlan::byHand($measures->asset, [0 => array_map(static fn (string $name): array => [$name, ''], $names)]);
    }
}
