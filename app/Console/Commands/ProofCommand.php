<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Anvil\Checks\Finding;
use Anvil\Checks\Proof\ProofRetouch;
use Anvil\Checks\Words;
use Anvil\Formats\FolderSink;
use Anvil\Handoff\MadeOf;
use Anvil\Measures\Kind\ReturnedMaps;
use Anvil\Parallel\Forks;
use Anvil\Proof\MapPng;
use Anvil\Proof\ProofPage;
use Anvil\Proof\Returned\MapVerdict;
use Anvil\Proof\TexelRays;
use Anvil\Proof\Through;
use Anvil\Proof\TrialBake;
use Anvil\Proof\TrialMaps;
use Anvil\Report\Report;
use Throwable;

/**
 * Makes the trial maps of each page, and holds maps that came back against them.
 */
final class ProofCommand extends AnvilCommand
{
    protected $signature = 'anvil:proof '.self::INPUT.'
        {--out= : folder to write to, new or empty}
        {--force : write into a folder that holds files}
        {--size=256 : px of the trial maps, 64 to 2048, at most the map size}
        {--samples=1 : rays a texel, 1 or 4}
        {--directions=64 : directions of occlusion, 16 to 1024}
        {--through=in-use : what rays go through: in-use (the handed-in cage, else the reach), reach, or fitted (a cage fitted here)}
        {--exploded : occlusion in the exploded layout}
        {--rays= : samples, instead of the standard\'s}';

    protected $description = 'Bake small trial maps of each page, count what is left to paint, and judge maps that came back';

    /** Made by itself, beside the maps that one ray gives. */
    private const SLOW = 'ao';

    protected function perform(): int
    {
        $files = $this->givenFiles();
        $standard = $this->standard();
        $size = $this->number('size', 64, 2048);
        $samples = $this->number('samples', 1, 4);
        if ($samples !== 1 && $samples !== 4) {
            throw new UnusableInput('input-unusable', '--samples takes 1 or 4');
        }
        $directions = $this->number('directions', 16, 1024);
        $through = Through::tryFrom((string) $this->option('through')) ?? throw new UnusableInput('input-unusable', '--through takes in-use, reach or fitted');
        $out = $this->outOption('DIR');
        $exploded = (bool) $this->option('exploded');
        $size = min($size, $standard->mapSize);
        $report = $this->inspectFiles($files);
        $measures = $report->measures;
        $pages = $measures->common()->pages();
        if ($pages === []) {
            throw new UnusableInput('input-unusable', 'there is no page to bake: the low poly has no UVs');
        }
        if ($measures->clearances() === []) {
            throw new UnusableInput('input-unusable', $measures->notMeasured() === [] ? 'no page has a high poly: no set has both low and high parts' : (string) current($measures->notMeasured()));
        }
        $bits = (int) $standard->limit('map-bits', 16.0);
        $padding = $standard->padding() * $size / $standard->mapSize;
        $inputs = $measures->common()->trialInputs();
        $tasks = [];
        foreach (array_keys($pages) as $number) {
            array_push($tasks, [$number, false], [$number, true]);
        }
        $progress = $this->progress();
        $made = Forks::map(count($tasks), static function (int $task) use ($tasks, $pages, $inputs, $through, $directions, $exploded, $size, $samples, $bits, $padding): array {
            [$number, $isSlow] = $tasks[$task];
            $bake = new TrialBake($inputs, $through, $directions, $exploded);
            $kinds = $isSlow ? [self::SLOW] : ['normal', 'id', 'height', 'miss'];
            $maps = $bake->page($pages[$number], $size, $samples, $kinds);
            $files = [];
            foreach ($kinds as $kind) {
                $files[$kind] = base64_encode(MapPng::of($maps, $kind, $padding, $bits));
            }

            return ['files' => $files, 'inside' => $maps->inside(), 'missShare' => $maps->share(TexelRays::MISS), 'wrongShare' => $maps->share(TexelRays::WRONG), 'notShot' => $maps->notShot];
        }, $this->workers(), null, $progress === null ? null : static fn (int $task) => $progress('baking '.$pages[$tasks[$task][0]]->name.($tasks[$task][1] ? ', occlusion' : '')));
        $this->clearProgress();

        return $this->write($report, $pages, $tasks, $made, $size, $out);
    }

    /**
     * @param  list<ProofPage>  $pages
     * @param  list<array{int, bool}>  $tasks
     * @param  array<int, array{files: array<string, string>, inside: int, missShare: float, wrongShare: float, notShot: array<string, string>}>  $made
     */
    private function write(Report $report, array $pages, array $tasks, array $made, int $size, string $out): int
    {
        $measures = $report->measures;
        $masks = ProofRetouch::pages($measures);
        $returned = $measures->asset->maps === [] ? [] : $measures->ofAsset(ReturnedMaps::class);
        $sink = new FolderSink($out, (bool) $this->option('force'));
        try {
            $rows = [];
            foreach ($pages as $number => $page) {
                $files = [];
                $told = null;
                foreach ($tasks as $task => [$of, $isSlow]) {
                    if ($of === $number) {
                        $files += $made[$task]['files'];
                        $told = $isSlow ? $told : $made[$task];
                    }
                }
                $mask = $masks[$number][0];
                $files['retouch'] = base64_encode($mask->png());
                $maps = [];
                foreach ([...TrialMaps::KINDS, 'retouch'] as $kind) {
                    $bytes = (string) base64_decode($files[$kind], true);
                    $stream = $sink->open("{$page->file}_$kind.png");
                    fwrite($stream, $bytes);
                    fclose($stream);
                    $maps[] = ['kind' => $kind, 'file' => "{$page->file}_$kind.png", 'sha256' => hash('sha256', $bytes)];
                }
                $rows[] = [
                    'page' => $page->name, 'insideTexels' => $told['inside'] ?? 0, 'missShare' => $told['missShare'] ?? 0.0, 'wrongShare' => $told['wrongShare'] ?? 0.0,
                    'retouch' => ['share' => $mask->share(), 'texels' => $mask->texels], 'maps' => $maps,
                    'returned' => array_values(array_map(self::returned(...), array_filter($returned, static fn (MapVerdict $map): bool => $map->page === $page->name && $map->header !== null))),
                    ...($told === null || $told['notShot'] === [] ? [] : ['notShot' => $told['notShot']]),
                ];
            }
            $document = ['size' => $size, 'of' => MadeOf::of($measures->asset), 'pages' => $rows];
            $stream = $sink->open('proof.json');
            fwrite($stream, json_encode($document, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRETTY_PRINT | JSON_INVALID_UTF8_SUBSTITUTE | JSON_THROW_ON_ERROR)."\n");
            fclose($stream);
            $sink->commit();
        } catch (Throwable $error) {
            $sink->discard();
            throw $error;
        }
        if ($this->wantsJson()) {
            $this->printJson([...$document, 'findings' => array_map(static fn (Finding $finding): array => $finding->toArray(), $report->findings())]);
        } else {
            foreach ($rows as $row) {
                $this->line(sprintf('%-24s %s texels inside at %d px: %s miss, %s go wrong; %s to paint by hand at %d px', $row['page'], number_format($row['insideTexels']), $size, Words::percent($row['missShare']), Words::percent($row['wrongShare']), number_format($row['retouch']['texels']), $measures->asset->standard->mapSize));
            }
            foreach ($report->findings() as $finding) {
                if (str_starts_with($finding->code, 'map-') || $finding->code === 'proof-retouch') {
                    $this->line("{$finding->severity->value}: $finding->code  $finding->message");
                }
            }
            $this->line('written to '.$out.($report->isReady() ? '' : '; the asset has open blockers, see anvil:inspect'));
        }

        return $report->isReady() ? self::SUCCESS : self::BLOCKED;
    }

    /**
     * @return array<string, mixed>
     */
    private static function returned(MapVerdict $map): array
    {
        return [
            'kind' => $map->kind, 'file' => $map->path, 'width' => $map->header?->width, 'height' => $map->header?->height, 'bits' => $map->header?->bits,
            'fit' => ['median' => $map->median, 'turn' => $map->turn->value, 'greenInverted' => $map->greenInverted, 'srgb' => $map->srgb], 'differsShare' => $map->differsShare,
        ];
    }

    /**
     * @throws UnusableInput
     */
    private function number(string $option, int $least, int $most): int
    {
        $value = $this->option($option);
        if (! is_string($value) || preg_match('/^\d{1,5}$/', $value) !== 1 || (int) $value < $least || (int) $value > $most) {
            throw new UnusableInput('input-unusable', "--$option takes a whole number from $least to $most");
        }

        return (int) $value;
    }
}
