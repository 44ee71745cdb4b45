<?php

declare(strict_types=1);

namespace Anvil\Formats\Obj;

use Anvil\Formats\Source;
use Anvil\Geometry\Color;
use Anvil\Unreadable;

/**
 * The colours that an MTL file sets explicitly (`Kd`), taken as sRGB, and which of its materials let light through (`d`, `Tr`, `map_d`).
 */
final class MtlReader
{
    private const LARGEST = 32 << 20;

    /**
     * @return array{array<string, string>, list<string>, array<string, string>} material name → `#RRGGBB`; the names of those that are cut out or blended; material name → picture
     *
     * @throws Unreadable when the file is absurdly large
     */
    public static function read(Source $source): array
    {
        if ($source->size() > self::LARGEST) {
            throw Unreadable::because("its material file {$source->name()} is over 32 MiB");
        }
        $stream = $source->open();
        $text = (string) stream_get_contents($stream);
        fclose($stream);
        $colors = $cutOut = $pictures = [];
        $name = null;
        foreach (preg_split('/\r\n|\r|\n/', $text) ?: [] as $line) {
            $line = trim($line);
            if (preg_match('/^newmtl\s+(.+)$/', $line, $found) === 1) {
                $name = mb_scrub($found[1]);
            } elseif ($name !== null && preg_match('/^Kd\s+([-+.\deE]+)(?:\s+([-+.\deE]+)\s+([-+.\deE]+))?\s*$/', $line, $found) === 1) {
                $red = (float) $found[1];
                $colors[$name] = Color::ofSrgb($red, (float) ($found[2] ?? $red), (float) ($found[3] ?? $red))->hex();
            } elseif ($name !== null && preg_match('/^map_Kd\s+(?:-\S+\s+(?:[-+.\deE]+\s+)*|on\s+|off\s+)*(.+)$/', $line, $found) === 1) {
                $pictures[$name] = mb_scrub($found[1]);
            } elseif ($name !== null && (preg_match('/^map_d\s+\S/', $line) === 1 || (preg_match('/^(d|Tr)\s+(?:-halo\s+)?([-+.\deE]+)\s*$/', $line, $found) === 1 && ($found[1] === 'd' ? (float) $found[2] < 1.0 : (float) $found[2] > 0.0)))) {
                $cutOut[] = $name;
            }
        }

        return [$colors, $cutOut, $pictures];
    }
}
