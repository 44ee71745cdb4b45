<?php

declare(strict_types=1);

namespace Anvil\Standard;

/**
 * The built-in limits that measures go by, too, before any check reads them: what counts as turned, apart or in doubt. Every other limit stands in
 * its check alone.
 */
final class Limits
{
    /** Code → the limit, and the one from which it is a caution where that is another. */
    private const BUILT_IN = [
        'unit-mismatch' => [2.0, null],
        'off-alignment' => [0.005, null],
        'high-covers-detail' => [0.001, null],
        'ray-miss' => [0.005, 0.0005],
        'low-margin' => [0.01, null],
        'span-closed' => [0.005, 0.0005],
        'surface-gap' => [0.01, null],
        'sets-bleed' => [0.001, null],
        'id-close' => [5.0, null],
        'id-mix' => [10.0, null],
        'uv-pose' => [1e-6, null],
    ];

    /** Whether measures go by the limit of a code. */
    public static function isOf(string $code): bool
    {
        return isset(self::BUILT_IN[$code]);
    }

    public static function of(string $code): float
    {
        return self::BUILT_IN[$code][0];
    }

    /** The limit from which it is a caution; the only one where there is no other. */
    public static function cautionOf(string $code): float
    {
        return self::BUILT_IN[$code][1] ?? self::of($code);
    }
}
