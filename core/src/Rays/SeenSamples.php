<?php

declare(strict_types=1);

namespace Anvil\Rays;

/**
 * Which of a set's samples are seen: each looked at by itself, when somebody asks.
 */
final class SeenSamples
{
    /** The share of seen area is estimated on about so many samples a set; what goes wrong is looked at sample by sample. */
    private const ESTIMATED = 768;

    private const LEAST_ESTIMATED = 96;

    /** @var array<int, bool> */
    private array $known = [];

    /**
     * @param  Visibility|null  $visibility  null: all of the set is seen, since what covers it comes off in use
     */
    public function __construct(private readonly LowSurface $low, private readonly Samples $samples, private readonly ?Visibility $visibility)
    {
    }

    public function has(int $i): bool
    {
        if ($this->visibility === null) {
            return true;
        }
        if (! isset($this->known[$i])) {
            $f = 3 * $this->samples->triangle[$i];
            $n = $this->low->normals;
            $this->known[$i] = $this->visibility->seen($this->samples->px[$i], $this->samples->py[$i], $this->samples->pz[$i], $n[$f], $n[$f + 1], $n[$f + 2]);
        }

        return $this->known[$i];
    }

    /** About how much of the low area is seen, 0–1. */
    public function share(): float
    {
        $count = $this->samples->count();
        $stride = max(1, intdiv($count, max(self::LEAST_ESTIMATED, min(self::ESTIMATED, intdiv($count, 64)))));
        $all = $seen = 0.0;
        for ($i = 0; $i < $count; $i += $stride) {
            $weight = $this->samples->weight[$i];
            $all += $weight;
            if ($this->has($i)) {
                $seen += $weight;
            }
        }

        return $all > 0.0 ? $seen / $all : 0.0;
    }
}
