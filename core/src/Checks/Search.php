<?php

declare(strict_types=1);

namespace Anvil\Checks;

/**
 * Finds checks by their names, and by the words for what a bad bake looks like: "dark edge", "clipped".
 */
final class Search
{
    /** Endings that say the same word: "smears", "smeared" and "smear". */
    private const ENDINGS = '/(?:ings?|ed|es|s|y)$/';

    /**
     * @return list<About> the best first; each has every word that is looked for
     */
    public static function of(string $text): array
    {
        $words = self::words($text);
        if ($words === []) {
            return [];
        }
        $found = [];
        foreach (Catalogue::about() as $about) {
            $score = self::score($about, $words);
            if ($score > 0) {
                $found[] = [$score, $about];
            }
        }
        usort($found, static fn (array $a, array $b): int => [$b[0], $a[1]->row] <=> [$a[0], $b[1]->row]);

        return array_column($found, 1);
    }

    /**
     * @param  non-empty-list<string>  $words
     */
    private static function score(About $about, array $words): int
    {
        $score = 0;
        // What is seen counts more than what it is called.
        foreach ([[4, implode(' ', $about->symptoms)], [3, str_replace('-', ' ', $about->code)], [2, $about->title], [1, $about->afterBake]] as [$weight, $told]) {
            $own = self::words($told);
            $hits = count(array_filter($words, static fn (string $word): bool => array_filter($own, static fn (string $one): bool => str_starts_with($one, $word)) !== []));
            if ($hits === count($words)) {
                $score += $weight;
            }
        }

        return $score;
    }

    /**
     * @return list<string> in lower case, without endings
     */
    private static function words(string $text): array
    {
        $words = preg_split('/[^\p{L}\p{N}]+/u', mb_strtolower(str_ireplace('colour', 'color', $text)), -1, PREG_SPLIT_NO_EMPTY) ?: [];

        return array_map(static fn (string $word): string => mb_strlen($word) > 4 ? (string) preg_replace(self::ENDINGS, '', $word) : $word, $words);
    }
}
