<?php

declare(strict_types=1);

namespace Anvil\Formats\Ply;

use Anvil\Geometry\Bytes;
use Anvil\Unreadable;
use Generator;

/**
 * The rows of a binary PLY, in either byte order.
 *
 * @internal
 *
 * @phpstan-import-type Element from PlyHeader
 */
final class PlyBinary
{
    private const BLOCK = 1 << 20;

    private string $bytes = '';

    private int $at = 0;

    /**
     * @param  resource  $stream  behind the head
     * @param  int  $offset  where that is
     */
    public function __construct(private $stream, private int $offset, private readonly int $size, private readonly bool $big)
    {
    }

    /**
     * @return array{string, int}
     */
    public function place(): array
    {
        return ['byte', $this->offset + $this->at];
    }

    /**
     * @param  Element  $element  without lists
     * @return Generator<int, list<int|float>> so many rows each, side by side
     */
    public function numbers(array $element, int $rows): Generator
    {
        $stride = PlyHeader::stride($element['properties']) ?? 0;
        $count = $element['count'];
        $this->demand($element['name'], $count, $stride);
        $codes = [];
        foreach ($element['properties'] as $property) {
            $codes[] = PlyHeader::TYPES[$property['type']];
        }
        $uniform = count(array_unique(array_column($codes, 0))) === 1 ? $codes[0][$this->big ? 1 : 0] : null;
        for ($done = 0; $done < $count; $done += $rows) {
            $take = min($rows, $count - $done);
            $this->need($take * $stride, $element['name'], $done, $count);
            $bytes = substr($this->bytes, $this->at, $take * $stride);
            $this->at += $take * $stride;
            if ($uniform !== null) {
                /** @var array<int, int|float> $read */
                $read = $uniform === 'g' ? Bytes::floats($bytes) : unpack("$uniform*", $bytes);
                yield self::signed(array_values($read), $element, $codes);

                continue;
            }
            $format = '';
            foreach ($codes as $i => $code) {
                // A digit behind the letter would be how often it repeats, so the key begins with another letter.
                $format .= $code[$this->big ? 1 : 0]."p$i/";
            }
            $format = rtrim($format, '/');
            $out = [];
            for ($i = 0; $i < $take; $i++) {
                /** @var array<int, int|float> $row */
                $row = unpack($format, $bytes, $i * $stride);
                foreach ($row as $value) {
                    $out[] = $value;
                }
            }
            yield self::signed($out, $element, $codes);
        }
    }

    /**
     * Rows that are one list each: a run of triangles at a time, or one face of another size.
     *
     * @param  Element  $element
     * @return Generator<int, array{bool, list<int>}> whether they are triangles, and the vertex numbers
     */
    public function lists(array $element, int $rows): Generator
    {
        $property = $element['properties'][0];
        $count = PlyHeader::TYPES[$property['count'] ?? 'uchar'];
        $type = PlyHeader::TYPES[$property['type']];
        $order = $this->big ? 1 : 0;
        $this->demand($element['name'], $element['count'], $count[2]);
        $triangle = $count[2] + 3 * $type[2];
        $three = pack($count[$order], 3);
        $format = "$count[$order]/{$type[$order]}3";
        for ($done = 0; $done < $element['count'];) {
            $take = min($rows, $element['count'] - $done);
            $this->fill($take * $triangle);
            $run = [];
            $plain = 0;
            if ($count[2] === 1) {
                // As long as each row says 3, they are read by their place in the block alone.
                $most = min($take, intdiv(strlen($this->bytes) - $this->at, $triangle));
                for ($at = $this->at; $plain < $most && $this->bytes[$at] === $three; $at += $triangle) {
                    $plain++;
                }
                if ($plain > 0) {
                    $run = $this->triangles($plain, $triangle, $type[2], $type[$order], in_array($type[0], ['V'], true) && ! str_starts_with($property['type'], 'u'));
                    $this->at += $plain * $triangle;
                    $done += $plain;
                    yield [true, $run];

                    continue;
                }
            }
            $list = $this->list($count, $type, $property['type'], $element['name'], $done, $element['count'], 100_000);
            $done++;
            yield [false, array_map(intval(...), $list)];
        }
    }

    /**
     * @param  Element  $element
     * @param  int  $longest  entries of a list
     * @return Generator<int, list<int|float|list<int|float>>>
     */
    public function rows(array $element, int $longest): Generator
    {
        for ($i = 0; $i < $element['count']; $i++) {
            $row = [];
            foreach ($element['properties'] as $property) {
                $type = PlyHeader::TYPES[$property['type']];
                if ($property['count'] !== null) {
                    $row[] = $this->list(PlyHeader::TYPES[$property['count']], $type, $property['type'], $element['name'], $i, $element['count'], $longest);

                    continue;
                }
                $this->need($type[2], $element['name'], $i, $element['count']);
                $row[] = $this->values(1, $type, $property['type'])[0];
            }
            yield $row;
        }
    }

