<?php

declare(strict_types=1);

namespace Anvil\Tests\Checks;

use Anvil\Checks\Catalogue;
use Anvil\Checks\Cause;
use Anvil\Checks\CheckResult;
use Anvil\Checks\Finding;
use Anvil\Checks\Runner;
use Anvil\Measures\Plan;
use Anvil\Modelling\Shapes;
use Anvil\Report\Report;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;
use Anvil\Standard\Waiver;
use Anvil\Tests\Measures\KeptInMemory;
use Anvil\Tests\Support\Assets;
use Anvil\Tests\Support\SharedMeasures;
use Closure;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;

/**
 * What is told while measuring goes on, and what is told once of many.
 */
#[Group('matrix')]
final class SoFarTest extends TestCase
{
    /**
     * @return iterable<string, array{Closure(): Report}>
     */
    public static function reports(): iterable
    {
        foreach (CheckFixturesTest::found() as $name => [$make]) {
            yield $name => [$make];
        }
        $box = Shapes::box(1, 1, 1);
        $round = Shapes::roundedBox(1, 1, 1, 0.03, 2);
        yield 'in each other\'s way' => [static fn (): Report => Assets::report(['a_low' => $box, 'b_low' => $box->moved(1.01, 0, 0), 'c_low' => $box->moved(5, 0, 0)], ['a_high' => $round, 'b_high' => $round->moved(1.01, 0, 0), 'c_high' => $round->moved(5, 0, 0)], '{"rays":{"setsKeptApart":false}}')];
    }

    /**
     * @param  Closure(): Report  $make
     */
    #[DataProvider('reports')]
    public function test_what_is_told_on_the_way_stays_and_in_the_end_all_is_told(Closure $make): void
    {
        $whole = $make()->measures;
        $store = new KeptInMemory;
        $computing = $whole->keptIn($store->fedBy(SharedMeasures::ofThisRun()), true);
        $end = self::told(Runner::run($whole));
        foreach (Plan::of($computing, Runner::measures($computing))->waves as $bundles) {
            foreach ($bundles as $bundle) {
                self::assertIsOnTheWay(Runner::run($whole->keptIn($store, false)->soFar(), soFar: true), $end);
                foreach ($bundle as $task) {
                    $computing->get($task->measure::class, $task->subject);
                }
            }
        }
        self::assertEquals($end, self::told(Runner::run($whole->keptIn($store, false)->soFar(), soFar: true)));
    }

    /**
     * @param  list<CheckResult>  $results
     * @param  array<string, array{string, string|null, list<string>}>  $end
     */
    private static function assertIsOnTheWay(array $results, array $end): void
    {
        foreach (self::told($results) as $code => [$state, $reason, $findings]) {
            self::assertSame([], array_diff($findings, $end[$code][2]), "$code told what it took back");
            if ($state === 'waiting') {
                self::assertStringContainsString('still', (string) $reason);
            } else {
                self::assertSame($end[$code][0], $state, "$code said how it ended, and ended otherwise");
            }
        }
    }

    /**
     * @param  list<CheckResult>  $results
     * @return array<string, array{string, string|null, list<string>}>
     */
    private static function told(array $results): array
    {
        $out = [];
        foreach ($results as $result) {
            $findings = array_map(static fn (Finding $f): string => "{$f->severity->value} $f->message ".json_encode($f->subject), $result->findings);
            sort($findings);
            // Of a check of each file the words may be of another one that had nothing to look at.
            $out[$result->about->code] = [$result->state, $result->about->ofFile && $result->state === 'not-applicable' ? null : $result->reason, $findings];
        }

        return $out;
    }

    public function test_a_file_is_judged_before_the_others_have_come(): void
    {
        $box = Shapes::box(1, 1, 1);
        $report = Assets::reportOf([Assets::file('x_low.obj', ['a ring_low' => $box])]);
        $alone = Runner::run($report->measures, [], Catalogue::ofFile());
        self::assertSame(['name-unsafe'], array_values(array_map(static fn (CheckResult $one): string => $one->about->code, array_filter($alone, static fn (CheckResult $one): bool => $one->findings !== []))));
        self::assertSame([], array_intersect(Catalogue::ofFile(), ['pair-no-high', 'name-duplicate', 'ray-miss', 'transform-unfrozen']));
        foreach (Catalogue::ofFile() as $code) {
            self::assertContains(Catalogue::about()[$code]->station->value, ['intake', 'surface']);
        }
    }

    public function test_the_side_that_is_still_to_come_is_known(): void
    {
        $box = Shapes::box(1, 1, 1);
        $side = static fn (array $low, array $high, string $choices = '{}'): ?Role => Assets::reportOf([...($low === [] ? [] : [Assets::file('x_low.obj', $low)]), ...($high === [] ? [] : [Assets::file('x_high.obj', $high)])], '{}', $choices)->measures->asset->sideToCome();
        self::assertSame(Role::High, $side(['a_low' => $box], []));
        self::assertSame(Role::Low, $side([], ['a_high' => $box]));
        self::assertNull($side(['a_low' => $box], ['b_high' => $box]));
        self::assertNull($side(['a_low' => $box], [], '{"bakedOnItself":true}'));
        self::assertNull(Assets::reportOf([Assets::file('crate.obj', ['crate' => $box])])->measures->asset->sideToCome(), 'a part of no role');
        self::assertNull(Assets::reportOf([Assets::file('x_low.obj', ['a_low' => $box]), new \Anvil\Asset\ReadFile('x_high.obj', null, 'aa', null, \Anvil\Unreadable::because('it is cut off'))])->measures->asset->sideToCome(), 'the other file is there, and cannot be read');
    }

