<?php

declare(strict_types=1);

namespace Anvil\Standard;

/**
 * Every code of the check catalogue, built or not: what a standard may set a severity or limit for.
 */
final class CheckCodes
{
    public const ALL = [
        'file-unreadable', 'file-empty', 'file-extras', 'role-unknown', 'role-mixed', 'unit-mismatch', 'axis-mismatch',
        'off-alignment', 'transform-unfrozen', 'transform-mirrored', 'pivot-differs', 'name-duplicate', 'high-doubled',
        'name-unsafe', 'mesh-degenerate', 'mesh-nonmanifold', 'mesh-flipped', 'mesh-doubled', 'mesh-loose', 'mesh-ngon',
        'normals-missing', 'normals-invalid', 'normals-inverted', 'triangle-budget', 'material-count', 'material-stray', 'material-missing',
        'high-not-denser', 'pair-self', 'high-faceted', 'high-covers-detail', 'pair-no-high', 'pair-no-low',
        'suffix-case', 'name-case', 'suffix-missing', 'name-near', 'pair-crossed', 'pair-apart', 'set-incomplete',
        'ray-miss', 'low-margin', 'floater-unbacked', 'floater-rim', 'high-unseen', 'overhang', 'reach-short', 'reach-long',
        'span-closed', 'sets-bleed', 'surfaces-cross', 'surface-gap', 'buried', 'cage-topology', 'cage-pierced',
        'cage-inverted', 'explode-clash', 'explode-drift', 'ray-lean', 'id-missing', 'id-close', 'id-mix', 'id-dull',
        'id-reused', 'id-gradient', 'id-drift', 'uv-missing', 'uv-outside', 'uv-overlap', 'uv-degenerate',
        'uv-mirrored', 'uv-padding', 'uv-border', 'uv-stretch', 'texel-density', 'texel-coarse', 'uv-use', 'uv-turned',
        'uv-pose', 'page-hidden', 'hard-no-seam', 'seam-not-hard', 'soft-over-sharp', 'rim-wave', 'silhouette-loss',
        'package-readback', 'package-stale', 'package-mixed', 'part-gone', 'tie-half-moved',
    ];
}
