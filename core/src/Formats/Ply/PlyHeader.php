<?php

declare(strict_types=1);

namespace Anvil\Formats\Ply;

use Anvil\Unreadable;

/**
 * The head of a PLY file: how its numbers are written, and which elements with which properties follow.
 *
 * @internal
 *
 * @phpstan-type Property array{name: string, type: string, count: string|null}
 * @phpstan-type Element array{name: string, count: int, properties: list<Property>}
 */
final readonly class PlyHeader
{
    /** type as written → [unpack code for little-endian, for big-endian, bytes] */
    public const TYPES = [
        'char' => ['c', 'c', 1], 'int8' => ['c', 'c', 1], 'uchar' => ['C', 'C', 1], 'uint8' => ['C', 'C', 1],
        'short' => ['v', 'n', 2], 'int16' => ['v', 'n', 2], 'ushort' => ['v', 'n', 2], 'uint16' => ['v', 'n', 2],
        'int' => ['V', 'N', 4], 'int32' => ['V', 'N', 4], 'uint' => ['V', 'N', 4], 'uint32' => ['V', 'N', 4],
        'float' => ['g', 'G', 4], 'float32' => ['g', 'G', 4], 'double' => ['e', 'E', 8], 'float64' => ['e', 'E', 8],
    ];

    private const LONGEST = 1 << 20;

    /**
     * @param  string  $encoding  ascii, binary_little_endian or binary_big_endian
     * @param  list<Element>  $elements
     * @param  string  $text  the head as it stands in the file, its last line break included
     * @param  int  $lines  how many lines that is
     */
    private function __construct(public string $encoding, public array $elements, public string $text, public int $lines)
    {
    }

    /**
     * @param  resource  $stream  at byte 0; left behind the head
     *
     * @throws Unreadable
     */
    public static function read($stream): self
    {
        $text = '';
        $lines = 0;
        $encoding = null;
        $elements = $properties = [];
        while (true) {
            $line = self::line($stream);
            $lines++;
            $text .= $line;
            if ($line === '' || strlen($text) > self::LONGEST) {
                throw Unreadable::onLine($lines, 'the head of the PLY never comes to end_header; the file is cut short or damaged');
            }
            $words = preg_split('/\s+/', trim($line), -1, PREG_SPLIT_NO_EMPTY) ?: [];
            $first = $words[0] ?? '';
            if ($lines === 1) {
                if ($first !== 'ply') {
                    throw Unreadable::atByte(0, 'the file does not begin with "ply"');
                }

                continue;
            }
            if ($first === 'end_header') {
                break;
            }
            if ($first === 'format') {
                $encoding = $words[1] ?? '';
                if (! in_array($encoding, ['ascii', 'binary_little_endian', 'binary_big_endian'], true)) {
                    throw Unreadable::onLine($lines, 'the format is none of ascii, binary_little_endian and binary_big_endian');
                }
            } elseif ($first === 'element') {
                if (count($words) !== 3 || preg_match('/^\d{1,10}$/', $words[2]) !== 1) {
                    throw Unreadable::onLine($lines, 'an element needs a name and a count');
                }
                $elements[] = ['name' => $words[1], 'count' => (int) $words[2]];
            } elseif ($first === 'property') {
                $last = array_key_last($elements);
                if ($last === null) {
                    throw Unreadable::onLine($lines, 'a property stands before any element');
                }
                $properties[$last][] = self::property($words, $lines);
            } elseif ($elements !== [] && $first !== 'comment' && $first !== 'obj_info' && $first !== '') {
                // Before the first element some exporters write a comment without its keyword.
                throw Unreadable::onLine($lines, 'is no line of a PLY head: "'.mb_strimwidth(mb_scrub(trim($line)), 0, 60, '…').'"');
            }
        }
        if ($encoding === null) {
            throw Unreadable::onLine($lines, 'the head names no format');
        }

        $out = [];
        foreach ($elements as $i => $element) {
            $out[] = [...$element, 'properties' => $properties[$i] ?? []];
        }

        return new self($encoding, $out, $text, $lines);
    }

    /**
     * Bytes of one row of an element in a binary file; null where it holds lists.
     *
     * @param  list<Property>  $properties
     */
    public static function stride(array $properties): ?int
    {
        $bytes = 0;
        foreach ($properties as $property) {
            if ($property['count'] !== null) {
                return null;
            }
            $bytes += self::TYPES[$property['type']][2];
        }

        return $bytes;
    }

    /**
     * @param  resource  $stream
     */
    private static function line($stream): string
    {
        // Lines end in LF, CR LF, or a lone CR as old exporters write it.
        $line = '';
        while (($byte = fgetc($stream)) !== false) {
            $line .= $byte;
            if ($byte === "\n") {
                return $line;
            }
            if ($byte === "\r") {
                $next = fgetc($stream);
                if ($next === "\n") {
                    return $line.$next;
                }
                if ($next !== false) {
                    fseek($stream, -1, SEEK_CUR);
                }

                return $line;
            }
            if (strlen($line) > 65536) {
                return $line;
            }
        }

        return $line;
    }

    /**
     * @param  list<string>  $words
     * @return Property
     */
    private static function property(array $words, int $line): array
    {
        $known = static fn (string $type): bool => isset(self::TYPES[$type]);
        if (($words[1] ?? '') === 'list') {
            if (count($words) !== 5 || ! $known($words[2]) || ! $known($words[3]) || in_array(self::TYPES[$words[2]][0], ['g', 'e'], true)) {
                throw Unreadable::onLine($line, 'a list property needs a whole-number type for its length, a type and a name');
            }

            return ['name' => $words[4], 'type' => $words[3], 'count' => $words[2]];
        }
        if (count($words) !== 3 || ! $known($words[1])) {
            throw Unreadable::onLine($line, 'a property needs a type (char to double) and a name');
        }

        return ['name' => $words[2], 'type' => $words[1], 'count' => null];
    }
}
