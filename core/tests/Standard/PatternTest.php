<?php

declare(strict_types=1);

namespace Anvil\Tests\Standard;

use Anvil\Standard\Pattern;
use PHPUnit\Framework\TestCase;

/** Names with `*`: as PHP's regular expressions match them where these come to an end, and in a moment where they do not. */
final class PatternTest extends TestCase
{
    public function test_it_fits_what_a_regular_expression_fits(): void
    {
        $words = [''];
        foreach (['a', 'b', '*'] as $ignored) {
            foreach ($words as $word) {
                array_push($words, "a$word", "b$word", "*$word", "é$word");
            }
            $words = array_values(array_unique($words));
        }
        $names = array_values(array_filter($words, static fn (string $word): bool => ! str_contains($word, '*')));
        $fits = 0;
        foreach ($words as $pattern) {
            $expression = '/^'.str_replace('\*', '.*', preg_quote($pattern, '/')).'$/suD';
            foreach ($names as $name) {
                $expected = preg_match($expression, $name) === 1;
                $fits += $expected ? 1 : 0;
                self::assertSame($expected, Pattern::anyFits([$pattern], $name), "$pattern on $name");
            }
        }
        self::assertGreaterThan(200, $fits);
        self::assertFalse(Pattern::anyFits(['post'], "post\n"));
        self::assertTrue(Pattern::anyFits(['ab*ba'], 'abba'));
        self::assertFalse(Pattern::anyFits(['ab*ba'], 'aba'), 'no letter is taken twice');
    }

    /** With `.*` for each star, PHP's expressions give up here, and what was left out would be judged. */
    public function test_many_stars_are_told_in_a_moment(): void
    {
        $stars = str_repeat('a*', 2000);
        $name = str_repeat('a', 30_000);
        self::assertNotSame(1, @preg_match('/^'.str_replace('\*', '.*', preg_quote($stars, '/')).'b$/su', $name));
        self::assertFalse(Pattern::anyFits([$stars.'b'], $name));
        self::assertTrue(Pattern::anyFits([$stars], $name));
        self::assertTrue(Pattern::anyFits([str_repeat('*', 50_000).'b'], $name.'b'));
    }
}
