<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Formats\Source;
use Generator;

/**
 * Goes through an OBJ file line by line and knows which group, vertex and face it is at, as the reader does.
 *
 * @internal
 */
final class ObjWalk
{
    /** The group in force, counted as they begin; the first one is named by the file. */
    public int $group = 0;

    /** The face within its group, from 0. */
    public int $face = -1;

    /** Vertices so far. */
    public int $vertices = 0;

    /** Whether the line just given names parts. */
    public bool $names = false;

    public function __construct(private readonly Source $source)
    {
    }

    /**
     * @return Generator<array{string, string}> its first word, and the line as it stands, lines that go on joined
     */
    public function lines(): Generator
    {
        $in = $this->source->open();
        $open = [];
        $groups = 1;
        $faces = [];
        $byObject = false;
        while (($line = fgets($in)) !== false) {
            while (preg_match('/\\\\\r?\n$/', $line) === 1 && ($next = fgets($in)) !== false) {
                $line .= $next;
            }
            $at = strspn($line, " \t");
            $kind = substr($line, $at, strcspn($line, " \t\r\n", $at));
            $this->names = false;
            if ($kind === 'f') {
                $this->face = $faces[$this->group] = ($faces[$this->group] ?? -1) + 1;
            } elseif ($kind === 'v') {
                $this->vertices++;
            } elseif ($kind === 'o') {
                $byObject = true;
                $this->group = $groups++;
                $this->names = true;
            } elseif ($kind === 'g' && ! $byObject) {
                $name = trim(substr($line, $at + 1));
                $this->group = $open[$name] ??= $groups++;
                $this->names = true;
            }
            yield [$kind, $line];
        }
        fclose($in);
    }
}
