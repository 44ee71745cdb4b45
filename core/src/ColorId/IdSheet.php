<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\Color;
use Anvil\Json;
use Anvil\Standard\Standard;
use Anvil\Unreadable;

/**
 * What was decided about the IDs of an asset: how it is cut, which pieces share an ID, names and colors, and the colors that a studio
 * has for certain names. Kept with the asset, it gives the next delivery the same IDs as long as its parts stay.
 */
final readonly class IdSheet
{
    /** Names and keys longer than this are none. */
    private const LONGEST = 512;

    /**
     * @param  bool  $allEyes  whether colors are spread for protan, deutan and tritan vision, too
     * @param  array<string, Color>  $pins  name of an ID, with `*`, → its color
     * @param  list<SheetId>  $ids
     * @param  array<string, string>  $shapes  piece → its shape, as it was when the sheet was kept
     */
    public function __construct(
        public By $by = By::Part,
        public float $angle = 30.0,
        public bool $allEyes = false,
        public array $pins = [],
        public array $ids = [],
        public array $shapes = [],
    ) {
    }

    /** The same with all colors to be found anew, those that are pinned aside. */
    public function spread(): self
    {
        return new self($this->by, $this->angle, $this->allEyes, $this->pins, array_map(static fn (SheetId $id): SheetId => $id->pinned ? $id : new SheetId($id->name, null, false, $id->pieces), $this->ids), $this->shapes);
    }

    /**
     * @param  array<string, Color>  $pins
     */
    public function withPins(array $pins): self
    {
        return new self($this->by, $this->angle, $this->allEyes, [...$this->pins, ...$pins], $this->ids, $this->shapes);
    }

    /**
     * @return array{by: string, angle: float, allEyes: bool, pins: array<string, string>, ids: list<array{name: string, hex: string|null, pinned: bool, pieces: list<string>}>, shapes: array<string, string>}
     */
    public function toArray(): array
    {
        return [
            'by' => $this->by->value, 'angle' => $this->angle, 'allEyes' => $this->allEyes,
            'pins' => array_map(static fn (Color $color): string => $color->hex(), $this->pins),
            'ids' => array_map(static fn (SheetId $id): array => ['name' => $id->name, 'hex' => $id->color?->hex(), 'pinned' => $id->pinned, 'pieces' => $id->pieces], $this->ids),
            'shapes' => $this->shapes,
        ];
    }

    /**
     * @throws Unreadable that names the key
     */
    public static function ofJson(string $text): self
    {
        $json = Json::parse($text)->only(['by', 'angle', 'allEyes', 'pins', 'ids', 'shapes']);
        $by = By::tryFrom($json->string('by') ?? 'part') ?? throw Unreadable::because('by is none of '.implode(', ', array_column(By::cases(), 'value')));
        $angle = $json->value('angle') ?? 30.0;
        if ((! is_int($angle) && ! is_float($angle)) || $angle <= 0 || $angle >= 180) {
            throw Unreadable::because('angle is not a number of degrees between 0 and 180');
        }
        $ids = $seen = [];
        foreach ($json->objects('ids') as $id) {
            $id->only(['name', 'hex', 'pinned', 'pieces']);
            $name = trim($id->string('name') ?? '');
            if ($name === '' || strlen($name) > self::LONGEST || isset($seen[$name])) {
                throw Unreadable::because($id->at('name').($name === '' ? ' is missing' : (isset($seen[$name]) ? " \"$name\" is the name of another ID, too" : ' is too long')));
            }
            $seen[$name] = true;
            $hex = $id->string('hex');
            $pieces = $id->strings('pieces');
            foreach ($pieces as $piece) {
                if (isset($seen["\0$piece"])) {
                    throw Unreadable::because($id->at('pieces')." holds \"$piece\", which wears another ID already");
                }
                $seen["\0$piece"] = true;
            }
            $ids[] = new SheetId($name, $hex === null ? null : self::color($hex, $id->at('hex')), $id->bool('pinned'), $pieces);
        }
        $shapes = [];
        foreach ($json->object('shapes')?->keys() ?? [] as $key) {
            $shapes[$key] = $json->object('shapes')?->string($key) ?? '';
        }

        return new self($by, (float) $angle, $json->bool('allEyes'), Standard::colors($json->object('pins')), $ids, $shapes);
    }

    /**
     * The colors of an earlier legend, by the names of its IDs.
     *
     * @throws Unreadable that names the key
     */
    public static function ofLegend(string $text, By $by, float $angle): self
    {
        $ids = [];
        foreach (Json::parse($text)->objects('ids') as $id) {
            $name = $id->string('name') ?? '';
            $ids[] = new SheetId($name, self::color($id->string('hex') ?? '', $id->at('hex')), false, [$name]);
        }

        return new self($by, $angle, false, [], $ids);
    }

    private static function color(string $hex, string $path): Color
    {
        if (preg_match('/^#[0-9A-Fa-f]{6}$/', $hex) !== 1) {
            throw Unreadable::because("$path is no color: it is written as #RRGGBB");
        }

        return Color::ofHex($hex);
    }
}
