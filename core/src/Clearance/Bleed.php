<?php

declare(strict_types=1);

namespace Anvil\Clearance;

/**
 * How much of a set's low area another set's high poly takes (METHODS, "Bleed").
 */
final readonly class Bleed
{
    /**
     * @param  string  $other  the set whose high poly is met first
     * @param  float  $share  of the seen low area
     * @param  float  $unseenShare  low area that is not seen and meets the other first, as a share of all low area
     * @param  list<array{float, float, float}>  $where
     */
    public function __construct(public string $other, public float $share, public float $unseenShare, public array $where)
    {
    }

    /**
     * @return array{other: string, share: float, unseenShare: float, where: list<array{float, float, float}>}
     */
    public function toArray(): array
    {
        return ['other' => $this->other, 'share' => $this->share, 'unseenShare' => $this->unseenShare, 'where' => $this->where];
    }
}
