<?php

declare(strict_types=1);

namespace Anvil\Formats\Usd;

use Anvil\Geometry\Matrix;
use Anvil\Unreadable;

/**
 * A prim's local transform from its xformOps, in the order of `xformOpOrder`.
 *
 * @internal
 */
final class XformOps
{
    /**
     * @param  array<string, true>  $remarks
     * @return array{Matrix, bool} the matrix, and whether what stands above is left out
     */
    public static function of(Prim $prim, array &$remarks): array
    {
        $order = $prim->raw('xformOpOrder');
        $matrix = Matrix::identity();
        $reset = false;
        if ($order === null) {
            return [$matrix, false];
        }
        preg_match_all('/"([^"]*)"/', $order, $found);
        foreach ($found[1] as $name) {
            if ($name === '!resetXformStack!') {
                $matrix = Matrix::identity();
                $reset = true;

                continue;
            }
            $inverted = str_starts_with($name, '!invert!');
            $name = $inverted ? substr($name, 8) : $name;
            $raw = $prim->raw($name);
            if ($raw === null) {
                $remarks["$name has no value at rest and is passed over"] = true;

                continue;
            }
            $one = self::op(explode(':', $name)[1] ?? '', Values::floats($raw, $prim->lineOf($name)), $prim->lineOf($name));
            if ($inverted) {
                $one = $one->inverse() ?? throw Unreadable::onLine($prim->lineOf($name), "$name of $prim->path cannot be inverted");
            }
            $matrix = $matrix->times($one);
        }

        return [$matrix, $reset];
    }

    /**
     * @param  list<float>  $v
     */
    private static function op(string $kind, array $v, int $line): Matrix
    {
        $need = match (true) {
            $kind === 'transform' => 16, $kind === 'orient' => 4,
            in_array($kind, ['rotateX', 'rotateY', 'rotateZ'], true) => 1, default => 3,
        };
        if (count($v) !== $need) {
            throw Unreadable::onLine($line, "xformOp:$kind needs $need numbers and has ".count($v));
        }
        $none = [0.0, 0.0, 0.0];
        $ones = [1.0, 1.0, 1.0];
        if (preg_match('/^rotate([XYZ]{1,3})$/', $kind, $found) === 1) {
            $matrix = Matrix::identity();
            // The first axis named is turned about first, so it stands last.
            foreach (array_reverse(str_split($found[1])) as $axis) {
                $k = (int) strpos('XYZ', $axis);
                $half = deg2rad($need === 1 ? $v[0] : $v[$k]) / 2;
                $sine = sin($half);
                $q = [$k === 0 ? $sine : 0.0, $k === 1 ? $sine : 0.0, $k === 2 ? $sine : 0.0, cos($half)];
                $matrix = $matrix->times(Matrix::ofTrs($none, $q, $ones));
            }

            return $matrix;
        }

        return match ($kind) {
            // USD multiplies rows from the left, so its rows are these columns.
            'transform' => Matrix::of($v),
            'orient' => Matrix::ofTrs($none, [$v[1], $v[2], $v[3], $v[0]], $ones),
            'translate' => Matrix::ofTrs($v, [0.0, 0.0, 0.0, 1.0], $ones),
            'scale' => Matrix::ofTrs($none, [0.0, 0.0, 0.0, 1.0], $v),
            default => throw Unreadable::onLine($line, 'xformOp:'.mb_strimwidth(mb_scrub($kind), 0, 30, '…').' is not known'),
        };
    }
}
