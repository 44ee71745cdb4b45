<?php

declare(strict_types=1);

namespace Anvil\Inspection;

use Anvil\Asset\GivenFile;
use Anvil\Checks\About;
use Anvil\Checks\Catalogue;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Measures\MeasureStore;
use Anvil\Report\LimitValues;
use Anvil\Standard\Choices;
use Anvil\Standard\RaySettings;
use Anvil\Standard\Severity;
use Anvil\Standard\Standard;
use Closure;

/**
 * A standard that assets which are known to be good all pass: each limit that one of them goes beyond is moved as far as the worst of them, and no further.
 * Limits that all keep stay as they are: a few good assets are no reason to be stricter with the next one.
 */
final readonly class LearnedStandard
{
    /** A limit that is moved may let a check see what it did not look at before. */
    private const ROUNDS = 3;

    /** Their limit is not what their value is held against. */
    private const NOT_BY_VALUE = ['texel-density'];

    /** Their built-in limit goes with the map size. */
    private const BY_MAP_SIZE = ['uv-padding', 'uv-border'];

    /** Digits of a limit that somebody would type. */
    private const DIGITS = 3;

    /**
     * @param  list<array{code: string, of: 'limit'|'caution', was: float, limit: float, value: float, unit: string, asset: string, others: int}>  $limits  that were moved, with the asset that sets each
     * @param  array<string, list<string>>  $left  asset → what no limit mends, as `code: message`
     */
    private function __construct(public Standard $standard, public array $limits, public array $left)
    {
    }

    /**
     * @param  array<string, list<GivenFile>>  $assets  by name
     * @param  Closure(string): void|null  $progress
     * @param  MeasureStore|null  $store  what was measured in one round is not measured again in the next
     */
    public static function of(array $assets, Standard $standard, Choices $choices, int $workers = 1, ?Closure $progress = null, ?MeasureStore $store = null): self
    {
        $moved = $left = $stuck = [];
        for ($round = 0; $round <= self::ROUNDS; $round++) {
            $left = $worst = [];
            foreach ($assets as $name => $files) {
                $report = Inspector::inspect($files, $standard, $choices, progress: $progress === null ? null : static fn (string $what) => $progress("$name: $what"), workers: $workers, store: $store);
                foreach ($report->findings() as $finding) {
                    if ($finding->severity === Severity::Note) {
                        continue;
                    }
                    $about = Catalogue::about()[$finding->code];
                    $of = $round < self::ROUNDS ? self::limitOf($about, $finding) : null;
                    $key = "$finding->code ".($of ?? '');
                    $limit = $of === null || $finding->measure === null ? null : self::beyond($finding->measure, self::scale($about, $standard, $of, $finding->measure));
                    if ($of === null && $round < self::ROUNDS) {
                        // It goes by something else as well: moving its limit was of no use.
                        foreach (['limit', 'caution'] as $one) {
                            if (isset($moved["$finding->code $one"]) && $moved["$finding->code $one"]['severity'] === $finding->severity) {
                                $stuck["$finding->code $one"] = true;
                            }
                        }
                    }
                    // What is found all the same once its limit was moved does not go by it; or only its worse half does.
                    $isMoved = isset($moved[$key]) && $limit === $moved[$key]['limit'];
                    if ($isMoved && $moved[$key]['severity'] === $finding->severity) {
                        $stuck[$key] = true;
                    }
                    if ($limit === null || $of === null || $finding->measure === null || $isMoved || isset($stuck[$key])) {
                        $left[(string) $name][] = "$finding->code: $finding->message";

                        continue;
                    }
                    $others = ($worst[$key]['others'] ?? []) + [(string) $name => true];
                    $isWorse = ! isset($worst[$key]) || self::isFurther($finding->measure, $limit, $worst[$key]['limit']);
                    $worst[$key] = ['measure' => $isWorse ? $finding->measure : $worst[$key]['measure'], 'limit' => $isWorse ? $limit : $worst[$key]['limit'], 'asset' => $isWorse ? (string) $name : $worst[$key]['asset'], 'others' => $others, 'about' => $about, 'of' => $of, 'severity' => $finding->severity];
                }
            }
            if ($worst === []) {
                break;
            }
            $limits = [];
            foreach ($worst as $key => ['measure' => $measure, 'limit' => $limit, 'asset' => $asset, 'others' => $others, 'about' => $about, 'of' => $of, 'severity' => $severity]) {
                $limits[$about->code][$of] = $limit;
                if ($of === 'limit' && $about->caution !== null) {
                    // What blocks no more does not caution either.
                    $limits[$about->code]['caution'] = $limit;
                }
                $moved[$key] = ['code' => $about->code, 'of' => $of, 'was' => $moved[$key]['was'] ?? self::current($about, $standard, $of, $measure), 'limit' => $limit, 'value' => $measure->value, 'unit' => $measure->unit, 'asset' => $asset, 'others' => count($others) - 1, 'severity' => $severity];
            }
            $standard = $standard->withLimits($limits);
        }
        $moved = array_diff_key($moved, $stuck);
        ksort($moved);
        $told = [];
        foreach ($moved as $one) {
            unset($one['severity']);
            $told[] = $one;
        }

        return new self($standard->withoutLimits(array_map(static fn (string $key): string => explode(' ', $key)[0], array_keys($stuck))), $told, $left);
    }

    /**
     * The same from what was measured before, in a moment: limits whose check goes by more than its value stay as they are.
     *
     * @param  array<string, LimitValues>  $assets  by name, as they were judged by this standard
     */
    public static function ofValues(array $assets, Standard $standard): self
    {
        $worst = $left = $limits = [];
        $about = Catalogue::about();
        foreach ($assets as $name => $values) {
            foreach ($values->faults($standard) as $fault) {
                $code = $fault['code'];
                if ($fault['of'] === null) {
                    $left[(string) $name][] = "$code: {$about[$code]->title}".($fault['count'] > 1 ? " ({$fault['count']})" : ($fault['count'] === 0 ? ' (did not run; known once it is checked again)' : ''));

                    continue;
                }
                $key = "$code {$fault['of']}";
                $limit = self::typed($fault['value'], $fault['less']);
                $isWorse = ! isset($worst[$key]) || ($fault['less'] ? $limit < $worst[$key]['limit'] : $limit > $worst[$key]['limit']);
                $one = $isWorse ? ['code' => $code, 'of' => $fault['of'], 'was' => $fault['was'], 'limit' => $limit, 'value' => $fault['value'], 'unit' => $about[$code]->unit === 'length' ? 'share' : (string) $about[$code]->unit, 'asset' => (string) $name] : $worst[$key];
                $worst[$key] = [...$one, 'others' => isset($worst[$key]) ? $worst[$key]['others'] + 1 : 0];
            }
        }
        ksort($worst);
        foreach ($worst as ['code' => $code, 'of' => $of, 'limit' => $limit]) {
            $limits[$code][$of] = $limit;
            if ($of === 'limit' && $about[$code]->caution !== null) {
                // What blocks no more does not caution either.
                $limits[$code]['caution'] = $limit;
            }
        }

        return new self($standard->withLimits($limits), array_values($worst), $left);
    }

    /** The same, for other rays than those that it was learned with. */
    public function withRays(RaySettings $rays): self
    {
        return new self($this->standard->withRays($rays), $this->limits, $this->left);
    }

    public function passesAll(): bool
    {
        return $this->left === [];
    }

    /**
     * Which limit a finding went beyond; null where none moves it.
     *
     * @return 'limit'|'caution'|null
     */
    private static function limitOf(About $about, Finding $finding): ?string
    {
        $measure = $finding->measure;
        if ($measure === null || $measure->unit !== $about->unit || ($about->limit === null && ! in_array($about->code, self::BY_MAP_SIZE, true)) || in_array($about->code, self::NOT_BY_VALUE, true) || ! $measure->isWorseThan($measure->limit)) {
            return null;
        }

        return $finding->severity === Severity::Caution && $about->caution !== null ? 'caution' : 'limit';
    }

    private static function current(About $about, Standard $standard, string $of, Measured $measure): float
    {
        return $about->limit === null ? $measure->limit : ($of === 'limit' ? $about->limitBy($standard) : $about->cautionBy($standard));
    }

    /** What a value is multiplied with to be compared with the limit: lengths are measured in file units, and their limits are shares of a size. */
    private static function scale(About $about, Standard $standard, string $of, Measured $measure): float
    {
        $current = self::current($about, $standard, $of, $measure);

        return $measure->unit === 'length' && $measure->limit > 0.0 && $current > 0.0 ? $current / $measure->limit : 1.0;
    }

    private static function isLess(Measured $measure): bool
    {
        return $measure->lessIsWorse || ($measure->unit === 'ratio' && $measure->value < 1.0);
    }

    private static function isFurther(Measured $measure, float $limit, float $than): bool
    {
        return self::isLess($measure) ? $limit < $than : $limit > $than;
    }

    /** The least limit of few digits that a value does not go beyond. */
    private static function beyond(Measured $measure, float $scale): float
    {
        return self::typed($measure->value * $scale, self::isLess($measure));
    }

    private static function typed(float $value, bool $isLess): float
    {
        if ($value === 0.0) {
            return 0.0;
        }
        $step = 10.0 ** (floor(log10(abs($value))) - self::DIGITS + 1);
        $steps = $isLess ? floor($value / $step) : ceil($value / $step);
        $limit = (float) sprintf('%.'.self::DIGITS.'g', $steps * $step);

        return ($isLess ? $limit > $value : $limit < $value) ? (float) sprintf('%.'.self::DIGITS.'g', ($steps + ($isLess ? -1 : 1)) * $step) : $limit;
    }

    /**
     * @return array{standard: array<string, mixed>, limits: list<array<string, mixed>>, left: object} as `anvil:standard:learn --json` prints it
     */
    public function toArray(): array
    {
        return ['standard' => $this->standard->toArray(), 'limits' => $this->limits, 'left' => (object) $this->left];
    }
}
