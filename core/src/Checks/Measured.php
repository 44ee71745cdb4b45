<?php

declare(strict_types=1);

namespace Anvil\Checks;

/**
 * A measured value beside its limit, in one unit: `share` (0–1), `length` (file units), `ratio`, `deg`, `px`, `dE00` or `count`.
 */
final readonly class Measured
{
    /** Of a value: half of its ninth digit, and a little more. */
    private const PRINTED = 1e-8;

    /**
     * @param  bool  $lessIsWorse  the limit is a least value
     */
    public function __construct(public float $value, public float $limit, public string $unit, public bool $lessIsWorse = false)
    {
    }

    public function isWorseThan(float $value): bool
    {
        // A ratio is as bad either way round.
        if ($this->unit === 'ratio' && $this->value > 0 && $value > 0) {
            return abs(log($this->value)) > abs(log($value)) + 1e-9;
        }

        // What was printed was rounded: the value that somebody read is not worse than itself.
        $slack = self::PRINTED * abs($value);

        return $this->lessIsWorse ? $this->value < $value - $slack : $this->value > $value + $slack;
    }

    /**
     * @return array{value: float, limit: float, unit: string}
     */
    public function toArray(): array
    {
        return ['value' => self::rounded($this->value), 'limit' => self::rounded($this->limit), 'unit' => $this->unit];
    }

    /** Nine significant digits: more than any measure has, so that no two machines print differently. */
    private static function rounded(float $value): float
    {
        return (float) sprintf('%.9g', $value);
    }
}
