<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Formats\FolderSink;
use Anvil\Geometry\Bytes;
use Anvil\Handoff\Extra;
use Anvil\Handoff\MadeOf;
use Anvil\Measures\Kind\Colors;
use Anvil\Measures\Kind\Layout;
use Anvil\Measures\Measures;
use Anvil\Pairing\RoledPart;
use Anvil\Proof\MapPng;
use Anvil\Proof\ProofPage;
use Anvil\Proof\TexelRays;
use Anvil\Proof\Through;
use Anvil\Proof\TrialBake;
use Anvil\Proof\TrialMaps;
use Anvil\Sets\BakeSet;
use Anvil\Standard\Role;
use Anvil\Unreadable;
use App\Jobs\MakeOutput;
use App\Models\Delivery;
use App\Models\Output;
use App\Models\State\MakingState;
use Closure;
use RuntimeException;

/**
 * Trial maps of a delivery's pages: a job a page and kind, each an output with its images beside it; the same is not made twice.
 *
 * @phpstan-type Asked array{page: string, pass: string, size: int, samples: int, through: string, exploded: bool}
 */
final class Trial
{
    /** The kind of an output that is a trial. */
    public const KIND = 'proof';

    /** What one ray gives, and what many do. */
    public const PASSES = ['rays' => ['normal', 'id', 'height', 'miss'], 'ao' => ['ao']];

    /** Places of rays are kept up to this size. */
    private const RAYS = 512;

    /**
     * What is not there, nor being made, is begun. In a transaction.
     *
     * @param  list<string>  $pages
     */
    public static function begin(Delivery $delivery, array $pages, int $size, int $samples, Through $through, bool $exploded, string $by): void
    {
        $there = $delivery->outputs()->where('kind', self::KIND)->whereNot('state', MakingState::Failed)->get();
        foreach ($pages as $page) {
            foreach (array_keys(self::PASSES) as $pass) {
                $asked = ['page' => $page, 'pass' => $pass, 'size' => $size, 'samples' => $samples, 'through' => $through->value, 'exploded' => $exploded && $pass === 'ao'];
                if ($there->contains(static fn (Output $output): bool => self::isNew($delivery, $output) && self::asked($output) === $asked)) {
                    continue;
                }
                $output = $delivery->outputs()->create(['kind' => self::KIND, 'detail' => ['asked' => $asked], 'made_by' => $by]);
                MakeOutput::dispatch($delivery->id, $output->id)->onQueue(Steps::queueOf($delivery));
            }
        }
    }

    /** Made since the delivery was checked last: of the sets and reaches that are in force. */
    public static function isNew(Delivery $delivery, Output $output): bool
    {
        return $delivery->checked_at === null || $output->created_at >= $delivery->checked_at;
    }

    /**
     * @return Asked
     */
    public static function asked(Output $output): array
    {
        /** @var Asked */
        return $output->detail['asked'] ?? throw new RuntimeException('this output is no trial');
    }

    public static function path(Delivery $delivery, Output $output, string $kind): string
    {
        return $delivery->folder()."/proof/$output->id-$kind";
    }

    /**
     * Bakes one pass of one page.
     *
     * @param  Closure(float): void  $tick  told the share that is done; throws where it is not wanted any more
     * @return array<string, mixed> detail
     */
    public static function make(Delivery $delivery, Output $output, Closure $tick): array
    {
        $asked = self::asked($output);
        $stored = new StoredDelivery($delivery);
        $measures = $stored->computing();
        $page = null;
        foreach ($measures->common()->pages() as $one) {
            $page = $one->name === $asked['page'] ? $one : $page;
        }
        if ($page === null) {
            throw new RuntimeException("there is no page {$asked['page']} any more");
        }
        $key = self::key($measures, $page, $asked);
        $output->newQuery()->whereKey($output->id)->update(['key' => $key]);
        $same = Output::query()->where('kind', self::KIND)->where('key', $key)->where('state', MakingState::Done)->whereKeyNot($output->id)->latest('id')->first();
        if ($same !== null && self::copied($same, $delivery, $output, $asked['pass'])) {
            return [...$same->detail ?? [], 'asked' => $asked];
        }
        $kinds = self::PASSES[$asked['pass']] ?? [];
        $bake = new TrialBake($measures->common()->trialInputs(), Through::from($asked['through']), exploded: $asked['exploded']);
        $maps = $bake->page($page, $asked['size'], $asked['samples'], $asked['pass'] === 'rays' && $asked['size'] <= self::RAYS ? [...$kinds, 'rays'] : $kinds, progress: static fn (int $row, int $of) => $tick($row / $of));
        $standard = $measures->asset->standard;
        foreach ($kinds as $kind) {
            Store::put(self::path($delivery, $output, $kind), MapPng::of($maps, $kind, $standard->padding() * $asked['size'] / $standard->mapSize, (int) $standard->limit('map-bits', 16.0)));
        }
        if ($maps->rays !== []) {
            Store::put(self::path($delivery, $output, 'rays'), self::rays($maps));
        }

        return ['asked' => $asked, 'inside' => $maps->inside(), 'missShare' => $maps->share(TexelRays::MISS), 'wrongShare' => $maps->share(TexelRays::WRONG), 'notShot' => (object) $maps->notShot, 'hasRays' => $maps->rays !== []];
    }

