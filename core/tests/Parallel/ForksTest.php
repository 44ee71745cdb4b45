<?php

declare(strict_types=1);

namespace Anvil\Tests\Parallel;

use Anvil\Asset\GivenFile;
use Anvil\Clearance\SetClearance;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Part;
use Anvil\Inspection\Inspector;
use Anvil\Modelling\Shapes;
use Anvil\Parallel\Forks;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\MemorySink;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use RuntimeException;

/**
 * One plan of work in one process or several: the same answers, whatever ends early.
 */
#[Group('matrix')]
final class ForksTest extends TestCase
{
    public function test_answers_come_in_order_whoever_made_them(): void
    {
        foreach ([1, 2, 5, 40] as $workers) {
            $taken = [];
            $meanwhile = 0;
            [$begun, $wait] = self::signal();
            $answers = Forks::map(12, static function (int $i) use ($begun): array {
                $begun();

                return [$i, posix_getpid()];
            }, $workers, static function () use (&$meanwhile, $workers, $wait): void {
                $workers > 1 && $wait();
                $meanwhile++;
            }, static function (int $i) use (&$taken): void {
                $taken[] = $i;
            });
            self::assertSame(range(0, 11), array_column($answers, 0), "$workers processes");
            self::assertSame(1, $meanwhile);
            $processes = array_unique(array_column($answers, 1));
            self::assertSame($workers === 1, $processes === [posix_getpid()], "$workers processes");
            self::assertLessThanOrEqual($workers, count($processes));
            self::assertSame($workers === 1 ? range(0, 11) : array_values($taken), $taken);
        }
        self::assertSame([], Forks::map(0, static fn (int $i): array => [$i], 4));
        self::assertSame([[7]], Forks::map(1, static fn (int $i): array => [7], 4));
    }

    /**
     * What a forked process calls when it has begun, and what waits in this one until one has.
     *
     * @return array{\Closure(): void, \Closure(): void}
     */
    private static function signal(): array
    {
        $pair = stream_socket_pair(STREAM_PF_UNIX, STREAM_SOCK_STREAM, 0) ?: self::fail('no sockets');
        $here = posix_getpid();

        return [static function () use ($pair, $here): void {
            posix_getpid() === $here || fwrite($pair[1], '.');
        }, static function () use ($pair): void {
            fread($pair[0], 1);
        }];
    }

    public function test_what_a_killed_process_left_is_done_here(): void
    {
        $here = posix_getpid();
        [$begun, $wait] = self::signal();
        $answers = Forks::map(9, static function (int $i) use ($here, $begun): array {
            $begun();
            if (posix_getpid() !== $here && $i % 2 === 1) {
                posix_kill(posix_getpid(), SIGKILL);
            }
            if (posix_getpid() !== $here && $i % 4 === 2) {
                throw new RuntimeException('not here');
            }

            return [$i * $i];
        }, 4, $wait);
        self::assertSame(array_map(static fn (int $i): array => [$i * $i], range(0, 8)), $answers);
    }

    public function test_what_a_piece_throws_is_thrown_and_nothing_is_left(): void
    {
        $before = glob(sys_get_temp_dir().'/anvil-forks-*');
        try {
            Forks::map(6, static fn (int $i): array => $i === 4 ? throw new RuntimeException('the fifth') : [$i], 3);
            self::fail('it was swallowed');
        } catch (RuntimeException $e) {
            self::assertSame('the fifth', $e->getMessage());
        }
        self::assertSame($before, glob(sys_get_temp_dir().'/anvil-forks-*'));
        self::assertSame(-1, pcntl_waitpid(-1, $status, WNOHANG), 'no process is left');
        self::assertGreaterThanOrEqual(1, Forks::most());
    }

    public function test_an_asset_is_measured_the_same_by_any_number_of_processes(): void
    {
        $files = [];
        foreach (['low', 'high'] as $side) {
            $sink = new MemorySink;
            $parts = [];
            foreach (range(0, 4) as $i) {
                $shape = $side === 'low' ? Shapes::box(1 + 0.1 * $i, 1, 1) : Shapes::roundedBox(1 + 0.1 * $i, 1, 1, 0.03, 14);
                $parts[] = new Part("buoy{$i}_$side", $shape->moved(1.3 * $i, 0, 0)->mesh());
            }
            ObjWriter::write($parts, "x_$side.obj", $sink);
            $files[] = new GivenFile("x_$side.obj", null, $sink->source("x_$side.obj"));
        }
        $standard = Standard::ofJson('{"rays":{"setsKeptApart":false,"count":8192},"reach":{"*":{"out":0.4,"in":0.1}}}');
        $of = static function (int $workers) use ($files, $standard): array {
            $said = [];
            $report = Inspector::inspect($files, $standard, new Choices, progress: static function (string $doing) use (&$said): void {
                $said[] = $doing;
            }, workers: $workers);
            $array = $report->toArray();
            self::assertSame(['reading x_low.obj', 'reading x_high.obj'], array_slice($said, 0, 2));
            self::assertNotEmpty(preg_grep('/^shooting rays of buoy\d \(\d+ of \d+\)$/', $said));
            unset($array['seconds'], $array['peakMemoryBytes'], $array['checks']);

            return [json_encode($array, JSON_THROW_ON_ERROR), json_encode(array_map(static fn (SetClearance $one): array => $one->toArray(), $report->measures->clearances()), JSON_THROW_ON_ERROR)];
        };
        $one = $of(1);
        self::assertStringContainsString('sets-bleed', $one[0]);
        self::assertSame($one, $of(2));
        self::assertSame($one, $of(4));
    }
}
