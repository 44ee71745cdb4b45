<?php

declare(strict_types=1);

namespace Anvil\Standard;

use Anvil\Geometry\Color;
use Anvil\Json;
use Anvil\Unreadable;

/**
 * A studio's rules. The file's form is CLI.md, "The standard's file"; what it leaves out is as in the built-in standard.
 */
final readonly class Standard
{
    private const KEYS = ['name', 'suffixes', 'pairing', 'mapSize', 'pages', 'triangleBudget', 'texelDensity', 'greenChannel', 'rays', 'reach', 'checks', 'unit', 'idColors', 'upright'];

    /** Of files that say none. */
    private const UNITS = ['m', 'cm', 'mm', 'in', 'ft'];

    private const RAY_LIMITS = ['ray-miss', 'low-margin', 'span-closed', 'surface-gap', 'sets-bleed'];

    private const SUFFIXES = ['low' => ['_low'], 'high' => ['_high'], 'id' => ['_id'], 'cage' => ['_cage'], 'pose' => ['_pose']];

    /**
     * @param  array<string, list<string>>  $suffixes  role → suffixes, each a string or one with `*` at its end
     * @param  bool  $whole  all parts are one set and no name matters
     * @param  int|null  $pages  sets of textures; null: not said
     * @param  array<string, array{out: float|string|null, in: float|string|null}>  $reach  set or `*` → lengths, or shares of d as `"1%"`
     * @param  array<string, array{severity: string|null, limit: float|null, caution: float|null}>  $checks  by code; severity may be `off`
     * @param  string|null  $unit  of the lengths in files that say none
     * @param  array<string, Color>  $idColors  colors that are fixed for IDs, by their names, with `*`
     * @param  bool  $udim  each UV tile of a material is a page of its own, named by its UDIM number (`"pages":"udim"`)
     * @param  bool  $upright  whether UV islands are to stand upright, as the surface does
     */
    private function __construct(
        public string $name = 'built-in',
        public array $suffixes = self::SUFFIXES,
        public bool $whole = false,
        public int $mapSize = 2048,
        public ?int $pages = null,
        public ?int $triangleBudget = null,
        public ?float $texelDensity = null,
        public string $greenChannel = '+Y',
        public RaySettings $rays = new RaySettings,
        public array $reach = [],
        public array $checks = [],
        public ?string $unit = null,
        public array $idColors = [],
        public bool $udim = false,
        public bool $upright = false,
    ) {
    }

    public static function builtIn(): self
    {
        return new self;
    }

    /**
     * @throws Unreadable that names the key
     */
    public static function ofJson(string $text): self
    {
        $json = Json::parse($text)->only(self::KEYS);
        $suffixes = self::SUFFIXES;
        $given = $json->object('suffixes')?->only(array_keys(self::SUFFIXES));
        foreach ($given?->keys() ?? [] as $role) {
            $value = $given?->value($role);
            $list = is_string($value) ? [$value] : ($given?->strings($role) ?? []);
            foreach ($list as $suffix) {
                if (rtrim($suffix, '*') === '' || str_contains(substr($suffix, 0, -1), '*')) {
                    throw Unreadable::because("suffixes.$role: \"$suffix\" is no suffix; a * may stand at its end only, after at least one letter");
                }
            }
            $suffixes[$role] = $list;
        }
        $rays = $json->object('rays')?->only(['direction', 'length', 'backFaces', 'count', 'setsKeptApart']);
        $count = $rays?->int('count') ?? 65536;
        if ($count < 64 || $count > 4_194_304) {
            throw Unreadable::because('rays.count must be 64 to 4194304');
        }
        $mapSize = $json->int('mapSize') ?? 2048;
        if ($mapSize < 16 || $mapSize > 65536) {
            throw Unreadable::because('mapSize must be 16 to 65536 px');
        }

        return new self(
            $json->string('name') ?? 'unnamed',
            $suffixes,
            self::choice($json, 'pairing', ['names', 'whole']) === 'whole',
            $mapSize,
            $json->value('pages') === 'udim' ? null : $json->int('pages'),
            $json->int('triangleBudget'),
            self::number($json, 'texelDensity'),
            self::choice($json, 'greenChannel', ['+Y', '-Y']),
            new RaySettings(
                self::choice($rays, 'direction', ['smooth', 'split']) === 'smooth',
                self::choice($rays, 'length', ['cage', 'unit']) === 'cage',
                $rays?->bool('backFaces') ?? false,
                $count,
                $rays === null || ! $rays->has('setsKeptApart') || $rays->bool('setsKeptApart'),
            ),
            self::reaches($json->object('reach')),
            self::checks($json->object('checks')),
            $json->string('unit') === null ? null : self::choice($json, 'unit', self::UNITS),
            self::colors($json->object('idColors')),
            $json->value('pages') === 'udim',
            $json->bool('upright'),
        );
    }

    /**
     * Colors by names with `*`: `{"brass*": "#E8112D"}`.
     *
     * @return array<string, Color>
     *
     * @throws Unreadable that names the key
     */
    public static function colors(?Json $json): array
    {
        $colors = [];
        foreach ($json?->keys() ?? [] as $pattern) {
            $hex = $json?->string($pattern) ?? '';
            if (preg_match('/^#[0-9A-Fa-f]{6}$/', $hex) !== 1) {
                throw Unreadable::because(($json?->at($pattern) ?? $pattern).' is no color: it is written as #RRGGBB');
            }
            $colors[$pattern] = Color::ofHex($hex);
        }

        return $colors;
    }

    /** The same rules with other rays. */
    public function withRays(RaySettings $rays): self
    {
        return new self($this->name, $this->suffixes, $this->whole, $this->mapSize, $this->pages, $this->triangleBudget, $this->texelDensity, $this->greenChannel, $rays, $this->reach, $this->checks, $this->unit, $this->idColors, $this->udim, $this->upright);
    }

    public function named(string $name): self
    {
        return new self($name, $this->suffixes, $this->whole, $this->mapSize, $this->pages, $this->triangleBudget, $this->texelDensity, $this->greenChannel, $this->rays, $this->reach, $this->checks, $this->unit, $this->idColors, $this->udim, $this->upright);
    }

    /** The same rules with all parts as one set, whatever their names. */
    public function asWhole(): self
    {
        return new self($this->name, $this->suffixes, true, $this->mapSize, $this->pages, $this->triangleBudget, $this->texelDensity, $this->greenChannel, $this->rays, $this->reach, $this->checks, $this->unit, $this->idColors, $this->udim, $this->upright);
    }

    /**
     * The same rules with other suffixes for some roles.
     *
     * @param  array<string, list<string>>  $suffixes  role → suffixes
     */
    public function withSuffixes(array $suffixes): self
    {
        return new self($this->name, [...$this->suffixes, ...$suffixes], $this->whole, $this->mapSize, $this->pages, $this->triangleBudget, $this->texelDensity, $this->greenChannel, $this->rays, $this->reach, $this->checks, $this->unit, $this->idColors, $this->udim, $this->upright);
    }

    /**
     * The same rules with other limits for some checks; what is not given stays.
     *
     * @param  array<string, array{limit?: float, caution?: float}>  $limits  by code
     */
    public function withLimits(array $limits): self
    {
        $checks = $this->checks;
        foreach ($limits as $code => $limit) {
            $checks[$code] = [...($checks[$code] ?? ['severity' => null, 'limit' => null, 'caution' => null]), ...$limit];
        }

        return new self($this->name, $this->suffixes, $this->whole, $this->mapSize, $this->pages, $this->triangleBudget, $this->texelDensity, $this->greenChannel, $this->rays, $this->reach, $checks, $this->unit, $this->idColors, $this->udim, $this->upright);
    }

    /**
     * The same rules with the built-in limits for some checks.
     *
     * @param  list<string>  $codes
     */
    public function withoutLimits(array $codes): self
    {
        $checks = $this->checks;
        foreach ($codes as $code) {
            if (isset($checks[$code])) {
                $checks[$code] = ['severity' => $checks[$code]['severity'], 'limit' => null, 'caution' => null];
            }
        }
        $checks = array_filter($checks, static fn (array $check): bool => $check !== ['severity' => null, 'limit' => null, 'caution' => null]);

        return new self($this->name, $this->suffixes, $this->whole, $this->mapSize, $this->pages, $this->triangleBudget, $this->texelDensity, $this->greenChannel, $this->rays, $this->reach, $checks, $this->unit, $this->idColors, $this->udim, $this->upright);
    }

    /**
     * The same rules with a reach of their own for some sets.
     *
     * @param  array<string, array{out: float|string|null, in: float|string|null}>  $reaches  by set
     */
    public function withReaches(array $reaches): self
    {
        return new self($this->name, $this->suffixes, $this->whole, $this->mapSize, $this->pages, $this->triangleBudget, $this->texelDensity, $this->greenChannel, $this->rays, array_replace($this->reach, $reaches), $this->checks, $this->unit, $this->idColors, $this->udim, $this->upright);
    }

    /**
     * The reach set for a bake set, in file units; null where the standard sets none.
     *
     * @param  float  $d  diagonal of the set's low-poly bounds
     * @param  Reach|null  $recommended  for a side that nobody set
     */
    public function reachOf(string $set, float $d, ?Reach $recommended = null): ?Reach
    {
        $own = $this->reach[$set] ?? $this->reach['*'] ?? null;
        if ($own === null) {
            return null;
        }
        $all = $this->reach['*'] ?? ['out' => null, 'in' => null];
        $length = static fn (float|string|null $value, ?float $else): float => is_string($value) ? (float) $value / 100 * $d : ($value ?? $else ?? 0.0);

        return new Reach($length($own['out'] ?? $all['out'], $recommended?->out), $length($own['in'] ?? $all['in'], $recommended?->in));
    }

    /** The suffix that a part of this role is given when a name is mended. */
    public function suffixFor(Role $role): string
    {
        return rtrim($this->suffixes[$role->value][0] ?? '_'.$role->value, '*');
    }

    /** The limit that the standard sets for a check, where it sets one. */
    public function limitOf(string $code): ?float
    {
        return $this->checks[$code]['limit'] ?? null;
    }

    /** The limit from which a check speaks as a caution, where the standard sets one. */
    public function cautionOf(string $code): ?float
    {
        return $this->checks[$code]['caution'] ?? null;
    }

    /** The limit in force of a code that measures go by. */
    public function limitInForce(string $code): float
    {
        return $this->limit($code, Limits::of($code));
    }

    /** The limit from which such a code is a caution; where the standard moves only the other one, never above that. */
    public function cautionInForce(string $code): float
    {
        return $this->cautionOf($code) ?? min(Limits::cautionOf($code), $this->limitInForce($code));
    }

    /**
     * The limits that decide how many rays are shot, and from which share a measure of rays speaks: of all limits, the only ones that rays go by.
     *
     * @return list<array{float, float}>
     */
    public function rayLimits(): array
    {
        return array_map(fn (string $code): array => [$this->limitInForce($code), $this->cautionInForce($code)], self::RAY_LIMITS);
    }

    /** The gap in px that UV islands have to keep: the limit of `uv-padding`, built in by the map size (common practice). */
    public function padding(): float
    {
        return $this->limit('uv-padding', $this->mapSize / 256);
    }

    public function limit(string $code, float $default): float
    {
        return $this->checks[$code]['limit'] ?? $default;
    }

    /** Severity by the standard; null where the check is off. */
    public function severity(string $code, Severity $own): ?Severity
    {
        $set = $this->checks[$code]['severity'] ?? null;

        return $set === null ? $own : ($set === 'off' ? null : Severity::from($set));
    }

    public function isOff(string $code): bool
    {
        return ($this->checks[$code]['severity'] ?? null) === 'off';
    }

    /**
     * @return array<string, mixed> as the file has it
     */
    public function toArray(): array
    {
        return [
            'name' => $this->name,
            'suffixes' => $this->suffixes,
            'pairing' => $this->whole ? 'whole' : 'names',
            'mapSize' => $this->mapSize,
            'pages' => $this->udim ? 'udim' : $this->pages,
            ...($this->upright ? ['upright' => true] : []),
            'triangleBudget' => $this->triangleBudget,
            'texelDensity' => $this->texelDensity,
            'greenChannel' => $this->greenChannel,
            ...($this->unit === null ? [] : ['unit' => $this->unit]),
            ...($this->idColors === [] ? [] : ['idColors' => array_map(static fn (Color $color): string => $color->hex(), $this->idColors)]),
            'rays' => [
                'direction' => $this->rays->smooth ? 'smooth' : 'split',
                'length' => $this->rays->cageLength ? 'cage' : 'unit',
                'backFaces' => $this->rays->backFaces,
                'count' => $this->rays->count,
                'setsKeptApart' => $this->rays->setsKeptApart,
            ],
            'reach' => (object) $this->reach,
            'checks' => (object) array_map(static fn (array $check): array => array_filter($check, static fn ($v): bool => $v !== null), $this->checks),
        ];
    }

    /**
     * @param  non-empty-list<string>  $allowed  the first is the default
     */
    private static function choice(?Json $json, string $key, array $allowed): string
    {
        $value = $json?->string($key) ?? $allowed[0];
        if (! in_array($value, $allowed, true)) {
            throw Unreadable::because(($json?->at($key) ?? $key).": \"$value\" is not one of ".implode(', ', $allowed));
        }

        return $value;
    }

    private static function number(Json $json, string $key): ?float
    {
        $value = $json->value($key);
        if ($value !== null && ! is_int($value) && ! is_float($value)) {
            throw Unreadable::because($json->at($key).' is not a number');
        }

        return $value === null ? null : (float) $value;
    }

    /**
     * @return array<string, array{out: float|string|null, in: float|string|null}>
     */
    private static function reaches(?Json $json): array
    {
        $out = [];
        foreach ($json?->keys() ?? [] as $set) {
            $one = $json?->object($set)?->only(['out', 'in']);
            if ($one === null) {
                continue;
            }
            $lengths = [];
            foreach (['out', 'in'] as $side) {
                $value = $one->value($side);
                $isShare = is_string($value) && preg_match('/^\d+(\.\d+)?%$/', $value) === 1;
                if ($value !== null && ! $isShare && ! ((is_int($value) || is_float($value)) && $value >= 0)) {
                    throw Unreadable::because($one->at($side).' is neither a length of 0 or more nor a share such as "1%"');
                }
                $lengths[$side] = is_int($value) ? (float) $value : $value;
            }
            $out[$set] = ['out' => $lengths['out'], 'in' => $lengths['in']];
        }

        return $out;
    }

    /**
     * @return array<string, array{severity: string|null, limit: float|null, caution: float|null}>
     */
    private static function checks(?Json $json): array
    {
        $out = [];
        foreach ($json?->keys() ?? [] as $code) {
            $one = $json?->object($code)?->only(['severity', 'limit', 'caution']);
            if ($one === null) {
                continue;
            }
            $severity = $one->has('severity') ? self::choice($one, 'severity', ['blocker', 'caution', 'note', 'off']) : null;
            $out[$code] = ['severity' => $severity, 'limit' => self::number($one, 'limit'), 'caution' => self::number($one, 'caution')];
        }

        return $out;
    }
}
