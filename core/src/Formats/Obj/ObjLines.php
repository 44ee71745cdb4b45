<?php

declare(strict_types=1);

namespace Anvil\Formats\Obj;

use Anvil\Unreadable;
use Generator;

/**
 * The lines of an OBJ file, block by block, and whether they are what they should be.
 */
final class ObjLines
{
    /** Far under what a pattern takes: it gives up after a million steps, and then all of the block is read line by line. */
    private const BLOCK = 1 << 16;

    private const LONGEST_LINE = 1 << 20;

    public const NUMBER = '[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?';

    /**
     * The lines of a file in blocks, in one form: one blank between words, no comments, no lines that go on.
     *
     * @param  resource  $stream
     * @return Generator<array{string, int}> lines, and how many stand before them
     */
    public static function blocks($stream): Generator
    {
        $rest = '';
        $line = 0;
        $offset = 0;
        while (! feof($stream)) {
            $read = fread($stream, self::BLOCK);
            if ($read === false) {
                throw Unreadable::atByte($offset, 'the file cannot be read further');
            }
            $zero = strpos($read, "\0");
            if ($zero !== false) {
                throw Unreadable::atByte($offset + $zero, 'a zero byte: this is not an OBJ text file in an eight-bit encoding (UTF-16 has to be saved as UTF-8)');
            }
            $offset += strlen($read);
            $block = $rest.$read;
            $end = strrpos($block, "\n");
            if ($end === false && strpos($block, "\r") !== false && ! str_ends_with($block, "\r")) {
                $end = strrpos($block, "\r");
            }
            // A line that goes on with a backslash stays whole.
            while ($end !== false && $end > 0 && self::goesOn($block, $end)) {
                $end = strrpos($block, "\n", $end - 1 - strlen($block));
            }
            if ($end === false) {
                $rest = $block;
                if (strlen($rest) > self::LONGEST_LINE) {
                    throw Unreadable::onLine($line + 1, 'is over 1 MiB long; no exporter writes that, so the file is damaged or not an OBJ file');
                }

                continue;
            }
            $rest = substr($block, $end + 1);
            if (strlen($rest) > self::LONGEST_LINE) {
                throw Unreadable::onLine($line + substr_count($block, "\n", 0, $end + 1) + 1, 'is over 1 MiB long; no exporter writes that, so the file is damaged or not an OBJ file');
            }
            $lines = substr($block, 0, $end);
            yield [self::plain($lines), $line];
            $line += self::count($lines);
        }
        if ($rest !== '') {
            yield [self::plain($rest), $line];
        }
    }

    /** Whether the line that ends here ends in a backslash. Nothing is copied: of many such lines each would be as long as all before it. */
    private static function goesOn(string $block, int $end): bool
    {
        do {
            $end--;
        } while ($end > 0 && $block[$end] === "\r");

        return $block[$end] === '\\';
    }

    /** What a pattern that gave up would lose is told. */
    private static function replaced(?string $block): string
    {
        return $block ?? throw Unreadable::because('lines of it are too long to be read as OBJ text');
    }

    private static function count(string $lines): int
    {
        return substr_count(str_replace(["\r\n", "\r"], "\n", $lines), "\n") + 1;
    }

    private static function plain(string $block): string
    {
        if (strpos($block, "\r") !== false) {
            $block = str_replace(["\r\n", "\r"], "\n", $block);
        }
        if (strpos($block, "\\\n") !== false) {
            // The joined line is followed by as many empty ones, so that line numbers stay true.
            $block = self::replaced(preg_replace_callback('/^(?:[^\n]*\\\\\n)+[^\n]*/m', static fn (array $m): string => str_replace("\\\n", ' ', $m[0]).str_repeat("\n", substr_count($m[0], "\n")), $block));
        }
        if (strpos($block, "\t") !== false) {
            $block = str_replace("\t", ' ', $block);
        }
        if (strpos($block, '#') !== false) {
            $block = self::replaced(preg_replace('/(^|[ \d])#[^\n]*/m', '$1', $block));
        }
        if (strpos($block, '  ') !== false) {
            $block = self::replaced(preg_replace('/ {2,}/', ' ', $block));
        }
        if (strpos($block, " \n") !== false || strpos($block, "\n ") !== false || ($block[0] ?? '') === ' ' || str_ends_with($block, ' ')) {
            $block = self::replaced(preg_replace('/^ | $/m', '', $block));
        }
        if (stripos($block, 'nan') !== false || stripos($block, 'inf') !== false || strpos($block, '1.#') !== false) {
            // A normal that is no number is kept as zero, and told of by a check; a place that is none is an error.
            $block = self::replaced(preg_replace('/^vn (?=.*(?:nan|inf|#))(?:(?:'.self::NUMBER.'|[-+]?(?:nan(?:\(\w*\))?|inf(?:inity)?|1\.#\w+)) ?){3}$/mi', 'vn 0 0 0', $block));
        }

        return $block."\n";
    }

    /** Finds the first `v`, `vt`, `vn` or `f` line that is not what it should be. */
    public static function check(string $block, int $line): void
    {
        $number = self::NUMBER;
        $corner = '-?\d+(?:\/(?:-?\d+)?(?:\/(?:-?\d+)?)?)?';
        $bad = "/^(?:v(?! $number(?: $number){2,6}+$|t $number(?: $number){0,2}+$|n $number(?: $number){2}+$|p )|f(?! $corner(?: $corner){2,}+$|o ))/m";
        $found = preg_match($bad, $block, $at, PREG_OFFSET_CAPTURE);
        if ($found === false) {
            throw Unreadable::onLine($line + 1, $block[0] === 'f' ? 'is a face of more corners than can be read; triangulate it' : 'is too long to be read as OBJ text');
        }
        if ($found === 1) {
            $where = $at[0][1];
            $text = substr($block, $where, (strpos($block, "\n", $where) ?: strlen($block)) - $where);
            $number = $line + substr_count($block, "\n", 0, $where) + 1;
            throw Unreadable::onLine($number, 'is not a valid '.($text[0] === 'f' ? 'face (at least three corners of whole numbers)' : 'vertex line (numbers, none of them NaN or infinite)').': "'.mb_strimwidth(mb_scrub($text), 0, 60, '…').'"');
        }
    }
}
