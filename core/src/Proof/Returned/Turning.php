<?php

declare(strict_types=1);

namespace Anvil\Proof\Returned;

/** How an image is turned so that it fits; turns go counter-clockwise, as the UVs are seen. */
enum Turning: string
{
    case AsIs = 'as-is';
    case Rotate90 = 'rotate-90';
    case Rotate180 = 'rotate-180';
    case Rotate270 = 'rotate-270';
    case MirrorU = 'mirror-u';
    case MirrorV = 'mirror-v';
    case Transpose = 'transpose';
    case AntiTranspose = 'anti-transpose';

    /**
     * Where the texel that comes to lie at a place was before.
     *
     * @return array{int, int} column and row
     */
    public function source(int $x, int $y, int $size): array
    {
        $last = $size - 1;

        return match ($this) {
            self::AsIs => [$x, $y],
            self::Rotate90 => [$last - $y, $x],
            self::Rotate180 => [$last - $x, $last - $y],
            self::Rotate270 => [$y, $last - $x],
            self::MirrorU => [$last - $x, $y],
            self::MirrorV => [$x, $last - $y],
            self::Transpose => [$y, $x],
            self::AntiTranspose => [$last - $y, $last - $x],
        };
    }

    /** In words: what the map that came back has to be. */
    public function words(): string
    {
        return match ($this) {
            self::AsIs => 'left as it is', self::Rotate90 => 'turned by 90° counter-clockwise', self::Rotate180 => 'turned by 180°', self::Rotate270 => 'turned by 90° clockwise',
            self::MirrorU => 'mirrored left to right', self::MirrorV => 'mirrored top to bottom', self::Transpose => 'mirrored over the diagonal from top left', self::AntiTranspose => 'mirrored over the diagonal from top right',
        };
    }
}
