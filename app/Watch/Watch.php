<?php

declare(strict_types=1);

namespace App\Watch;

use App\Deliveries\HandIn;
use Closure;
use RuntimeException;

/**
 * Looks again and again at a folder: hands in what has stopped changing, and puts the report beside it once it is judged. Every round begins from what lies there and
 * what is kept, so that a stop, a server that is gone or a network folder that comes and goes costs a wait and nothing else.
 *
 * @phpstan-import-type Known from WatchState
 */
final class Watch
{
    private const RENAME = 'Rename the files of one of them';

    private const OVER = ['done', 'failed', 'cancelled'];

    /** Seconds after which a delivery that was told of is asked for again: it may be judged anew. */
    private const AGAIN = 60.0;

    /** @var array<string, array{0: string, 1: float, 2?: string}> asset → the mark that was seen, since when, and the hash of its content */
    private array $seen = [];

    /** @var array<string, float> asset → when its delivery is asked for again */
    private array $next = [];

    /** @var array<string, true> files in the place of a report that are somebody else's, and were spoken of */
    private array $left = [];

    private ?string $trouble = null;

    /**
     * @param  float  $settled  seconds without a change after which files are handed in
     * @param  Closure(string): void  $tell
     * @param  Closure(): float  $clock  seconds
     */
    public function __construct(private readonly WatchedFolder $folder, private readonly Server $server, private readonly WatchState $state, private readonly float $settled, private readonly Closure $tell, private readonly Closure $clock)
    {
    }

    /** One look. */
    public function round(): void
    {
        try {
            $assets = $this->folder->assets();
            $this->well();
        } catch (RuntimeException $error) {
            // What is known stays known; it may come again.
            $this->ill($error->getMessage().'; waiting for it');

            return;
        }
        $this->seen = array_intersect_key($this->seen, $assets);
        $wasIll = $this->trouble !== null;
        foreach ($assets as $asset) {
            try {
                $this->look($asset, $assets);
            } catch (Gone $error) {
                $this->ill($error->getMessage().'; waiting for it');

                return;
            } catch (Refused $error) {
                if ($error->getCode() === 401 || $error->getCode() === 403) {
                    $this->ill("the token is not taken: {$error->getMessage()}");

                    return;
                }
                $this->refused($asset, $error->getMessage());
            }
        }
        if ($wasIll) {
            $this->trouble = null;
        }
    }

    /**
     * @param  array<string, WatchedAsset>  $assets
     *
     * @throws Gone
     * @throws Refused
     */
    private function look(WatchedAsset $asset, array $assets): void
    {
        $now = ($this->clock)();
        if (($this->seen[$asset->name][0] ?? null) !== $asset->mark) {
            $this->seen[$asset->name] = [$asset->mark, $now];

            return;
        }
        if ($now - $this->seen[$asset->name][1] < $this->settled) {
            return;
        }
        $known = $this->state->of($asset->name);
        if ($known !== null && $known['refused'] !== null && str_ends_with($known['refused'], self::RENAME) && $this->twin($asset, $assets) === null) {
            // What stood in its way is gone.
            $known = null;
        }
        if ($known !== null && ! $known['handing'] && ($this->seen[$asset->name][2] ?? null) === $known['content']) {
            // Looked through since it changed last.
            $this->report($asset, $known);

            return;
        }
        $sums = $asset->sums();
        if ($sums === null) {
            return;
        }
        $content = hash('sha256', (string) json_encode($sums, JSON_INVALID_UTF8_SUBSTITUTE));
        $known ??= $this->moved($asset, $content, $assets);
        $this->seen[$asset->name][2] = $content;
        if ($known !== null && ! $known['handing'] && $known['content'] === $content) {
            $this->report($asset, $known);

            return;
        }
        $twin = $this->twin($asset, $assets);
        if ($twin !== null) {
            $this->refused($asset, "$twin is an asset of the same name: the rack cannot tell them apart. ".self::RENAME, $content);

            return;
        }
        $known = $known !== null && $known['handing'] && $known['content'] === $content ? $this->adopted($known, $sums, $asset) : ['content' => $content, 'asset' => $known['asset'] ?? null, 'delivery' => null, 'reported' => null, 'refused' => null, 'handing' => true];
        if ($known['handing']) {
            $this->handIn($asset, $known);
        }
    }

