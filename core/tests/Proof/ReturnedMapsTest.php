<?php

declare(strict_types=1);

namespace Anvil\Tests\Proof;

use Anvil\Asset\GivenMap;
use Anvil\Asset\ReadFile;
use Anvil\Checks\Catalogue;
use Anvil\Checks\Runner;
use Anvil\Formats\Images\Image;
use Anvil\Formats\Images\ImageHeader;
use Anvil\Formats\Png\PngWriter;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Geometry\Scene;
use Anvil\Measures\Measures;
use Anvil\Measures\Plan;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Proof\MapPng;
use Anvil\Proof\ProofPage;
use Anvil\Proof\Returned\MapFaults;
use Anvil\Proof\TrialBake;
use Anvil\Report\Report;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\Assets;
use Anvil\Tests\Support\MemorySource;
use Closure;
use Imagick;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;

/**
 * Maps that came back, good ones and such as were altered by code: each gives its code, and no other.
 */
#[Group('matrix')]
final class ReturnedMapsTest extends TestCase
{
    private const SIZE = 128;

    private const PADDING = 4.0;

    /** @var array<string, Mesh>|null */
    private static ?array $high = null;

    /** @var array<string, list<array{int, int, int, int}>> kind and size → pixels of the good map, 16 bits */
    private static array $good = [];

    /**
     * A board with a boss, a groove that slants and a step, of two IDs: alike in no turn and no mirror.
     *
     * @return array<string, Mesh>
     */
    private static function high(): array
    {
        return self::$high ??= self::madeHigh();
    }

    /**
     * @return array<string, Mesh>
     */
    private static function madeHigh(): array
    {
        $shape = static fn (array $p): float => (0.1 * max(0.0, 1 - (($p[0] - 0.4) ** 2 + ($p[2] + 0.3) ** 2) / 0.12) - 0.06 * exp(-((($p[0] + $p[2] * 0.4 + 0.35) / 0.08) ** 2)) + 0.03 * $p[0] * $p[2] ** 2 + 0.03 * sin(7 * $p[0] + 2 * $p[2]));
        $mesh = Shapes::sheet(2, 2, 96, 96)->mapped(static fn (array $p): array => [$p[0], $shape($p), $p[2]])->triangulated()->mesh(180);
        // Quads of one side of a slanting line are red, the others blue: no triangle blends.
        $runs = [];
        $before = -1;
        for ($t = 0, $n = $mesh->triangleCount(); $t < $n; $t++) {
            $v = 3 * $mesh->triangles[3 * $t];
            $number = $mesh->positions[$v] + 0.6 * $mesh->positions[$v + 2] > 0.35 ? 1 : 0;
            if ($number !== $before) {
                $runs[] = [$t, $number];
                $before = $number;
            }
        }

        return ['a_high' => $mesh->wearing(['red', 'blue'], $runs)];
    }

    private static function low(): Polygons
    {
        // Most of the page, off its middle.
        return Shapes::sheet(2, 2)->placed(0.02, 0.05, 0.9);
    }

    /**
     * @param  list<GivenMap>  $maps
     */
    private static function report(array $maps, string $standard = '{}'): Report
    {
        $rules = json_encode(['mapSize' => self::SIZE, 'reach' => ['*' => ['out' => 0.3, 'in' => 0.2]], 'rays' => ['count' => 512], 'checks' => ['uv-padding' => ['limit' => self::PADDING]], ...(array) json_decode($standard, true)], JSON_THROW_ON_ERROR);
        $file = Assets::file('x_high.obj', self::high());
        $high = $file->scene?->parts[0] ?? self::fail('no part');
        $colored = new Part('a_high', $high->mesh, ['red' => '#E8112D', 'blue' => '#1F3F8F']);
        $high = new ReadFile('x_high.obj', null, 'h', new Scene('obj', [$colored], null, null, [], []), null);

        $measures = Measures::of([Assets::file('x_low.obj', ['a_low' => self::low()]), $high], Standard::ofJson($rules), new Choices, $maps);
        $codes = array_values(array_filter(array_keys(Catalogue::about()), static fn (string $code): bool => str_starts_with($code, 'map-')));
        Plan::of($measures, Runner::measures($measures, $codes))->run($measures);

        return new Report($measures, Runner::run($measures, [], $codes), ['read' => 0.0, 'pair' => 0.0, 'check' => 0.0, 'total' => 0.0]);
    }