    public function test_findings_of_one_code_file_and_remedy_are_one_cause(): void
    {
        $low = $high = [];
        foreach (range(1, 5) as $i) {
            $low["link {$i}_low"] = Shapes::box(1, 1, 1)->moved(4.0 * $i, 0, 0);
            $high["link {$i}_high"] = Shapes::roundedBox(1, 1, 1, 0.03, 2)->moved(4.0 * $i, 0, 0);
        }
        $low['post_low'] = Shapes::box(1, 1, 1)->moved(0, 5, 0);
        $report = Assets::report($low, $high, '{}', '{}', [Waiver::listOfJson('[{"code":"name-unsafe","subject":{"part":"link 1_low"},"by":"keeper","reason":"known"}]')[0]]);
        $findings = $report->findings();
        $causes = $report->causes();
        self::assertSame(['name-unsafe', 'name-unsafe', 'pair-no-high', 'uv-overlap', 'silhouette-loss'], array_map(static fn (Cause $cause): string => $cause->code, $causes));
        self::assertSame('5 parts of x_low.obj have names that programs trip over: link 1_low, link 2_low, link 3_low, …', $causes[0]->message);
        self::assertSame([5, false, Severity::Caution], [$causes[0]->subjects, $causes[0]->waived, $causes[0]->severity]);
        self::assertSame($findings[$causes[2]->findings[0]]->message, $causes[2]->message);
        $told = array_merge(...array_map(static fn (Cause $cause): array => $cause->findings, $causes));
        sort($told);
        self::assertSame(range(0, count($findings) - 1), $told);
        self::assertSame([2, 2, 1], [$report->count(Severity::Blocker), $report->count(Severity::Caution), $report->count(Severity::Note)]);
        $array = $report->toArray()['causes'];
        self::assertSame(['code', 'severity', 'message', 'remedy', 'findings'], array_keys($array[0] ?? []));
    }

    public function test_a_cause_of_which_all_is_waived_counts_no_more_and_one_of_a_part_twice_says_how_often(): void
    {
        $finding = static fn (string $part, bool $waived, Severity $severity = Severity::Caution): Finding => new Finding('mesh-loose', $severity, "1 vertex of $part belong to no face", 'delete them', ['part' => $part, 'file' => 'x_low.obj'], waived: $waived);
        [$one] = Cause::of([$finding('a', true, Severity::Blocker), $finding('b', false)]);
        self::assertSame([Severity::Caution, false], [$one->severity, $one->waived]);
        [$two] = Cause::of([$finding('a', true, Severity::Blocker), $finding('b', true)]);
        self::assertSame([Severity::Blocker, true, 0], [$two->severity, $two->waived, Cause::count([$two], Severity::Blocker)]);
        [$three] = Cause::of([$finding('a', false), $finding('a', false)]);
        self::assertSame('Vertices without faces: 2 times on a of x_low.obj', $three->message);
        $ofSet = static fn (string $set): Finding => new Finding('ray-miss', Severity::Blocker, 'x', 'raise the reach', ['set' => $set]);
        self::assertSame('2 sets have rays that meet nothing: a, b', Cause::of([$ofSet('a'), $ofSet('b')])[0]->message);
        self::assertStringStartsWith('1,200 sets have rays', Cause::of(array_map(static fn (int $i): Finding => $ofSet("crate_$i"), range(1, 1200)))[0]->message);
        self::assertSame('Vertices without faces: 1,200 times on a of x_low.obj', Cause::of(array_map(static fn (): Finding => $finding('a', false), range(1, 1200)))[0]->message);
        $ofPair = static fn (string $other): Finding => new Finding('sets-bleed', Severity::Blocker, 'x', 'explode them', ['set' => 'pane', 'other' => $other]);
        self::assertSame("2 pairs of sets are in each other's rays: pane and left, pane and right", Cause::of([$ofPair('left'), $ofPair('right')])[0]->message);
        self::assertCount(2, Cause::of([$ofSet('a'), new Finding('ray-miss', Severity::Blocker, 'x', 'close its holes', ['set' => 'b'])]));
    }

    public function test_measures_that_are_not_all_known_say_how_many_sets_are_to_come(): void
    {
        $box = Shapes::box(1, 1, 1);
        $round = Shapes::roundedBox(1, 1, 1, 0.03, 2);
        $whole = Assets::report(['a_low' => $box, 'b_low' => $box->moved(4, 0, 0)], ['a_high' => $round, 'b_high' => $round->moved(4, 0, 0)])->measures;
        $store = new KeptInMemory;
        self::assertSame([0, 2], [$whole->setsToCome(), $whole->keptIn($store, false)->soFar()->setsToCome()]);
        $computing = $whole->keptIn($store, true);
        $computing->clearanceOf($computing->asset->sets[1]);
        $computing->placesOf('b');
        $soFar = $whole->keptIn($store, false)->soFar();
        self::assertSame([1, ['b'], null], [$soFar->setsToCome(), array_keys($soFar->clearances()), $soFar->clearanceOf($soFar->asset->sets[0])]);
    }
}