    /**
     * @param  Element  $element
     */
    public function skip(array $element): void
    {
        $stride = PlyHeader::stride($element['properties']);
        if ($stride === null) {
            foreach ($this->rows($element, 1 << 26) as $_) {
                continue;
            }

            return;
        }
        $this->demand($element['name'], $element['count'], $stride);
        foreach ($stride === 0 ? [] : $this->numbers($element, 4096) as $_) {
            continue;
        }
    }

    /**
     * @return list<int>
     */
    private function triangles(int $count, int $stride, int $bytes, string $code, bool $isSigned): array
    {
        $out = [];
        $at = $this->at;
        $rows = 0;
        if ($bytes === 4) {
            // Four rows at a time, past the count of each: unpack makes a name for each number of a run, which takes twice as long.
            $four = "x/{$code}a/{$code}b/{$code}c/x/{$code}d/{$code}e/{$code}f/x/{$code}g/{$code}h/{$code}i/x/{$code}j/{$code}k/{$code}l";
            for (; $rows + 4 <= $count; $rows += 4, $at += 4 * $stride) {
                /** @var array{a: int, b: int, c: int, d: int, e: int, f: int, g: int, h: int, i: int, j: int, k: int, l: int} $read */
                $read = unpack($four, $this->bytes, $at);
                ['a' => $out[], 'b' => $out[], 'c' => $out[], 'd' => $out[], 'e' => $out[], 'f' => $out[], 'g' => $out[], 'h' => $out[], 'i' => $out[], 'j' => $out[], 'k' => $out[], 'l' => $out[]] = $read;
            }
        }
        for (; $rows < $count; $rows++, $at += $stride) {
            /** @var array{a: int, b: int, c: int} $read */
            $read = unpack("x/{$code}a/{$code}b/{$code}c", $this->bytes, $at);
            ['a' => $out[], 'b' => $out[], 'c' => $out[]] = $read;
        }
        if ($isSigned) {
            foreach ($out as $k => $value) {
                if ($value > 0x7FFFFFFF) {
                    $out[$k] = $value - 0x100000000;
                }
            }
        }

        return $out;
    }

    /**
     * @param  array{string, string, int}  $count
     * @param  array{string, string, int}  $type
     * @return list<int|float>
     */
    private function list(array $count, array $type, string $typeName, string $element, int $row, int $of, int $longest): array
    {
        $this->need($count[2], $element, $row, $of);
        $entries = (int) $this->values(1, $count, 'uint')[0];
        if ($entries > $longest) {
            throw Unreadable::atByte($this->offset + $this->at, "$element $row of $of has a list of $entries entries, which makes no sense here; the file is damaged");
        }
        $this->need($entries * $type[2], $element, $row, $of);

        return $this->values($entries, $type, $typeName);
    }

    /**
     * @param  array{string, string, int}  $type
     * @return list<int|float>
     */
    private function values(int $count, array $type, string $name): array
    {
        if ($count === 0) {
            return [];
        }
        $code = $type[$this->big ? 1 : 0];
        /** @var array<int, int|float> $read */
        $read = unpack($code.$count, $this->bytes, $this->at);
        $this->at += $count * $type[2];
        $least = match ($name) {
            'short', 'int16' => 0x8000, 'int', 'int32' => 0x80000000, default => null,
        };
        if ($least !== null) {
            foreach ($read as $k => $value) {
                if ($value >= $least) {
                    $read[$k] = $value - 2 * $least;
                }
            }
        }

        return array_values($read);
    }

    /**
     * @param  list<int|float>  $values
     * @param  Element  $element
     * @param  list<array{string, string, int}>  $codes
     * @return list<int|float>
     */
    private static function signed(array $values, array $element, array $codes): array
    {
        $width = count($codes);
        foreach ($element['properties'] as $k => $property) {
            $least = match ($property['type']) {
                'short', 'int16' => 0x8000, 'int', 'int32' => 0x80000000, default => null,
            };
            if ($least !== null) {
                for ($i = $k, $n = count($values); $i < $n; $i += $width) {
                    if ($values[$i] >= $least) {
                        $values[$i] -= 2 * $least;
                    }
                }
            }
        }

        return $values;
    }

    /** A count that the file's size cannot hold is told before anything is read. */
    private function demand(string $element, int $count, int $least): void
    {
        $left = $this->size - $this->offset - $this->at;
        if ($least > 0 && $count > intdiv(max(0, $left), $least)) {
            throw Unreadable::atByte($this->offset + $this->at, "the head says $count of $element, and the $left bytes that are left hold fewer; the file is cut short");
        }
    }

    private function need(int $bytes, string $element, int $row, int $of): void
    {
        $this->fill($bytes);
        if (strlen($this->bytes) - $this->at < $bytes) {
            throw Unreadable::atByte($this->offset + strlen($this->bytes), "the file ends in $element $row of $of; it is cut short");
        }
    }

    private function fill(int $bytes): void
    {
        if (strlen($this->bytes) - $this->at >= $bytes) {
            return;
        }
        $this->bytes = substr($this->bytes, $this->at);
        $this->offset += $this->at;
        $this->at = 0;
        while (strlen($this->bytes) < $bytes && ! feof($this->stream)) {
            $this->bytes .= (string) fread($this->stream, max(self::BLOCK, $bytes - strlen($this->bytes)));
        }
    }
}