    /**
     * The map as a baker gives it back: that of a trial of its size, with all its padding.
     *
     * @return list<array{int, int, int, int}>
     */
    private static function good(string $kind, int $size = self::SIZE): array
    {
        if (! isset(self::$good["$kind $size"])) {
            $measures = self::report([])->measures;
            $page = ProofPage::of($measures->asset)[0];
            $maps = (new TrialBake($measures->common()->trialInputs()))->page($page, $size, 1, GivenMap::KINDS);
            foreach (GivenMap::KINDS as $one) {
                $bytes = MapPng::of($maps, $one, self::PADDING * $size / self::SIZE, 16);
                $image = Image::decode($bytes, ImageHeader::of($bytes));
                $pixels = [];
                for ($y = 0; $y < $size; $y++) {
                    foreach (array_chunk($image->row($y), 4) as $pixel) {
                        $pixels[] = [$pixel[0], $pixel[1], $pixel[2], $pixel[3]];
                    }
                }
                self::$good["$one $size"] = $pixels;
            }
        }

        return self::$good["$kind $size"];
    }

    /**
     * The good map with a square of another color, from a corner on.
     *
     * @param  array{int, int, int, int}  $color
     * @return list<array{int, int, int, int}>
     */
    private static function holed(string $kind, int $x, int $y, int $width, int $height, array $color): array
    {
        $out = self::good($kind);
        for ($j = $y; $j < $y + $height; $j++) {
            for ($i = $x; $i < $x + $width; $i++) {
                $out[$j * self::SIZE + $i] = $color;
            }
        }

        return $out;
    }

    /**
     * @param  list<array{int, int, int, int}>  $pixels
     */
    private static function png(array $pixels, int $bits = 16, int $size = self::SIZE): string
    {
        $rows = [];
        foreach (array_chunk($pixels, $size) as $row) {
            $values = [];
            foreach ($row as $pixel) {
                foreach ($pixel as $value) {
                    $values[] = $bits === 16 ? $value : (int) round($value / 257);
                }
            }
            $rows[] = pack($bits === 16 ? 'n*' : 'C*', ...$values);
        }

        return PngWriter::image($size, count($rows), PngWriter::RGBA, $bits, false, $rows);
    }

    /**
     * @param  Closure(int, int): array{int, int}  $from  where the pixel of a place was
     * @return list<array{int, int, int, int}>
     */
    private static function moved(string $kind, Closure $from): array
    {
        $good = self::good($kind);
        $out = [];
        for ($y = 0; $y < self::SIZE; $y++) {
            for ($x = 0; $x < self::SIZE; $x++) {
                [$i, $j] = $from($x, $y);
                $out[] = $good[$j * self::SIZE + $i];
            }
        }

        return $out;
    }

    /**
     * @param  Closure(array{int, int, int, int}): array{int, int, int, int}  $change
     * @return list<array{int, int, int, int}>
     */
    private static function changed(string $kind, Closure $change): array
    {
        return array_map($change, self::good($kind));
    }

    private static function map(string $kind, string $bytes, string $name = ''): GivenMap
    {
        return GivenMap::of($name === '' ? "plain_$kind.png" : $name, null, null, new MemorySource($name === '' ? "plain_$kind.png" : $name, $bytes));
    }

    /**
     * @return array<string, string> code → severity, of what is said of maps
     */
    private static function codes(Report $report): array
    {
        $out = [];
        foreach ($report->findings() as $finding) {
            if (str_starts_with($finding->code, 'map-')) {
                $out[$finding->code] = $finding->severity->value;
            }
        }

        return $out;
    }

    private static function srgb(int $value): int
    {
        $v = $value / 65535;

        return (int) round(65535 * ($v <= 0.0031308 ? 12.92 * $v : 1.055 * $v ** (1 / 2.4) - 0.055));
    }

