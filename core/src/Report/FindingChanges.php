<?php

declare(strict_types=1);

namespace Anvil\Report;

use Anvil\Checks\Finding;
use Anvil\Standard\Severity;

/**
 * What became of the findings of the last delivery: matched by code and subject, across renames (METHODS, "What changed between deliveries").
 */
final readonly class FindingChanges
{
    /** Of the value: what is measured on samples may differ by so little where nothing of it changed. */
    private const SAME = 1e-3;

    /**
     * @param  list<Finding>  $gone
     * @param  list<Finding>  $new
     * @param  list<array{Finding, Finding}>  $better  then and now
     * @param  list<array{Finding, Finding}>  $worse  then and now
     * @param  list<Finding>  $same  now
     */
    private function __construct(public array $gone, public array $new, public array $better, public array $worse, public array $same)
    {
    }

    /**
     * @param  list<Finding>  $before
     * @param  list<Finding>  $after
     * @param  array<string, string>  $renames  name then → name now
     */
    public static function of(array $before, array $after, array $renames): self
    {
        $waiting = [];
        foreach ($before as $number => $finding) {
            $waiting[self::key($finding, $renames)][] = $number;
        }
        $gone = $before;
        $new = $better = $worse = $same = [];
        foreach ($after as $now) {
            $key = self::key($now, []);
            if (($waiting[$key] ?? []) === []) {
                $new[] = $now;

                continue;
            }
            $number = array_shift($waiting[$key]);
            $then = $before[$number];
            unset($gone[$number]);
            $change = self::compared($then, $now);
            if ($change > 0) {
                $worse[] = [$then, $now];
            } elseif ($change < 0) {
                $better[] = [$then, $now];
            } else {
                $same[] = $now;
            }
        }

        return new self(array_values($gone), $new, $better, $worse, $same);
    }

    /**
     * What a finding is about. A part is known by its name, whatever its file is called in this delivery.
     *
     * @param  array<string, string>  $renames
     */
    public static function key(Finding $finding, array $renames): string
    {
        $subject = $finding->subject;
        if (isset($subject['part']) || isset($subject['set'])) {
            unset($subject['file']);
        } elseif (isset($subject['file'])) {
            $subject['file'] = basename(str_replace('\\', '/', $subject['file']));
        }
        foreach (['part', 'other', 'set'] as $name) {
            if (isset($subject[$name])) {
                $subject[$name] = $renames[$subject[$name]] ?? $subject[$name];
            }
        }
        ksort($subject);

        return json_encode([$finding->code, $subject], JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE);
    }

    /** 1: worse now, −1: better, 0: the same. */
    private static function compared(Finding $then, Finding $now): int
    {
        $rank = static fn (Severity $severity): int => match ($severity) {
            Severity::Blocker => 2, Severity::Caution => 1, default => 0,
        };
        if ($then->severity !== $now->severity) {
            return $rank($now->severity) <=> $rank($then->severity);
        }
        if ($then->measure !== null && $now->measure !== null && $then->measure->unit === $now->measure->unit) {
            [$old, $new] = [$then->measure->value, $now->measure->value];
            if (abs($old - $new) <= self::SAME * max(abs($old), abs($new))) {
                return 0;
            }

            // A ratio and its reciprocal are as bad as each other: neither is worse.
            return $now->measure->isWorseThan($old) ? 1 : ($then->measure->isWorseThan($new) ? -1 : 0);
        }

        return ($now->count ?? 0) <=> ($then->count ?? 0);
    }

    /**
     * @return array{gone: list<array<string, mixed>>, new: list<array<string, mixed>>, better: list<array<string, mixed>>, worse: list<array<string, mixed>>, same: int} as `anvil:changes --json` prints it
     */
    public function toArray(): array
    {
        $plain = static fn (Finding $finding): array => $finding->toArray();

        return ['gone' => array_map($plain, $this->gone), 'new' => array_map($plain, $this->new), 'better' => array_map(self::both(...), $this->better), 'worse' => array_map(self::both(...), $this->worse), 'same' => count($this->same)];
    }

    /**
     * @param  array{Finding, Finding}  $pair
     * @return array<string, mixed>
     */
    private static function both(array $pair): array
    {
        [$then, $now] = $pair;

        return [...$now->toArray(), 'was' => array_filter(['severity' => $then->severity->value, 'measure' => $then->measure?->toArray(), 'count' => $then->count], static fn (mixed $value): bool => $value !== null)];
    }
}
