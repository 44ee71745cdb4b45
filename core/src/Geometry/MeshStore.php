<?php

declare(strict_types=1);

namespace Anvil\Geometry;

use RuntimeException;

/**
 * A mesh as compact bytes, so that no later step parses text again: `YAM2`, the length of a JSON header, the header (block sizes,
 * materials), then blocks of little-endian float32 and uint32. A corner without UV or normal is 2^32−1.
 */
final class MeshStore
{
    private const MAGIC = 'YAM2';

    private const FLOATS = ['positions', 'uvs', 'normals', 'colors'];

    private const INTS = ['triangles', 'triUvs', 'triNormals', 'faces', 'smoothing'];

    public static function encode(Mesh $mesh): string
    {
        $sizes = [];
        $blocks = '';
        foreach ([...self::FLOATS, ...self::INTS] as $name) {
            $sizes[$name] = count($mesh->{$name});
        }
        foreach (self::FLOATS as $name) {
            $blocks .= Bytes::packFloats($mesh->{$name});
        }
        if ($mesh->tangents !== []) {
            // Few files have any: those that do not are stored as ever.
            $sizes['tangents'] = count($mesh->tangents);
            $blocks .= Bytes::packFloats($mesh->tangents);
        }
        // glTF numbers positions, UVs and normals alike: what equals the triangles is kept once.
        $same = [];
        foreach (self::INTS as $name) {
            if ($name !== 'triangles' && $mesh->{$name} !== [] && $mesh->{$name} === $mesh->triangles) {
                $same[] = $name;
                $sizes[$name] = 0;

                continue;
            }
            $blocks .= Bytes::packUints($mesh->{$name});
        }
        $header = json_encode(['sizes' => $sizes, 'same' => $same, 'materials' => $mesh->materials, 'materialRuns' => $mesh->materialRuns], JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE);

        return self::MAGIC.pack('V', strlen($header)).$header.$blocks;
    }

    /**
     * @throws RuntimeException when the bytes are no store or are cut short
     */
    public static function decode(string $bytes): Mesh
    {
        if (substr($bytes, 0, 4) !== self::MAGIC || strlen($bytes) < 8) {
            throw new RuntimeException('these bytes are no geometry store');
        }
        $length = Bytes::uints(substr($bytes, 4, 4))[0];
        /** @var array{sizes: array<string, int>, same: list<string>, materials: list<string>, materialRuns: list<array{int, int}>} $header */
        $header = json_decode(substr($bytes, 8, $length), true, 16, JSON_THROW_ON_ERROR);
        $at = 8 + $length;
        if (strlen($bytes) !== $at + 4 * array_sum($header['sizes'])) {
            throw new RuntimeException('the geometry store is cut short');
        }
        $floats = $ints = [];
        foreach (self::FLOATS as $name) {
            $floats[$name] = Bytes::floats(substr($bytes, $at, 4 * $header['sizes'][$name]));
            $at += 4 * $header['sizes'][$name];
        }
        $tangents = $header['sizes']['tangents'] ?? 0;
        $floats['tangents'] = $tangents === 0 ? [] : Bytes::floats(substr($bytes, $at, 4 * $tangents));
        $at += 4 * $tangents;
        foreach (self::INTS as $name) {
            $block = Bytes::uints(substr($bytes, $at, 4 * $header['sizes'][$name]));
            $at += 4 * $header['sizes'][$name];
            if ($name === 'triUvs' || $name === 'triNormals') {
                foreach ($block as $i => $value) {
                    if ($value === 0xFFFFFFFF) {
                        $block[$i] = -1;
                    }
                }
            }
            $ints[$name] = $block;
        }

        foreach ($header['same'] as $name) {
            $ints[$name] = $ints['triangles'];
        }

        return new Mesh($floats['positions'], $ints['triangles'], $floats['uvs'], $ints['triUvs'], $floats['normals'], $ints['triNormals'], $floats['colors'], $ints['faces'], $header['materials'], $header['materialRuns'], $ints['smoothing'], $floats['tangents']);
    }
}