    private static function tagged(string $png, string $type, string $data): string
    {
        return substr($png, 0, 33).pack('N', strlen($data)).$type.$data.pack('N', crc32($type.$data)).substr($png, 33);
    }

    /**
     * @return iterable<string, array{Closure(): list<GivenMap>, array<string, string>}>
     */
    public static function maps(): iterable
    {
        $last = self::SIZE - 1;
        foreach (GivenMap::KINDS as $kind) {
            yield "a good $kind" => [static fn (): array => [self::map($kind, self::png(self::good($kind)))], []];
        }
        yield 'all four' => [static fn (): array => array_map(static fn (string $kind): GivenMap => self::map($kind, self::png(self::good($kind))), GivenMap::KINDS), []];
        yield 'a gamma tag of 1.0' => [static fn (): array => [self::map('normal', self::tagged(self::png(self::good('normal')), 'gAMA', pack('N', 100_000)))], []];
        yield 'green inverted' => [static fn (): array => [self::map('normal', self::png(self::changed('normal', static fn (array $p): array => [$p[0], 65535 - $p[1], $p[2], $p[3]])))], ['map-green' => 'blocker']];
        foreach (['mirrored' => static fn (int $x, int $y): array => [$last - $x, $y], 'upside down' => static fn (int $x, int $y): array => [$x, $last - $y], 'turned' => static fn (int $x, int $y): array => [$last - $y, $x], 'turned twice' => static fn (int $x, int $y): array => [$last - $x, $last - $y]] as $name => $from) {
            foreach (['normal', 'ao', 'height', 'id'] as $kind) {
                yield "$kind $name" => [static fn (): array => [self::map($kind, self::png(self::moved($kind, $from)))], ['map-turned' => 'blocker']];
            }
        }
        foreach (['normal', 'height', 'ao'] as $kind) {
            yield "$kind as sRGB" => [static fn (): array => [self::map($kind, self::png(self::changed($kind, static fn (array $p): array => [self::srgb($p[0]), self::srgb($p[1]), self::srgb($p[2]), $p[3]])))], ['map-space' => 'blocker']];
        }
        yield 'an sRGB tag' => [static fn (): array => [self::map('normal', self::tagged(self::png(self::good('normal')), 'sRGB', "\0"))], ['map-space' => 'caution']];
        yield 'a gamma tag' => [static fn (): array => [self::map('ao', self::tagged(self::png(self::good('ao')), 'gAMA', pack('N', 45_455)))], ['map-space' => 'caution']];
        yield 'an ID with an sRGB tag' => [static fn (): array => [self::map('id', self::tagged(self::png(self::good('id')), 'sRGB', "\0"))], []];
        yield '8 bits' => [static fn (): array => [self::map('normal', self::png(self::good('normal'), 8))], ['map-bits' => 'caution']];
        yield '8 bits of occlusion' => [static fn (): array => [self::map('ao', self::png(self::good('ao'), 8))], []];
        // Where the boss slopes; of the color of the outside.
        yield 'holes' => [static fn (): array => [self::map('normal', self::png(self::holed('normal', 72, 36, 8, 8, [32896, 32896, 65535, 65535])))], ['map-hole' => 'blocker']];
        yield 'a hole of a tenth of the page' => [static fn (): array => [self::map('normal', self::png(self::holed('normal', 40, 30, 40, 40, [32896, 32896, 65535, 65535])))], ['map-hole' => 'blocker']];
        yield 'clear holes' => [static fn (): array => [self::map('ao', self::png(self::holed('ao', 50, 50, 5, 5, [0, 0, 0, 0])))], ['map-hole' => 'blocker']];
        // 4 of 11,200 px are 0.036 %.
        yield 'a hole of 4 px' => [static fn (): array => [self::map('ao', self::png(self::holed('ao', 50, 50, 2, 2, [0, 0, 0, 0])))], []];
        // Flat ground of the color of the outside is no hole.
        yield 'flat as the outside' => [static fn (): array => [self::map('ao', self::png(self::good('ao')))], []];
        yield 'no padding' => [static fn (): array => [self::map('id', self::png(self::bare('id', 0)))], ['map-padding' => 'caution']];
        yield 'a padding of three' => [static fn (): array => [self::map('id', self::png(self::bare('id', 3)))], ['map-padding' => 'caution']];
        yield 'just enough padding' => [static fn (): array => [self::map('id', self::png(self::bare('id', 4)))], []];
        yield 'smoothed IDs' => [static fn (): array => [self::map('id', self::smoothed())], ['map-blend' => 'caution']];
        yield 'half the size' => [static fn (): array => [self::map('normal', self::png(self::good('normal', 64), 16, 64))], ['map-size' => 'caution']];
        yield 'another asset' => [static fn (): array => [self::map('normal', self::png(self::other()))], ['map-other' => 'blocker']];
        yield 'another delivery' => [static fn (): array => [self::map('normal', self::png(self::flatter()))], ['map-differs' => 'caution']];
    }

