<?php

declare(strict_types=1);

namespace Anvil\Tests\Report;

use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Report\FindingChanges;
use Anvil\Standard\Severity;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * What became of the findings of the last delivery (METHODS, "What changed between deliveries").
 */
final class FindingChangesTest extends TestCase
{
    public function test_findings_are_known_again_by_code_and_subject_alone(): void
    {
        $before = [self::finding('ray-miss', ['set' => 'drum']), self::finding('uv-overlap', ['part' => 'drum_low', 'other' => 'cap_low', 'page' => 'steel']), self::finding('mesh-ngon', ['part' => 'cap_low', 'file' => 'a/x_low.obj'])];
        $after = [self::finding('mesh-ngon', ['file' => 'b/y_low.obj', 'part' => 'cap_low'], message: 'said in other words'), self::finding('ray-miss', ['set' => 'cap']), self::finding('uv-overlap', ['page' => 'steel', 'other' => 'cap_low', 'part' => 'drum_low'])];
        $changes = FindingChanges::of($before, $after, []);
        self::assertSame([['ray-miss'], ['ray-miss'], [], [], ['mesh-ngon', 'uv-overlap']], self::codes($changes));
        self::assertSame(['set' => 'drum'], $changes->gone[0]->subject);
        self::assertSame(['set' => 'cap'], $changes->new[0]->subject);
    }

    public function test_a_part_that_was_renamed_is_the_same_and_one_that_took_its_name_is_not(): void
    {
        $before = [self::finding('ray-miss', ['set' => 'drum', 'part' => 'drum_low'])];
        $renames = ['drum' => 'barrel', 'drum_low' => 'barrel_low'];
        self::assertSame([[], [], [], [], ['ray-miss']], self::codes(FindingChanges::of($before, [self::finding('ray-miss', ['set' => 'barrel', 'part' => 'barrel_low'])], $renames)));
        self::assertSame([['ray-miss'], ['ray-miss'], [], [], []], self::codes(FindingChanges::of($before, [self::finding('ray-miss', ['set' => 'drum', 'part' => 'drum_low'])], $renames)));
    }

    /** Of a file alone its name counts, wherever it lay and however its folder is written. */
    public function test_files_are_known_by_their_names(): void
    {
        foreach (['deck\\winch_low.obj', '/srv/in/winch_low.obj', 'winch_low.obj'] as $path) {
            self::assertSame([[], [], [], [], ['unit-mismatch']], self::codes(FindingChanges::of([self::finding('unit-mismatch', ['file' => 'old/winch_low.obj'])], [self::finding('unit-mismatch', ['file' => $path])], [])));
        }
        self::assertSame([['unit-mismatch'], ['unit-mismatch'], [], [], []], self::codes(FindingChanges::of([self::finding('unit-mismatch', ['file' => 'winch_low.obj'])], [self::finding('unit-mismatch', ['file' => 'winch_high.obj'])], [])));
    }

    /**
     * @return iterable<string, array{Finding, Finding, int}> then, now, 1 worse, −1 better, 0 the same
     */
    public static function pairs(): iterable
    {
        $share = static fn (float $value, bool $less = false): Finding => self::finding('ray-miss', ['set' => 'a'], measure: new Measured($value, 0.005, 'share', $less));
        $ratio = static fn (float $value): Finding => self::finding('unit-mismatch', ['file' => 'a.obj'], measure: new Measured($value, 1.02, 'ratio'));
        $count = static fn (?int $count): Finding => self::finding('mesh-ngon', ['part' => 'a'], count: $count);
        yield 'more is worse' => [$share(0.01), $share(0.02), 1];
        yield 'less is better' => [$share(0.02), $share(0.01), -1];
        yield 'a thousandth is nothing' => [$share(0.02), $share(0.02001999), 0];
        yield 'more than a thousandth is' => [$share(0.02), $share(0.02003), 1];
        yield 'less is worse where the limit is a least value' => [$share(0.02, true), $share(0.01, true), 1];
        yield 'a ratio is as bad either way round' => [$ratio(2.0), $ratio(0.5), 0];
        yield 'a ratio further from one' => [$ratio(0.5), $ratio(2.5), 1];
        yield 'a ratio nearer to one' => [$ratio(0.1), $ratio(8.0), -1];
        yield 'more of them' => [$count(3), $count(4), 1];
        yield 'fewer of them' => [$count(3), $count(1), -1];
        yield 'as many' => [$count(3), $count(3), 0];
        yield 'none counted, then some' => [$count(null), $count(1), 1];
        yield 'severity comes before value' => [self::finding('ray-miss', ['set' => 'a'], Severity::Blocker, new Measured(0.01, 0.005, 'share')), self::finding('ray-miss', ['set' => 'a'], Severity::Caution, new Measured(0.04, 0.005, 'share')), -1];
        yield 'a note that blocks now' => [self::finding('ray-miss', ['set' => 'a'], Severity::Note), self::finding('ray-miss', ['set' => 'a'], Severity::Blocker), 1];
        yield 'values of two units are not held against each other' => [self::finding('x', ['set' => 'a'], measure: new Measured(5.0, 1.0, 'px'), count: 1), self::finding('x', ['set' => 'a'], measure: new Measured(0.5, 0.1, 'share'), count: 1), 0];
    }

    #[DataProvider('pairs')]
    public function test_better_worse_and_the_same(Finding $then, Finding $now, int $change): void
    {
        $code = [$then->code];
        $changes = FindingChanges::of([$then], [$now], []);
        self::assertSame([[], [], $change < 0 ? $code : [], $change > 0 ? $code : [], $change === 0 ? $code : []], self::codes($changes));
        $printed = $changes->toArray();
        self::assertSame($change === 0 ? 1 : 0, $printed['same']);
        foreach ([...$printed['better'], ...$printed['worse']] as $one) {
            self::assertIsArray($one['was']);
            self::assertSame($then->severity->value, $one['was']['severity']);
            self::assertSame($then->measure?->toArray(), $one['was']['measure'] ?? null);
            self::assertSame($then->count, $one['was']['count'] ?? null);
            self::assertSame($now->severity->value, $one['severity']);
        }
    }

    /** Several of one code and subject go by their order. */
    public function test_several_alike_are_matched_one_by_one(): void
    {
        $three = array_map(static fn (int $count): Finding => self::finding('mesh-ngon', ['part' => 'a'], count: $count), [1, 2, 3]);
        self::assertSame([['mesh-ngon'], [], [], [], ['mesh-ngon', 'mesh-ngon']], self::codes(FindingChanges::of($three, array_slice($three, 0, 2), [])));
        self::assertSame([[], ['mesh-ngon'], [], [], ['mesh-ngon', 'mesh-ngon']], self::codes(FindingChanges::of(array_slice($three, 0, 2), $three, [])));
    }

    /**
     * @param  array{file?: string, part?: string, set?: string, other?: string, page?: string}  $subject
     */
    private static function finding(string $code, array $subject, Severity $severity = Severity::Caution, ?Measured $measure = null, ?int $count = null, string $message = 'said'): Finding
    {
        return new Finding($code, $severity, $message, 'mend it', $subject, $measure, count: $count);
    }

    /**
     * @return list<list<string>> codes of those gone, new, better, worse and the same
     */
    private static function codes(FindingChanges $changes): array
    {
        $code = static fn (Finding $one): string => $one->code;
        $pair = static fn (array $pair): string => $pair[1]->code;

        return [array_map($code, $changes->gone), array_map($code, $changes->new), array_map($pair, $changes->better), array_map($pair, $changes->worse), array_map($code, $changes->same)];
    }
}
