<?php

declare(strict_types=1);

namespace Anvil\Proof;

/**
 * The trial maps of one page, texel by texel from the top: values inside islands, null outside and where nothing was met.
 */
final class TrialMaps
{
    public const KINDS = ['normal', 'ao', 'id', 'height', 'miss'];

    /**
     * @param  list<int>  $owners  triangle of the page at each texel, −1 outside
     * @param  array<int, array{float, float, float}>  $normal  tangent space, unit, green by the standard; by texel
     * @param  array<int, float>  $height  −1…1
     * @param  array<int, float>  $ao  0…1; empty where it was not asked for
     * @param  array<int, string>  $id  `#RRGGBB`
     * @param  array<int, int>  $miss  0, 128 or 255, of every texel inside
     * @param  array<int, true>  $atHard  texels whose hit lies within 1 % of d of a hard edge of the high poly; empty where nobody asks
     * @param  array<string, string>  $notShot  set → why none of its rays were shot
     * @param  array<int, array{float, float, float, float, float, float}>  $rays  low point and high point of each texel whose ray met something; where they are asked for
     */
    public function __construct(
        public readonly ProofPage $page,
        public readonly int $size,
        public readonly array $owners,
        public readonly array $normal,
        public readonly array $height,
        public readonly array $ao,
        public readonly array $id,
        public readonly array $miss,
        public readonly array $atHard,
        public readonly array $notShot,
        public readonly array $rays = [],
    ) {
    }

    public function inside(): int
    {
        return count($this->miss);
    }

    /** Share of the texels inside that are of a kind. */
    public function share(int $kind): float
    {
        $count = 0;
        foreach ($this->miss as $one) {
            $count += $one === $kind ? 1 : 0;
        }

        return $this->miss === [] ? 0.0 : $count / count($this->miss);
    }
}