    /**
     * @param  Known  $known
     *
     * @throws Gone
     * @throws Refused
     */
    private function handIn(WatchedAsset $asset, array $known): void
    {
        $uploads = [];
        foreach ($asset->files as $name => $path) {
            $id = $this->server->upload($name, $path);
            if ($id === null) {
                return;
            }
            $uploads[] = $id;
        }
        // Written again while it was sent: what was sent is of no use, and goes by itself.
        $again = $this->folder->assets()[$asset->name] ?? null;
        if ($again === null || $again->mark !== $asset->mark || $again->content() !== $known['content']) {
            ($this->tell)("$asset->name changed while it was sent; waiting until it stays as it is");
            unset($this->seen[$asset->name]);

            return;
        }
        // Should this end between the two lines that follow, the next start finds out whether it came in.
        $this->state->put($asset->name, $known);
        try {
            $delivered = $this->server->ask('POST', 'api/deliveries', ['uploads' => $uploads, 'once' => true, ...($known['asset'] === null ? [] : ['assetId' => $known['asset']])]);
        } catch (Refused $error) {
            if ($known['asset'] === null || ! in_array($error->getCode(), [404, 422], true)) {
                throw $error;
            }
            // The asset was deleted on the rack: it begins anew.
            $delivered = $this->server->ask('POST', 'api/deliveries', ['uploads' => $uploads, 'once' => true]);
        }
        $known = [...$known, 'handing' => false, 'asset' => is_int($delivered['assetId'] ?? null) ? $delivered['assetId'] : null, 'delivery' => is_int($delivered['deliveryId'] ?? null) ? $delivered['deliveryId'] : null];
        unset($this->next[$asset->name]);
        $this->state->put($asset->name, $known);
        $number = is_int($delivered['number'] ?? null) ? $delivered['number'] : '?';
        ($this->tell)(($delivered['known'] ?? false) === true ? "delivery $number already has the files of $asset->name, byte for byte: no new delivery" : "$asset->name is uploaded as delivery $number");
    }

    /**
     * What was being handed in when the watch ended: it came in, where the newest delivery has just these files.
     *
     * @param  Known  $known
     * @param  array<string, string>  $sums
     * @return Known
     *
     * @throws Gone
     * @throws Refused
     */
    private function adopted(array $known, array $sums, WatchedAsset $asset): array
    {
        $key = HandIn::keyOf(array_key_first($asset->files) ?? '');
        $rack = $this->server->ask('GET', 'api/rack?'.http_build_query(['find' => str_replace('_', ' ', $key)]));
        foreach (is_array($rack['assets'] ?? null) ? $rack['assets'] : [] as $row) {
            $id = is_array($row) ? $row['deliveryId'] ?? null : null;
            if (! is_int($id)) {
                continue;
            }
            $files = $this->server->ask('GET', "api/deliveries/$id")['files'] ?? null;
            $own = [];
            foreach (is_array($files) ? $files : [] as $file) {
                if (is_array($file) && ($file['kind'] ?? null) === 'mesh') {
                    $own[is_string($file['name'] ?? null) ? $file['name'] : ''] = $file['sha256'] ?? null;
                }
            }
            ksort($own);
            if ($own !== [] && $own === array_intersect_key($sums, $own)) {
                $known = [...$known, 'handing' => false, 'asset' => is_int($row['id'] ?? null) ? $row['id'] : null, 'delivery' => $id];
                $this->state->put($asset->name, $known);
                break;
            }
        }

        return $known;
    }

    /**
     * What is known of an asset that lay elsewhere, where just its content lies here now and no more there.
     *
     * @param  array<string, WatchedAsset>  $assets
     * @return Known|null
     */
    private function moved(WatchedAsset $asset, string $content, array $assets): ?array
    {
        foreach ($this->state->names() as $name) {
            $known = $this->state->of($name);
            if ($known !== null && $known['content'] === $content && ! isset($assets[$name])) {
                $this->state->put($name, null);
                $known = [...$known, 'reported' => null];
                $this->state->put($asset->name, $known);
                ($this->tell)("$asset->name lay in $name before; nothing is handed in anew");

                return $known;
            }
        }

        return null;
    }