    /**
     * The trial maps that go along with a package: of each pass the one that was baked last.
     *
     * @param  Measures  $measures  with meshes
     * @param  string  $folder  a new one
     *
     * @throws Unreadable where none was baked
     */
    public static function extra(Delivery $delivery, Measures $measures, string $folder): Extra
    {
        $pages = [];
        foreach ($measures->common()->pages() as $page) {
            $pages[$page->name] = $page;
        }
        $last = [];
        foreach ($delivery->outputs()->where('kind', self::KIND)->where('state', MakingState::Done)->orderBy('id')->get() as $output) {
            $asked = self::asked($output);
            $last["{$asked['page']} {$asked['pass']}"] = $output;
        }
        $isOwn = true;
        $sink = new FolderSink($folder);
        foreach ($last as $output) {
            $asked = self::asked($output);
            $page = $pages[$asked['page']] ?? null;
            $isOwn = $isOwn && $page !== null && $output->key === self::key($measures, $page, $asked);
            foreach (self::PASSES[$asked['pass']] ?? [] as $kind) {
                $bytes = Store::get(self::path($delivery, $output, $kind));
                if ($bytes !== null) {
                    $stream = $sink->open(($page->file ?? 'page')."_$kind.png");
                    fwrite($stream, $bytes);
                    fclose($stream);
                }
            }
        }
        if ($last === []) {
            $sink->discard();
            throw Unreadable::because('no trial was baked yet: bake one on Proof, or leave the trial maps out');
        }
        $sink->commit();

        // Baked of other meshes, sets or reaches, it says so by another hash.
        return new Extra('trial', $folder, $isOwn ? MadeOf::of($measures->asset) : 'earlier');
    }

    /** Low point and high point of each texel, six float32, zeros where there is none. */
    private static function rays(TrialMaps $maps): string
    {
        $out = '';
        $none = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
        for ($y = 0; $y < $maps->size; $y++) {
            $row = [];
            for ($x = 0; $x < $maps->size; $x++) {
                array_push($row, ...$maps->rays[$y * $maps->size + $x] ?? $none);
            }
            $out .= Bytes::packFloats($row);
        }

        return $out;
    }

    private static function copied(Output $same, Delivery $delivery, Output $output, string $pass): bool
    {
        $from = Delivery::query()->find($same->delivery_id);
        if ($from === null) {
            return false;
        }
        foreach ([...self::PASSES[$pass] ?? [], ...($pass === 'rays' && ($same->detail['hasRays'] ?? false) === true ? ['rays'] : [])] as $kind) {
            $bytes = Store::get(self::path($from, $same, $kind));
            if ($bytes === null) {
                return false;
            }
            Store::put(self::path($delivery, $output, $kind), $bytes);
        }

        return true;
    }

    /**
     * The hash of all that a pass depends on.
     *
     * @param  Asked  $asked
     */
    private static function key(Measures $measures, ProofPage $page, array $asked): string
    {
        $asset = $measures->asset;

        return hash('sha256', json_encode([
            config()->string('anvil.core_version'), 1, $asked, $asset->standard->rays, $asset->standard->mapSize, $asset->standard->padding(), $asset->standard->limit('map-bits', 16.0), $asset->standard->greenChannel, $asset->standard->udim,
            self::hashes($page->parts), array_map(static fn (BakeSet $set): array => [$set->name, self::hashes($set->low), self::hashes($set->target()), self::hashes($set->cage), $measures->clearanceOf($set)?->inUse()], $asset->sets),
            $asked['pass'] === 'ao' ? [$asset->choices->occlusion, $asked['exploded'] ? $measures->ofAsset(Layout::class)?->vectors : null] : $measures->ofAsset(Colors::class)->toArray([...$asset->judged(Role::Id), ...$asset->judged(Role::High)]),
        ], JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE));
    }

    /**
     * @param  list<RoledPart>  $parts
     * @return list<array{string, string}> name and hash of each
     */
    private static function hashes(array $parts): array
    {
        return array_map(static fn (RoledPart $part): array => [$part->part->name, $part->part->hash()], $parts);
    }
}
