<?php

declare(strict_types=1);

namespace Anvil\Pairing;

use Anvil\Standard\Standard;

/**
 * How near two bases are by their letters (METHODS, "Near name").
 */
final class NearName
{
    public const MOST = 2;

    /**
     * A base without numbering and copy tails, and without a role suffix that stood before such a tail; in lower case.
     */
    public static function stripped(string $base, Standard $standard): string
    {
        $text = mb_strtolower($base);
        do {
            $before = $text;
            $cut = preg_replace('/(?:[._\- ]+(?:\d+|copy(?:[._\- ]?\d+)?)|[._\- ]*\((?:\d+|copy)\))$/u', '', $text);
            if (is_string($cut) && $cut !== '') {
                $text = $cut;
            }
            foreach ($standard->suffixes as $suffixes) {
                foreach ($suffixes as $suffix) {
                    $plain = mb_strtolower(rtrim($suffix, '*'));
                    if ($before !== $text && $plain !== '' && str_ends_with($text, $plain) && strlen($text) > strlen($plain)) {
                        $text = substr($text, 0, -strlen($plain));
                    }
                }
            }
        } while ($text !== $before);

        return $text;
    }

    /**
     * Unrestricted Damerau–Levenshtein distance: insertions, deletions, substitutions and swaps of letters that may have others put
     * between them afterwards (R. Lowrance, R. A. Wagner, "An Extension of the String-to-String Correction Problem", 1975).
     */
    public static function distance(string $a, string $b): int
    {
        $x = mb_str_split($a);
        $y = mb_str_split($b);
        $n = count($x);
        $m = count($y);
        $far = $n + $m;
        $d = [[]];
        $d[0][0] = $far;
        for ($i = 0; $i <= $n; $i++) {
            $d[$i + 1][0] = $far;
            $d[$i + 1][1] = $i;
        }
        for ($j = 0; $j <= $m; $j++) {
            $d[0][$j + 1] = $far;
            $d[1][$j + 1] = $j;
        }
        $last = [];
        for ($i = 1; $i <= $n; $i++) {
            $lastMatch = 0;
            for ($j = 1; $j <= $m; $j++) {
                $row = $last[$y[$j - 1]] ?? 0;
                $column = $lastMatch;
                $cost = 1;
                if ($x[$i - 1] === $y[$j - 1]) {
                    $cost = 0;
                    $lastMatch = $j;
                }
                $d[$i + 1][$j + 1] = min(
                    $d[$i][$j] + $cost, $d[$i + 1][$j] + 1, $d[$i][$j + 1] + 1,
                    $d[$row][$column] + ($i - $row - 1) + 1 + ($j - $column - 1),
                );
            }
            $last[$x[$i - 1]] = $i;
        }

        return $d[$n + 1][$m + 1];
    }

    public static function isNear(string $a, string $b): bool
    {
        if (abs(mb_strlen($a) - mb_strlen($b)) > self::MOST) {
            return false;
        }
        // A swap is two plain edits, so names further apart than that are told off fast.
        if (strlen($a) < 255 && strlen($b) < 255 && mb_check_encoding($a.$b, 'ASCII') && levenshtein($a, $b) > 2 * self::MOST) {
            return false;
        }

        return self::distance($a, $b) <= self::MOST;
    }
}