    /**
     * @param  Closure(): list<GivenMap>  $maps
     * @param  array<string, string>  $expected
     */
    #[DataProvider('maps')]
    public function test_a_map_gives_its_code_and_no_other(Closure $maps, array $expected): void
    {
        self::assertSame($expected, self::codes(self::report($maps())));
    }

    /**
     * @param  list<array{int, int, int, int}>  $pixels
     */
    private static function faults(array $pixels, ?ProofPage $page = null): MapFaults
    {
        $page ??= ProofPage::of(self::report([])->measures->asset)[0];
        $bytes = self::png($pixels);

        return new MapFaults(Image::decode($bytes, ImageHeader::of($bytes)), $page, self::PADDING, MapFaults::layout($page, self::SIZE, self::PADDING));
    }

    /**
     * One color inside, another outside; `beside` px of the outside in the color of the inside.
     *
     * @param  array{int, int, int, int}  $inside
     * @param  array{int, int, int, int}  $outside
     * @return list<array{int, int, int, int}>
     */
    private static function plain(array $inside, array $outside, int $beside = 0): array
    {
        $marked = array_fill(0, self::SIZE ** 2, $outside);
        foreach (self::bare('ao', $beside) as $i => $pixel) {
            if ($pixel !== [0, 0, 0, 65535]) {
                $marked[$i] = $inside;
            }
        }

        return $marked;
    }

    public function test_a_color_that_is_no_id_is_counted_where_it_lies(): void
    {
        $red = [0xE8E8, 0x1111, 0x2D2D, 65535];
        $pixels = self::plain($red, [0, 0, 0, 65535], 2);
        self::assertEquals(['share' => 0.0, 'texels' => 0, 'where' => []], self::faults($pixels)->blends(['#E8112D']));
        $pixels[50 * self::SIZE + 40] = [0, 65535, 0, 65535];
        $pixels[2 * self::SIZE + 2] = [0, 65535, 0, 65535];
        $blends = self::faults($pixels)->blends(['#1F3F8F', '#E8112D']);
        self::assertSame(1, $blends['texels'], 'one inside, none of the outside');
        // The board covers 0.828 of the page a side.
        self::assertEqualsWithDelta(1 / (self::SIZE * 0.828) ** 2, $blends['share'], 2e-6);
        self::assertSame([40.5 / self::SIZE, 1 - 50.5 / self::SIZE], array_slice($blends['where'][0], 1));
        // Another red that no eye tells apart is the ID; one that it does is none.
        self::assertSame(0, self::faults(self::plain([0xE9E9, 0x1212, 0x2D2D, 65535], [0, 0, 0, 65535], 2))->blends(['#E8112D'])['texels']);
        self::assertGreaterThan(10_000, self::faults(self::plain([0xE8E8, 0x2828, 0x2D2D, 65535], [0, 0, 0, 65535], 2))->blends(['#E8112D'])['texels']);
    }

