<?php

declare(strict_types=1);

namespace Anvil\Report;

use Anvil\Checks\About;
use Anvil\Checks\Catalogue;
use Anvil\Checks\CheckResult;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\OfResults;
use Anvil\Checks\Runner;
use Anvil\Measures\Measures;
use Anvil\Measures\NotKnown;
use Anvil\Standard\Limits;
use Anvil\Standard\Severity;
use Anvil\Standard\Standard;
use Anvil\Standard\Waiver;

/**
 * What each check measured on an asset, whether it went beyond its limit or not: held against other limits and severities in a moment, without a
 * mesh and without a measure. What it cannot foretell it says.
 *
 * @phpstan-type Row array{float, string, int}
 * @phpstan-type Kept array{values: list<Row>, less: bool, fixed: array<string, int>, from: float|string|null, notRun: bool}
 */
final readonly class LimitValues
{
    /** So many of a check, the worst first. */
    private const MOST = 2000;

    /** Limits that every value is beyond: those that are a most, and those that are a least. */
    private const TINY = 1e-9;

    private const HUGE = 1e9;

    /** More than their value decides, or what they look at goes by their limit. */
    private const NOT_BY_VALUE = ['texel-density', 'reach-short', 'cage-pierced', 'span-closed', 'id-close', 'floater-rim', 'unit-mismatch', 'transform-unfrozen', 'proof-retouch', 'id-missing', 'uv-missing', 'cage-topology', 'cage-inverted', 'surfaces-cross', 'ray-lean'];

    /** Their built-in limit goes with the map size, and what they look at with their limit. */
    private const BY_MAP_SIZE = ['uv-padding', 'uv-border'];

    /**
     * @param  array<string, Kept>  $codes  `from`: `all`: of every limit it is known what goes beyond; a number: of limits that are no stricter; null: of none
     */
    private function __construct(private array $codes)
    {
    }

    /**
     * @param  list<CheckResult>  $results  of these measures, by their own standard
     * @param  list<Waiver>  $waivers
     */
    public static function of(Measures $measures, array $results, array $waivers = []): self
    {
        $standard = $measures->asset->standard;
        $codes = [];
        $strict = [];
        foreach ([self::TINY, self::HUGE] as $limit) {
            $strict[] = [$limit, $measures->under($standard->withLimits(self::everywhere($limit)))];
        }
        foreach ($results as $result) {
            $about = $result->about;
            $own = self::own($result, $measures);
            $fixed = self::tally($own ?? $result->findings, $waivers);
            $kept = ['values' => [], 'less' => false, 'fixed' => $fixed, 'from' => null, 'notRun' => $result->state === 'not-run'];
            $known = $own === null || $result->state === 'not-run' ? null : self::known($about, $own, $standard, $strict, $waivers);
            // Only what comes out right of the limit that is in force is believed of another one.
            $isRight = $known !== null && self::counted([...$kept, ...$known], $about, $standard) == self::reworded($fixed, $about, $standard);
            $codes[$about->code] = $known !== null && $isRight ? [...$kept, ...$known, 'fixed' => []] : $kept;
        }

        return new self($codes);
    }

    /**
     * @return array<string, array{limit: float, caution: float}> of all checks but those that measures go by
     */
    private static function everywhere(float $limit): array
    {
        $out = [];
        foreach (Catalogue::about() as $about) {
            if ($about->limit !== null && ! Limits::isOf($about->code)) {
                $out[$about->code] = ['limit' => $limit, 'caution' => $limit];
            }
        }

        return $out;
    }

    /**
     * Its findings under the severities that the check itself gives; null where those cannot be told.
     *
     * @return list<Finding>|null
     */
    private static function own(CheckResult $result, Measures $measures): ?array
    {
        $code = $result->about->code;
        if (! isset($measures->asset->standard->checks[$code]['severity'])) {
            return $result->findings;
        }
        $check = Catalogue::get($code);
        try {
            return $check === null || $check instanceof OfResults ? null : $check->run($measures)->findings;
        } catch (NotKnown) {
            return null;
        }
    }

    /**
     * @param  list<Finding>  $findings
     * @param  list<Waiver>  $waivers
     * @return array<string, int> severity, with ` waived` where it is → how many
     */
    private static function tally(array $findings, array $waivers): array
    {
        $out = [];
        foreach ($findings as $finding) {
            $key = $finding->severity->value.($finding->waiver($waivers) === null ? '' : ' waived');
            $out[$key] = ($out[$key] ?? 0) + 1;
        }

        return $out;
    }

    /**
     * @param  list<Finding>  $findings  as the check itself gives them
     * @param  list<array{float, Measures}>  $strict
     * @param  list<Waiver>  $waivers
     * @return array{values: list<Row>, less: bool, from: float|string}|null
     */
    private static function known(About $about, array $findings, Standard $standard, array $strict, array $waivers): ?array
    {
        $check = Catalogue::get($about->code);
        $isBySize = in_array($about->code, self::BY_MAP_SIZE, true);
        if (($about->limit === null && ! $isBySize) || $about->unit === null || in_array($about->code, self::NOT_BY_VALUE, true) || $check === null || $check instanceof OfResults) {
            return null;
        }
        if ($isBySize || Limits::isOf($about->code)) {
            $rows = self::rows($about, $findings, $isBySize ? null : $about->limitBy($standard), $waivers);

            return $rows === null ? null : ['values' => $rows, 'less' => $isBySize || $about->code === 'id-mix', 'from' => $isBySize ? self::inForce($about, $standard) : min($about->limitBy($standard), $about->caution === null ? INF : self::caution($about, $standard))];
        }
        foreach ($strict as [$limit, $measures]) {
            try {
                $rows = self::rows($about, $check->run($measures)->findings, $limit, $waivers);
            } catch (NotKnown) {
                $rows = null;
            }
            if ($rows === null || $rows !== []) {
                return $rows === null ? null : ['values' => $rows, 'less' => $limit === self::HUGE, 'from' => 'all'];
            }
        }

        return ['values' => [], 'less' => false, 'from' => 'all'];
    }

    /**
     * @param  list<Finding>  $findings
     * @param  float|null  $limit  that was in force; null: in the terms of the value
     * @param  list<Waiver>  $waivers
     * @return list<Row>|null null where one goes by something else
     */
    private static function rows(About $about, array $findings, ?float $limit, array $waivers): ?array
    {
        $rows = [];
        foreach ($findings as $finding) {
            if ($finding->measure === null || $finding->measure->unit !== $about->unit) {
                return null;
            }
            $rows[] = [self::comparable($finding->measure, $limit), $finding->severity->value, $finding->waiver($waivers) === null ? 0 : 1];
        }
        usort($rows, static fn (array $a, array $b): int => abs($b[0]) <=> abs($a[0]));

        return count($rows) > self::MOST ? null : $rows;
    }

    /** A value in the terms of its limit: lengths are measured in file units, and their limits are shares of a size. */
    private static function comparable(Measured $measure, ?float $limit): float
    {
        return $limit !== null && $measure->unit === 'length' && $measure->limit > 0.0 ? $measure->value * $limit / $measure->limit : $measure->value;
    }

    private static function inForce(About $about, Standard $standard): float
    {
        return match ($about->code) {
            'uv-padding' => $standard->padding(),
            'uv-border' => $standard->limit('uv-border', $standard->padding() / 2),
            default => $about->limitBy($standard),
        };
    }

    /** That of a shift goes with the limit, where the standard does not set it. */
    private static function caution(About $about, Standard $standard): float
    {
        return $about->code === 'off-alignment' ? $standard->cautionOf($about->code) ?? 0.2 * $about->limitBy($standard) : $about->cautionBy($standard);
    }

    /** Whether it is known what a check would find by the limits of a standard; severities it always is. */
    public function foretells(string $code, Standard $standard): bool
    {
        $kept = $this->codes[$code] ?? null;
        $about = Catalogue::about()[$code] ?? null;
        if ($kept === null || $about === null || ! is_numeric($kept['from'])) {
            return $kept !== null && $about !== null && $kept['from'] === 'all' && self::inForce($about, $standard) >= 0.0;
        }
        $limit = self::inForce($about, $standard);

        return $kept['less'] ? $limit <= (float) $kept['from'] : min($limit, $about->caution === null ? INF : self::caution($about, $standard)) >= (float) $kept['from'];
    }

    /**
     * What the checks would find by other limits and severities; nothing else of a standard is looked at.
     *
     * @return array<string, array<string, int>> code → severity (`blocker`, `caution`, `note`, or each with ` waived`; or `not-run`) → how many findings
     */
    public function under(Standard $standard): array
    {
        $out = [];
        $about = Catalogue::about();
        foreach ($this->codes as $code => $kept) {
            if (! isset($about[$code])) {
                continue;
            }
            $counts = $kept['from'] === null ? self::reworded($kept['fixed'], $about[$code], $standard) : self::counted($kept, $about[$code], $standard);
            if ($kept['notRun'] && $standard->severity($code, $about[$code]->severity) === Severity::Blocker) {
                $counts['not-run'] = 1;
            }
            if ($counts !== []) {
                $out[$code] = $counts;
            }
        }

        return $out;
    }

    /**
     * @param  array<string, array<string, int>>  $found  of `under`
     */
    public static function isReady(array $found): bool
    {
        return array_filter($found, static fn (array $counts): bool => isset($counts['blocker']) || isset($counts['not-run'])) === [];
    }

    /**
     * @param  Kept  $kept
     * @return array<string, int>
     */
    private static function counted(array $kept, About $about, Standard $standard): array
    {
        $counts = [];
        foreach (self::judged($kept, $about, $standard) as [$severity, $waived]) {
            $key = $severity->value.($waived ? ' waived' : '');
            $counts[$key] = ($counts[$key] ?? 0) + 1;
        }

        return $counts;
    }

    /**
     * @param  Kept  $kept
     * @return iterable<array{Severity, bool, 'limit'|'caution', float}> of each value that is found: severity, whether it is waived, what it goes beyond, and the value
     */
    private static function judged(array $kept, About $about, Standard $standard): iterable
    {
        [$limit, $caution] = [self::inForce($about, $standard), self::caution($about, $standard)];
        foreach ($standard->isOff($about->code) ? [] : $kept['values'] as [$value, $own, $waived]) {
            $isBeyond = static fn (float $limit): bool => $kept['less'] ? $value < $limit : $value > $limit;
            [$severity, $of] = match (true) {
                // With a limit for each, the value tells which; else the check has told.
                $isBeyond($limit) => [$about->caution === null || $own === Severity::Note->value ? Severity::from($own) : $about->severity, 'limit'],
                $about->caution !== null && $isBeyond($caution) => [Severity::Caution, 'caution'],
                default => [null, 'limit'],
            };
            $severity = $severity === null ? null : Runner::severityBy($standard, $about, $severity);
            if ($severity !== null) {
                yield [$severity, $waived === 1, $of, (float) $value];
            }
        }
    }

    /**
     * What blocks or is a caution and nobody waived: of each check the worst value beyond each limit, or how many findings where no limit decides.
     *
     * @return list<array{code: string, of: 'limit'|'caution'|null, was: float, value: float, less: bool, count: int}>
     */
    public function faults(Standard $standard): array
    {
        $out = [];
        foreach (Catalogue::about() as $code => $about) {
            $kept = $this->codes[$code] ?? null;
            if ($kept === null) {
                continue;
            }
            $own = [];
            foreach ($kept['from'] === null ? [] : self::judged($kept, $about, $standard) as [$severity, $isWaived, $of, $value]) {
                if ($isWaived || $severity === Severity::Note) {
                    continue;
                }
                $isWorse = ! isset($own[$of]) || ($kept['less'] ? $value < $own[$of]['value'] : $value > $own[$of]['value']);
                $own[$of] = ['code' => $code, 'of' => $of, 'was' => $of === 'limit' ? self::inForce($about, $standard) : self::caution($about, $standard), 'value' => $isWorse ? $value : $own[$of]['value'], 'less' => $kept['less'], 'count' => ($own[$of]['count'] ?? 0) + 1];
            }
            $fixed = $kept['from'] === null ? array_diff_key(self::reworded($kept['fixed'], $about, $standard), ['note' => 0, 'blocker waived' => 0, 'caution waived' => 0, 'note waived' => 0]) : [];
            $isStuck = $kept['notRun'] && $standard->severity($code, $about->severity) === Severity::Blocker;
            array_push($out, ...array_values($own));
            if ($fixed !== [] || $isStuck) {
                $out[] = ['code' => $code, 'of' => null, 'was' => 0.0, 'value' => 0.0, 'less' => false, 'count' => array_sum($fixed)];
            }
        }

        return $out;
    }

    /**
     * What was found, under other severities.
     *
     * @param  array<string, int>  $fixed
     * @return array<string, int>
     */
    private static function reworded(array $fixed, About $about, Standard $standard): array
    {
        $out = [];
        foreach ($standard->isOff($about->code) ? [] : $fixed as $key => $count) {
            $words = explode(' ', $key);
            $severity = Runner::severityBy($standard, $about, Severity::from($words[0]));
            if ($severity !== null) {
                $to = $severity->value.(isset($words[1]) ? ' waived' : '');
                $out[$to] = ($out[$to] ?? 0) + $count;
            }
        }

        return $out;
    }

    /**
     * @return array<string, Kept> as it is kept
     */
    public function toArray(): array
    {
        return $this->codes;
    }

    /**
     * @param  array<string, Kept>  $kept
     */
    public static function ofArray(array $kept): self
    {
        return new self($kept);
    }
}
