<?php

declare(strict_types=1);

namespace Anvil\Tests\Checks;

use Anvil\Asset\Asset;
use Anvil\Asset\ReadFile;
use Anvil\Checks\About;
use Anvil\Checks\Catalogue;
use Anvil\Checks\Search;
use Anvil\Checks\Words;
use Anvil\Geometry\Part;
use Anvil\Geometry\Scene;
use Anvil\Modelling\Shapes;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;
use Anvil\Unreadable;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Lengths with their units, and checks found by what a bad bake looks like.
 */
final class WordsAndSearchTest extends TestCase
{
    /** @param  string|null  $unit  of the file */
    private static function asset(?string $unit, string $standard = '{}'): Asset
    {
        return Asset::of([new ReadFile('x_low.glb', null, 'aa', new Scene('glb', [new Part('a_low', Shapes::box(1, 1, 1)->mesh())], $unit), null)], Standard::ofJson($standard), Choices::ofJson('{}'));
    }

    public function test_lengths_have_three_digits_and_the_unit_that_suits_them(): void
    {
        $words = static fn (float $length, ?string $unit): string => Words::length($length, self::asset($unit));
        self::assertSame(['0 cm', '0.123 mm', '9.9 mm', '1 cm', '1.24 cm', '99.4 cm', '0.998 m', '12.3 m'], array_map(static fn (float $v): string => $words($v, 'm'), [0.0, 0.0001234, 0.0099, 0.01, 0.012399, 0.994, 0.998, 12.34]));
        self::assertSame(['0.124 cm', '0.124 units', '0.124 file units'], [$words(0.12399, 'cm'), $words(0.12399, null), $words(0.12399, '0.0254 m')]);
        self::assertSame('(0.0124, 0, -0.3) m', Words::vector([0.0124, 0.0, -0.3], self::asset('m')));
        self::assertSame('(1, 2, 3) units', Words::vector([1.0, 2.0, 3.0], self::asset(null)));
    }

    public function test_a_standard_says_the_unit_of_files_that_say_none(): void
    {
        self::assertSame('cm', self::asset(null, '{"unit":"cm"}')->unit());
        self::assertSame('cm', self::asset(null, (string) json_encode(Standard::ofJson('{"unit":"cm"}')->named('quay')->asWhole()->toArray()))->unit(), 'kept where a standard is copied');
        self::assertArrayNotHasKey('unit', Standard::builtIn()->toArray());
        self::assertNull(self::asset(null)->unit());
        $this->expectException(Unreadable::class);
        Standard::ofJson('{"unit":"cubit"}');
    }

    /**
     * The words of CHECKS.md for what a bad bake looks like.
     *
     * @return iterable<string, array{string, string}>
     */
    public static function symptoms(): iterable
    {
        foreach ([
            'dark edge' => 'floater-rim', 'clipped detail' => 'reach-short', 'green or red patches' => 'mesh-flipped', 'checkerboard' => 'mesh-doubled', 'bleeding colours' => 'sets-bleed', 'flaring' => 'cage-inverted',
            'jagged or pixelated edges' => 'high-not-denser', 'leaning screws' => 'ray-lean', 'banding' => 'high-faceted', 'a line at a seam' => 'normals-missing', 'waviness at a rim' => 'overhang',
            'Ray-Miss' => 'ray-miss', 'smeared' => 'ray-miss', 'UVs' => 'uv-missing',
        ] as $words => $code) {
            yield $words => [$words, $code];
        }
    }

    #[DataProvider('symptoms')]
    public function test_a_symptom_leads_to_its_checks(string $words, string $code): void
    {
        self::assertContains($code, array_map(static fn (About $about): string => $about->code, Search::of($words)));
    }

    public function test_the_best_comes_first_and_nothing_is_found_for_what_nobody_says(): void
    {
        self::assertSame('ray-miss', Search::of('ray miss')[0]->code);
        self::assertSame('sets-bleed', Search::of('color bleed')[0]->code, 'what is seen counts more than the rest of the words');
        self::assertSame([], Search::of('zebra'));
        self::assertSame([], Search::of(' – '));
        self::assertSame([], Search::of('dark zebra'), 'every word counts');
        foreach (Catalogue::about() as $about) {
            self::assertContains($about, Search::of($about->code), $about->code);
        }
    }
}
