<?php

declare(strict_types=1);

namespace App\People;

use App\Models\Asset;
use App\Models\Delivery;
use App\Models\Event;
use App\Models\File;
use App\Models\Standard;
use Closure;
use Illuminate\Support\Facades\DB;

/**
 * What was decided about an asset at one time. Compares two of them: what changed, from what to what.
 *
 * @phpstan-type Reach array{out: float|null, in: float|null}
 */
final readonly class Decisions
{
    /** What was loaded, as the page that decides sends it: the number of the last decision that it knew. */
    public const HEADER = 'X-Anvil-Version';

    /** A line of the history says no more than this of a change of very many parts. */
    private const LONGEST = 4000;

    /** Lists of the choices, and how it is said that something came into one or left it. */
    private const LISTS = ['leftOut' => ['left out %s', 'put %s back in'], 'bakedOnItself' => ['marked %s baked on itself', 'marked %s no longer baked on itself'], 'detachable' => ['marked %s detachable', 'marked %s not detachable']];

    /**
     * @param  array<string, mixed>  $choices
     * @param  array<string, Reach>  $reaches
     * @param  array{clearance: float|int|null, all: bool}|null  $explode
     * @param  array<string, mixed>  $ids
     * @param  array<string, string|null>  $roles  by name of a file
     */
    private function __construct(private array $choices, private array $reaches, private ?array $explode, private array $ids, private string $standard, private array $roles)
    {
    }

    private static function of(Asset $asset, ?Delivery $delivery): self
    {
        $roles = [];
        foreach ($delivery === null ? [] : File::query()->where('delivery_id', $delivery->id)->get(['name', 'role']) as $file) {
            $roles[$file->name] = $file->role;
        }

        return new self($asset->choices, $asset->reaches ?? [], $asset->explode, $asset->color_ids ?? [], Standard::query()->findOrFail($asset->standard_id)->name, $roles);
    }

    /** The number of the last decision about an asset. */
    public static function version(int $asset): int
    {
        $last = Event::query()->where('asset_id', $asset)->whereNotNull('area')->max('id');

        return is_numeric($last) ? (int) $last : 0;
    }

    /**
     * Writes into the history what is decided. In a transaction with the asset's row locked, so that the second of two who decide at once is refused.
     *
     * @param  array<string, string>  $changes  area, or several with a space between → what changed, in words that follow a name
     *
     * @throws ChangedMeanwhile where somebody else decided in one of these areas since it was loaded, if the request says what it knew
     */
    public static function record(Asset $asset, ?Delivery $delivery, array $changes): void
    {
        $known = request()->header(self::HEADER);
        if ($changes !== [] && is_string($known) && preg_match('/^\d{1,18}$/D', $known) === 1) {
            $me = Who::person()?->id;
            $areas = explode(' ', implode(' ', array_keys($changes)));
            $since = Event::query()->where('asset_id', $asset->id)->whereNotNull('area')->where('id', '>', (int) $known)
                ->where(static fn ($others) => $others->whereNull('person_id')->when($me !== null, static fn ($all) => $all->orWhere('person_id', '!=', $me)))->orderBy('id')->get()
                ->filter(static fn (Event $one): bool => array_intersect(explode(' ', (string) $one->area), $areas) !== []);
            $by = array_values($since->map(static fn (Event $one): array => ['who' => $one->who, 'when' => $one->created_at->toIso8601String(), 'words' => $one->words])->all());
            if ($by !== []) {
                throw ChangedMeanwhile::by($by, self::version($asset->id));
            }
        }
        foreach ($changes as $area => $words) {
            History::tell($asset, $delivery, mb_strimwidth($words, 0, self::LONGEST, ' …'), $area);
        }
    }

    /**
     * Changes what is decided about an asset, and writes it into the history: both or neither, with the asset's row locked. What is changed is the asset that is given to the change.
     *
     * @param  Closure(Asset): void  $change
     */
    public static function change(Asset $asset, ?Delivery $delivery, Closure $change): void
    {
        DB::transaction(static function () use ($asset, $delivery, $change): void {
            $locked = Asset::query()->whereKey($asset->id)->lockForUpdate()->firstOrFail();
            $before = self::of($locked, $delivery);
            $change($locked);
            self::record($locked, $delivery, $before->until(self::of($locked, $delivery)));
        }, 5);
    }

    /** The area of one of many of a kind, whatever its name. */
    public static function area(string $kind, string ...$names): string
    {
        return "$kind:".substr(hash('sha256', implode("\0", $names)), 0, 24);
    }

    /**
     * @return array<string, string> area → what changed, in words that follow a name
     */
    public function until(self $later): array
    {
        $out = [];
        $sets = $this->sets($later);
        if ($sets !== []) {
            $out['sets'] = implode('; ', $sets);
        }
        foreach ($this->islands($later) as $area => $words) {
            $out[$area] = $words;
        }
        foreach (array_keys($later->reaches + $this->reaches) as $set) {
            $words = [];
            foreach (['out', 'in'] as $side) {
                [$was, $is] = [$this->reaches[$set][$side] ?? null, $later->reaches[$set][$side] ?? null];
                if ($was !== $is) {
                    $words[] = "$side from ".self::length($was).' to '.self::length($is);
                }
            }
            if ($words !== []) {
                $out[self::area('reach', (string) $set)] = "set the reach of $set ".implode(', ', $words);
            }
        }
        if ($this->explode !== $later->explode) {
            $out['explode'] = 'changed the exploded layout from '.self::layout($this->explode).' to '.self::layout($later->explode);
        }
        $ids = $this->ids($later);
        if ($ids !== null) {
            $out['ids'] = $ids;
        }
        if ($this->standard !== $later->standard) {
            $out['standard'] = "changed the standard from \"$this->standard\" to \"$later->standard\"";
        }
        foreach ($later->roles as $file => $role) {
            $was = $this->roles[$file] ?? null;
            if ($was !== $role) {
                $out[self::area('role', (string) $file)] = "changed the role of $file from ".($was ?? 'what its name says').' to '.($role ?? 'what its name says');
            }
        }

        return $out;
    }

    /**
     * @param  array{clearance: float|int|null, all: bool}|null  $one
     */
    private static function layout(?array $one): string
    {
        $gap = $one['clearance'] ?? null;

        return ($one['all'] ?? false ? 'all sets' : 'sets in conflict').' apart by '.($gap === null ? 'the usual gap' : self::length((float) $gap));
    }

    /** A length in units of the file; none is what is recommended. */
    private static function length(?float $length): string
    {
        return $length === null ? 'as recommended' : (string) (float) sprintf('%.6g', $length);
    }

    /**
     * @return list<string>
     */
    private function sets(self $later): array
    {
        [$was, $is] = [self::setOf($this->choices), self::setOf($later->choices)];
        $out = $moves = [];
        foreach ($is + $was as $pattern => $_) {
            [$from, $to] = [$was[$pattern] ?? null, $is[$pattern] ?? null];
            if ($from !== $to) {
                $moves[($from === null ? 'from sets of their own' : "from $from").($to === null ? ' into sets of their own' : " to $to")][] = (string) $pattern;
            }
        }
        foreach ($moves as $where => $patterns) {
            $out[] = 'moved '.implode(', ', $patterns)." $where";
        }
        foreach (self::LISTS as $key => [$came, $left]) {
            [$old, $new] = [self::names($this->choices[$key] ?? []), self::names($later->choices[$key] ?? [])];
            foreach ([[$came, array_diff($new, $old)], [$left, array_diff($old, $new)]] as [$words, $names]) {
                if ($names !== []) {
                    $out[] = sprintf($words, implode(', ', $names));
                }
            }
        }
        $shades = static fn (mixed $one): string => is_array($one) && $one !== [] ? (string) json_encode($one, JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES) : (is_string($one) ? $one : 'own');
        [$own, $new] = [$shades($this->choices['occlusion'] ?? null), $shades($later->choices['occlusion'] ?? null)];
        if ($own !== $new) {
            $out[] = "changed which sets occlude each other from $own to $new";
        }

        return $out;
    }

    /**
     * @param  array<string, mixed>  $choices
     * @return array<string, string> pattern → its set
     */
    private static function setOf(array $choices): array
    {
        $out = [];
        foreach (is_array($choices['sets'] ?? null) ? $choices['sets'] : [] as $set => $patterns) {
            foreach (self::names($patterns) as $pattern) {
                $out[$pattern] = (string) $set;
            }
        }

        return $out;
    }

    /**
     * @return array<string, string>
     */
    private function islands(self $later): array
    {
        $out = [];
        [$was, $is] = array_map(static fn (array $choices): array => is_array($choices['mirroredIslands'] ?? null) ? $choices['mirroredIslands'] : [], [$this->choices, $later->choices]);
        foreach (array_keys($is + $was) as $part) {
            [$old, $new] = [self::names($was[$part] ?? []), self::names($is[$part] ?? [])];
            foreach ([...array_diff($new, $old), ...array_diff($old, $new)] as $island) {
                $out[self::area('island', (string) $part, $island)] = (in_array($island, $new, true) ? 'declared' : 'no longer declares').' that a UV island of '.$part.' may lie on others';
            }
        }

        return $out;
    }

    private function ids(self $later): ?string
    {
        if ($this->ids === $later->ids) {
            return null;
        }
        $colors = static function (array $sheet): array {
            $out = [];
            foreach (is_array($sheet['ids'] ?? null) ? $sheet['ids'] : [] as $id) {
                if (is_array($id) && is_string($id['name'] ?? null)) {
                    $out[$id['name']] = (is_string($id['hex'] ?? null) ? $id['hex'] : 'a color to be found').' of '.implode(' ', self::names($id['pieces'] ?? []));
                }
            }

            return $out;
        };
        [$was, $is] = [$colors($this->ids), $colors($later->ids)];
        $words = [];
        foreach ($is + $was as $name => $_) {
            if (($was[$name] ?? null) !== ($is[$name] ?? null)) {
                $words[] = "$name from ".($was[$name] ?? 'none').' to '.($is[$name] ?? 'none');
            }
        }

        return 'changed the color IDs'.($words === [] ? '' : ': '.implode(', ', $words));
    }

    /**
     * @return list<string>
     */
    private static function names(mixed $list): array
    {
        return is_array($list) ? array_values(array_filter($list, is_string(...))) : [];
    }
}