    /** Of a trial of half the size: texels at a hole and one texel from it are not compared, all others are. */
    public function test_what_lies_at_a_hole_is_not_compared(): void
    {
        $pixels = self::plain([40000, 30000, 20000, 65535], [0, 0, 0, 65535], 2);
        for ($y = 60; $y < 68; $y++) {
            for ($x = 60; $x < 68; $x++) {
                $pixels[$y * self::SIZE + $x] = $y < 64 ? [40000, 30000, 20000, 0] : [0, 0, 0, 65535];
            }
        }
        $faults = self::faults($pixels);
        $row = static fn (int $y): array => array_map(static fn (int $x): int => $y * 64 + $x, range(20, 43));
        foreach ([31, 33] as $y) {
            // Trial texels 30 to 33 hold the hole; 29 and 34 are beside it.
            self::assertSame(array_merge(range($y * 64 + 20, $y * 64 + 28), range($y * 64 + 35, $y * 64 + 43)), $faults->written($row($y), 64), "row $y");
        }
        self::assertSame($row(28), $faults->written($row(28), 64));
        self::assertSame($row(35), $faults->written($row(35), 64));
        self::assertNotSame($row(29), $faults->written($row(29), 64));
    }

    public function test_padding_that_does_not_show_is_not_judged(): void
    {
        self::assertEqualsWithDelta(2.0, self::faults(self::plain([40000, 0, 0, 65535], [0, 0, 0, 65535], 2))->padding()['px'] ?? -1.0, 1.0);
        // A color near that of the outside does not tell where it ends.
        self::assertNull(self::faults(self::plain([4000, 0, 0, 65535], [0, 0, 0, 65535], 2))->padding());
        self::assertNull(self::faults(self::plain([2000, 2000, 2000, 65535], [0, 0, 0, 65535], 2))->padding());
    }

    public function test_of_a_large_hole_some_places_are_told(): void
    {
        $measures = self::report([])->measures;
        $holes = self::faults(self::holed('ao', 20, 30, 40, 40, [0, 0, 0, 0]), ProofPage::of($measures->asset)[0])->holes(new TrialBake($measures->common()->trialInputs()), 'ao');
        self::assertSame(1600, $holes['texels']);
        self::assertCount(200, $holes['where']);
    }

    /**
     * The good map without its padding but for so many px: outside clear black.
     *
     * @return list<array{int, int, int, int}>
     */
    private static function bare(string $kind, int $left): array
    {
        $out = [];
        foreach (self::good($kind) as $i => $pixel) {
            // The board covers 0.056 to 0.884 across, and from 0.086 to 0.914 up.
            [$u, $v] = [($i % self::SIZE + 0.5) / self::SIZE, 1 - (intdiv($i, self::SIZE) + 0.5) / self::SIZE];
            $beyond = self::SIZE * max(0.056 - $u, $u - 0.884, 0.086 - $v, $v - 0.914);
            $out[] = $beyond > $left ? [0, 0, 0, 65535] : $pixel;
        }

        return $out;
    }

    private static function smoothed(): string
    {
        $image = new Imagick;
        $image->readImageBlob(self::png(self::good('id'), 8));
        $image->gaussianBlurImage(2, 1);
        $image->setImageFormat('png');

        return $image->getImageBlob();
    }

    /**
     * Steep pyramids all over.
     *
     * @return list<array{int, int, int, int}>
     */
    private static function other(): array
    {
        $out = [];
        for ($i = 0; $i < self::SIZE ** 2; $i++) {
            $way = [[0.8, 0.0], [-0.8, 0.0], [0.0, 0.8], [0.0, -0.8]][(intdiv($i % self::SIZE, 5) + 3 * intdiv($i, self::SIZE * 7)) % 4];
            $out[] = [(int) round(($way[0] + 1) / 2 * 65535), (int) round(($way[1] + 1) / 2 * 65535), (int) round(0.8 * 65535), 65535];
        }

        return $out;
    }

    /**
     * As if details stood twice as high.
     *
     * @return list<array{int, int, int, int}>
     */
    private static function flatter(): array
    {
        return self::changed('normal', static function (array $p): array {
            [$x, $y, $z] = [2 * (2 * $p[0] / 65535 - 1), 2 * (2 * $p[1] / 65535 - 1), 2 * $p[2] / 65535 - 1];
            $l = sqrt($x * $x + $y * $y + $z * $z);

            return [(int) round(($x / $l + 1) / 2 * 65535), (int) round(($y / $l + 1) / 2 * 65535), (int) round(($z / $l + 1) / 2 * 65535), $p[3]];
        });
    }
}
