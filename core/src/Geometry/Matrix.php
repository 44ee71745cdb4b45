<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * A 4×4 affine matrix, column-major as in glTF: element (row, column) is `m[4·column + row]`.
 */
final readonly class Matrix
{
    /**
     * @param  list<float>  $m  16
     */
    private function __construct(public array $m)
    {
    }

    public static function identity(): self
    {
        return new self([1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0]);
    }

    /**
     * @param  list<float>  $m  16, column-major
     */
    public static function of(array $m): self
    {
        return new self($m);
    }

    /**
     * @param  list<float>  $t  3
     * @param  list<float>  $r  unit quaternion x y z w; another length is made unit
     * @param  list<float>  $s  3
     */
    public static function ofTrs(array $t, array $r, array $s): self
    {
        [$x, $y, $z, $w] = $r;
        $length = sqrt($x * $x + $y * $y + $z * $z + $w * $w);
        if ($length > 0.0) {
            $x /= $length;
            $y /= $length;
            $z /= $length;
            $w /= $length;
        } else {
            $w = 1.0;
        }

        return new self([
            (1 - 2 * ($y * $y + $z * $z)) * $s[0], 2 * ($x * $y + $z * $w) * $s[0], 2 * ($x * $z - $y * $w) * $s[0], 0.0,
            2 * ($x * $y - $z * $w) * $s[1], (1 - 2 * ($x * $x + $z * $z)) * $s[1], 2 * ($y * $z + $x * $w) * $s[1], 0.0,
            2 * ($x * $z + $y * $w) * $s[2], 2 * ($y * $z - $x * $w) * $s[2], (1 - 2 * ($x * $x + $y * $y)) * $s[2], 0.0,
            $t[0], $t[1], $t[2], 1.0,
        ]);
    }

    public function times(self $other): self
    {
        $out = [];
        for ($c = 0; $c < 16; $c += 4) {
            for ($r = 0; $r < 4; $r++) {
                $out[] = $this->m[$r] * $other->m[$c] + $this->m[4 + $r] * $other->m[$c + 1]
                    + $this->m[8 + $r] * $other->m[$c + 2] + $this->m[12 + $r] * $other->m[$c + 3];
            }
        }

        return new self($out);
    }

    public function isIdentity(): bool
    {
        return $this->m === self::identity()->m;
    }

    /** Uniform scale about the origin. */
    public static function scaling(float $by): self
    {
        return new self([$by, 0.0, 0.0, 0.0, 0.0, $by, 0.0, 0.0, 0.0, 0.0, $by, 0.0, 0.0, 0.0, 0.0, 1.0]);
    }

    /** Null where it flattens. */
    public function inverse(): ?self
    {
        $columns = [];
        foreach ([[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]] as $axis) {
            $column = $this->unapplied($axis);
            if ($column === null) {
                return null;
            }
            array_push($columns, $column[0], $column[1], $column[2], 0.0);
        }
        $linear = new self([...$columns, 0.0, 0.0, 0.0, 1.0]);
        $t = $linear->points([-$this->m[12], -$this->m[13], -$this->m[14]]);

        return new self([...$columns, $t[0], $t[1], $t[2], 1.0]);
    }

    /**
     * The origin of the frame that it places.
     *
     * @return array{float, float, float}
     */
    public function origin(): array
    {
        return [$this->m[12], $this->m[13], $this->m[14]];
    }

    /** Greatest difference of an element of the linear part from none at all. */
    public function offIdentity(): float
    {
        return $this->linearDifference(self::identity());
    }

    /** Greatest difference of an element of the linear parts. */
    public function linearDifference(self $other): float
    {
        $most = 0.0;
        foreach ([0, 1, 2, 4, 5, 6, 8, 9, 10] as $k) {
            $most = max($most, abs($this->m[$k] - $other->m[$k]));
        }

        return $most;
    }

    /** How much the lengths of the three axes differ, as a share of the longest. */
    public function unevenness(): float
    {
        $lengths = [];
        foreach ([0, 4, 8] as $k) {
            $lengths[] = sqrt($this->m[$k] ** 2 + $this->m[$k + 1] ** 2 + $this->m[$k + 2] ** 2);
        }

        return max($lengths) > 0.0 ? (max($lengths) - min($lengths)) / max($lengths) : 0.0;
    }

    /** Whether it does nothing but turn axes into their opposites, an odd number of them. */
    public function isPlainMirror(float $slack): bool
    {
        if ($this->determinant() >= 0.0) {
            return false;
        }
        foreach ([0, 1, 2, 4, 5, 6, 8, 9, 10] as $k) {
            $wanted = $k % 5 === 0 ? 1.0 : 0.0;
            if (abs(abs($this->m[$k]) - $wanted) > $slack) {
                return false;
            }
        }

        return true;
    }

    /** Of the linear part; negative mirrors. */
    public function determinant(): float
    {
        $m = $this->m;

        return $m[0] * ($m[5] * $m[10] - $m[6] * $m[9]) - $m[4] * ($m[1] * $m[10] - $m[2] * $m[9]) + $m[8] * ($m[1] * $m[6] - $m[2] * $m[5]);
    }

    /**
     * @param  list<float>  $xyz  n×3
     * @return list<float>
     */
    public function points(array $xyz): array
    {
        [$a, $b, $c, , $d, $e, $f, , $g, $h, $i, , $tx, $ty, $tz] = $this->m;
        $count = count($xyz);
        $out = [];
        for ($k = 0; $k < $count; $k += 3) {
            $x = $xyz[$k];
            $y = $xyz[$k + 1];
            $z = $xyz[$k + 2];
            $out[] = $a * $x + $d * $y + $g * $z + $tx;
            $out[] = $b * $x + $e * $y + $h * $z + $ty;
            $out[] = $c * $x + $f * $y + $i * $z + $tz;
        }

        return $out;
    }

    /**
     * Tangents turned as directions on the surface are, their lengths kept; the sign of the bitangent turns over where the matrix mirrors.
     *
     * @param  list<float>  $xyzw
     * @return list<float>
     */
    public function tangents(array $xyzw): array
    {
        $m = $this->m;
        $sign = $this->determinant() < 0 ? -1.0 : 1.0;
        $out = [];
        for ($k = 0, $count = count($xyzw); $k + 3 < $count; $k += 4) {
            [$x, $y, $z] = [$xyzw[$k], $xyzw[$k + 1], $xyzw[$k + 2]];
            $u = $m[0] * $x + $m[4] * $y + $m[8] * $z;
            $v = $m[1] * $x + $m[5] * $y + $m[9] * $z;
            $w = $m[2] * $x + $m[6] * $y + $m[10] * $z;
            $length = sqrt($u * $u + $v * $v + $w * $w);
            $scale = $length > 0.0 ? sqrt($x * $x + $y * $y + $z * $z) / $length : 0.0;
            array_push($out, $u * $scale, $v * $scale, $w * $scale, $sign * $xyzw[$k + 3]);
        }

        return $out;
    }

    /**
     * Normals: by the cofactors of the linear part, lengths made unit again where the matrix scales.
     *
     * @param  list<float>  $xyz  n×3
     * @return list<float>
     */
    public function normals(array $xyz): array
    {
        $m = $this->m;
        $sign = $this->determinant() < 0 ? -1.0 : 1.0;
        $a = $sign * ($m[5] * $m[10] - $m[6] * $m[9]);
        $b = $sign * ($m[8] * $m[6] - $m[4] * $m[10]);
        $c = $sign * ($m[4] * $m[9] - $m[8] * $m[5]);
        $d = $sign * ($m[9] * $m[2] - $m[1] * $m[10]);
        $e = $sign * ($m[0] * $m[10] - $m[8] * $m[2]);
        $f = $sign * ($m[8] * $m[1] - $m[0] * $m[9]);
        $g = $sign * ($m[1] * $m[6] - $m[5] * $m[2]);
        $h = $sign * ($m[4] * $m[2] - $m[0] * $m[6]);
        $i = $sign * ($m[0] * $m[5] - $m[4] * $m[1]);
        $count = count($xyz);
        $out = [];
        for ($k = 0; $k < $count; $k += 3) {
            $x = $xyz[$k];
            $y = $xyz[$k + 1];
            $z = $xyz[$k + 2];
            $before = sqrt($x * $x + $y * $y + $z * $z);
            $u = $a * $x + $d * $y + $g * $z;
            $v = $b * $x + $e * $y + $h * $z;
            $w = $c * $x + $f * $y + $i * $z;
            $length = sqrt($u * $u + $v * $v + $w * $w);
            $scale = $length > 0.0 ? $before / $length : 0.0;
            $out[] = $u * $scale;
            $out[] = $v * $scale;
            $out[] = $w * $scale;
        }

        return $out;
    }

    /**
     * The vector whose image under the linear part is the one given; null where the matrix flattens.
     *
     * @param  array{float, float, float}  $v
     * @return array{float, float, float}|null
     */
    public function unapplied(array $v): ?array
    {
        $m = $this->m;
        $det = $this->determinant();
        if ($det === 0.0) {
            return null;
        }

        return [
            (($m[5] * $m[10] - $m[9] * $m[6]) * $v[0] + ($m[8] * $m[6] - $m[4] * $m[10]) * $v[1] + ($m[4] * $m[9] - $m[8] * $m[5]) * $v[2]) / $det,
            (($m[9] * $m[2] - $m[1] * $m[10]) * $v[0] + ($m[0] * $m[10] - $m[8] * $m[2]) * $v[1] + ($m[8] * $m[1] - $m[0] * $m[9]) * $v[2]) / $det,
            (($m[1] * $m[6] - $m[5] * $m[2]) * $v[0] + ($m[4] * $m[2] - $m[0] * $m[6]) * $v[1] + ($m[0] * $m[5] - $m[4] * $m[1]) * $v[2]) / $det,
        ];
    }
}