    /**
     * Another asset that the rack would take for this one: the first by name is the one that is handed in.
     *
     * @param  array<string, WatchedAsset>  $assets
     */
    private function twin(WatchedAsset $asset, array $assets): ?string
    {
        foreach ($assets as $name => $other) {
            if ($name === $asset->name) {
                return null;
            }
            if (mb_strtolower(basename($name)) === mb_strtolower(basename($asset->name))) {
                return $name;
            }
        }

        return null;
    }

    /**
     * Puts the report beside the files once the delivery is judged, and again once it is judged anew.
     *
     * @param  Known  $known
     *
     * @throws Gone
     * @throws Refused
     */
    private function report(WatchedAsset $asset, array $known): void
    {
        if ($known['delivery'] === null || ($this->clock)() < ($this->next[$asset->name] ?? 0.0)) {
            return;
        }
        $isThere = is_file("$asset->report.html") && is_file("$asset->report.json");
        try {
            $progress = $this->server->ask('GET', "api/deliveries/{$known['delivery']}/progress");
        } catch (Refused $error) {
            if ($error->getCode() === 404) {
                // Deleted on the rack: that is no reason to hand it in again.
                return;
            }
            throw $error;
        }
        $state = $progress['state'] ?? null;
        $mark = is_string($progress['mark'] ?? null) ? $progress['mark'] : '';
        if (! in_array($state, self::OVER, true)) {
            return;
        }
        $this->next[$asset->name] = ($this->clock)() + self::AGAIN;
        if ($isThere && $known['reported'] === $mark) {
            return;
        }
        if ($state === 'done') {
            [$html, $json] = [$this->server->text('GET', "api/deliveries/{$known['delivery']}/ticket/html"), $this->server->text('GET', "api/deliveries/{$known['delivery']}/ticket/json")];
        } else {
            $why = is_string($progress['error'] ?? null) ? $progress['error'] : "the check was $state";
            [$html, $json] = [Notes::page($asset->name, $why), Notes::json($asset->name, $why)];
        }
        if ($this->write($asset, $html, $json)) {
            $verdict = json_decode($json, true);
            $this->state->put($asset->name, [...$known, 'reported' => $mark]);
            ($this->tell)("$asset->name: ".(is_array($verdict) && is_string($verdict['verdict'] ?? null) ? $verdict['verdict'] : 'not judged').", $asset->report.html");
        }
    }

    private function refused(WatchedAsset $asset, string $why, ?string $content = null): void
    {
        $content ??= $asset->content();
        if ($content === null || ($this->state->of($asset->name)['refused'] ?? null) === $why && ($this->state->of($asset->name)['content'] ?? null) === $content) {
            return;
        }
        if ($this->write($asset, Notes::page($asset->name, $why), Notes::json($asset->name, $why))) {
            $this->seen[$asset->name][2] = $content;
            $this->state->put($asset->name, ['content' => $content, 'asset' => $this->state->of($asset->name)['asset'] ?? null, 'delivery' => null, 'reported' => null, 'refused' => $why, 'handing' => false]);
            ($this->tell)("$asset->name is not taken: $why");
        }
    }

    private function write(WatchedAsset $asset, string $html, string $json): bool
    {
        $texts = ["$asset->report.html" => $html, "$asset->report.json" => $json];
        foreach (array_keys($texts) as $path) {
            if (! $this->state->isOwn($path)) {
                if (! isset($this->left[$path])) {
                    $this->left[$path] = true;
                    ($this->tell)("$path was not written by this watch, or was changed since: it stays as it is, and the report of $asset->name is not written. Move it away to get the report");
                }

                return false;
            }
        }
        unset($this->left["$asset->report.html"], $this->left["$asset->report.json"]);
        $isWhole = true;
        foreach ($texts as $path => $text) {
            $this->state->writes($path, $text);
            $isWhole = $isWhole && WatchedFolder::put($path, $text);
        }
        if ($isWhole) {
            return true;
        }
        $this->ill("the report of $asset->name cannot be written beside its files");

        return false;
    }

    private function ill(string $trouble): void
    {
        if ($this->trouble !== $trouble) {
            $this->trouble = $trouble;
            ($this->tell)($trouble);
        }
    }

    private function well(): void
    {
        if ($this->trouble !== null && str_contains($this->trouble, 'is not there')) {
            $this->trouble = null;
            ($this->tell)('the folder is there again');
        }
    }
}
