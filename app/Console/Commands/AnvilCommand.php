<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Anvil\Asset\GivenFile;
use Anvil\Asset\GivenMap;
use Anvil\Asset\LastDelivery;
use Anvil\Asset\ReadFile;
use Anvil\Checks\Catalogue;
use Anvil\Explode\Assembled;
use Anvil\Formats\FileSource;
use Anvil\Formats\Folder;
use Anvil\Formats\FormatCatalogue;
use Anvil\Inspection\Inspector;
use Anvil\Measures\FolderStore;
use Anvil\Measures\Measures;
use Anvil\Parallel\Forks;
use Anvil\Report\Report;
use Anvil\Standard\Choices;
use Anvil\Standard\RaySettings;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;
use Anvil\Standard\Waiver;
use Anvil\Unreadable;
use Closure;
use Illuminate\Console\Command;
use RuntimeException;
use Symfony\Component\Console\Exception\ExceptionInterface;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/**
 * What all headless commands share: files with roles, the standard, the choices, exit codes (CLI.md).
 */
abstract class AnvilCommand extends Command
{
    public const BLOCKED = 1;

    public const UNUSABLE = 2;

    /** Processes that measure where nothing else is said: each takes memory of its own. */
    private const MOST_WORKERS = 8;

    protected const INPUT = '{files?* : mesh files, each a path or role:path (low, high, id, cage, pose); maps that came back from a baker as PAGE_normal.png or map:KIND@PAGE:path}
        {--standard= : a studio standard, JSON}
        {--choices= : what was decided for this asset, JSON}
        {--waivers= : accepted findings, JSON}
        {--workers= : processes that measure at one time; as many as there are cores by default, at most 8}
        {--json : print one JSON document and nothing else}';

    /** @var list<GivenMap> that came back from a baker, among the files */
    protected array $maps = [];

    /** Wrong options are input that cannot be used, like any other. */
    public function run(InputInterface $input, OutputInterface $output): int
    {
        try {
            return parent::run($input, $output);
        } catch (ExceptionInterface $error) {
            $given = is_array($_SERVER['argv'] ?? null) ? $_SERVER['argv'] : [];
            $json = in_array('--json', $given, true) || in_array('--format=json', $given, true);
            $this->report($output, $json, 'input-unusable', $error->getMessage());

            return self::UNUSABLE;
        }
    }

    public function handle(): int
    {
        try {
            return $this->perform();
        } catch (UnusableInput $error) {
            $this->report($this->output, $this->wantsJson(), $error->errorCode, $error->getMessage(), $error->subject, $error->atLine, $error->atOffset);
        } catch (RuntimeException $error) {
            $this->report($this->output, $this->wantsJson(), 'input-unusable', $error->getMessage());
        }

        return self::UNUSABLE;
    }

    /**
     * @throws UnusableInput|RuntimeException
     */
    abstract protected function perform(): int;

    /**
     * @return list<GivenFile>
     *
     * @throws UnusableInput
     */
    protected function givenFiles(): array
    {
        /** @var list<string> $arguments */
        $arguments = $this->input->getArgument('files');

        return $this->filesOf($arguments);
    }

    /**
     * @param  list<string>  $arguments  paths, with their roles
     * @return list<GivenFile>
     *
     * @throws UnusableInput
     */
    protected function filesOf(array $arguments): array
    {
        if ($arguments === []) {
            throw new UnusableInput('file-missing', 'name at least one mesh file, as a path or role:path');
        }
        $out = $this->maps = [];
        $sides = 0;
        foreach ($arguments as $argument) {
            $role = null;
            $path = $argument;
            $map = $this->givenMap($argument);
            if ($map !== null) {
                $this->maps[] = $map;

                continue;
            }
            if (preg_match('/^(low|high|id|cage|pose):(.+)$/s', $argument, $found) === 1) {
                $role = Role::from($found[1]);
                $path = $found[2];
            }
            if (! is_file($path)) {
                throw new UnusableInput('file-missing', is_dir($path) ? "$path is a folder" : "$path is not there", $path);
            }
            if (! is_readable($path)) {
                throw new UnusableInput('file-missing', "$path may not be read", $path);
            }
            $ending = strtolower(pathinfo($path, PATHINFO_EXTENSION));
            // A shell pattern takes side files along: the mesh files name them, and find them beside themselves.
            if ($role === null && in_array($ending, FormatCatalogue::SIDE_ENDINGS, true)) {
                $sides++;

                continue;
            }
            if ($ending === 'zip') {
                array_push($out, ...GivenFile::ofZip($path, $role, $this->temporaryFolder()));
            } else {
                $out[] = new GivenFile($path, $role, new FileSource($path));
            }
        }
        if ($out === [] && $this->maps !== []) {
            throw new UnusableInput('file-missing', 'maps that came back are held against their meshes; name those, too');
        }
        if ($out === []) {
            throw new UnusableInput('file-missing', $sides === 1 ? "$arguments[0] goes with a mesh file; name that file" : 'these files go with mesh files; name at least one of those');
        }

        return $out;
    }

    /**
     * A map that came back: by its prefix, or by a name that ends in its kind.
     *
     * @throws UnusableInput
     */
    private function givenMap(string $argument): ?GivenMap
    {
        if (preg_match('/^map:([^:@]*)(?:@([^:]+))?:(.+)$/s', $argument, $found) === 1) {
            [, $kind, $page, $path] = $found;
            if (! in_array($kind, GivenMap::KINDS, true)) {
                throw new UnusableInput('input-unusable', "$argument: $kind is no kind of map; there are ".implode(', ', GivenMap::KINDS));
            }
        } elseif (! str_contains($argument, ':') && GivenMap::read($argument) !== null) {
            [$kind, $page, $path] = [null, '', $argument];
        } else {
            return null;
        }
        if (! is_file($path) || ! is_readable($path)) {
            throw new UnusableInput('file-missing', is_file($path) ? "$path may not be read" : "$path is not there", $path);
        }

        return GivenMap::of($path, $kind, $page === '' ? null : $page, new FileSource($path));
    }

    /** A folder of its own that is gone when the command ends, however it ends. */
    private function temporaryFolder(): string
    {
        $folder = sys_get_temp_dir().'/anvil-'.bin2hex(random_bytes(8));
        mkdir($folder, 0o700);
        $own = getmypid();
        register_shutdown_function(static function () use ($folder, $own): void {
            // A forked process that runs out of memory ends here, too; the folder is not its own.
            if (getmypid() === $own) {
                Folder::remove($folder);
            }
        });

        return $folder;
    }

    /**
     * @throws UnusableInput
     */
    protected function standard(): Standard
    {
        $standard = $this->settings('standard', Catalogue::standard(...)) ?? Standard::builtIn();
        $rays = $this->optional('rays');
        if ($rays !== null) {
            if (! is_string($rays) || preg_match('/^\d{2,7}$/', $rays) !== 1 || (int) $rays < 64 || (int) $rays > 4_194_304) {
                throw new UnusableInput('input-unusable', '--rays takes a whole number from 64 to 4194304');
            }
            $own = $standard->rays;
            $standard = $standard->withRays(new RaySettings($own->smooth, $own->cageLength, $own->backFaces, (int) $rays, $own->setsKeptApart));
        }

        return $standard;
    }

    /**
     * @throws UnusableInput
     */
    protected function choices(): Choices
    {
        return $this->settings('choices', Choices::ofJson(...)) ?? new Choices;
    }

    /**
     * @throws UnusableInput
     */
    protected function workers(): int
    {
        $workers = $this->optional('workers');
        if ($workers !== null && (! is_string($workers) || preg_match('/^[1-9]\d{0,2}$/', $workers) !== 1)) {
            throw new UnusableInput('input-unusable', '--workers takes a whole number from 1 to 999');
        }

        return $workers === null ? min(self::MOST_WORKERS, Forks::most()) : (int) $workers;
    }

    /**
     * Those that hold today.
     *
     * @return list<Waiver>
     *
     * @throws UnusableInput
     */
    protected function waivers(): array
    {
        $today = date('Y-m-d');

        return array_values(array_filter($this->settings('waivers', Waiver::listOfJson(...)) ?? [], static fn (Waiver $waiver): bool => $waiver->holdsOn($today)));
    }

    /**
     * @param  list<GivenFile>  $files
     *
     * @throws UnusableInput when none of the files can be read
     */
    protected function inspectFiles(array $files, ?LastDelivery $last = null): Report
    {
        $report = Inspector::inspect($files, $this->standard(), $this->choices(), $this->waivers(), $this->codes(), $this->progress(), $this->assembled(), $this->workers(), $this->maps, $last, self::store());
        $this->clearProgress();
        foreach ($report->measures->asset->files as $file) {
            if ($file->error === null) {
                return $report;
            }
        }
        $first = $report->measures->asset->files[0];
        throw UnusableInput::of($first->error ?? Unreadable::because('no file can be read'), $first->path);
    }

    /**
     * Where results are kept from one command to the next: in the folder that ANVIL_MEASURES names, if it names one.
     *
     * @throws UnusableInput
     */
    protected static function store(): ?FolderStore
    {
        $folder = getenv('ANVIL_MEASURES');
        if ($folder === false || $folder === '') {
            return null;
        }
        if (! is_dir($folder) || ! is_writable($folder)) {
            throw new UnusableInput('input-unusable', "ANVIL_MEASURES names $folder, which is not a folder that can be written to");
        }

        return new FolderStore($folder);
    }

    /**
     * What exploded files were before: an `explode.json`, or the original files.
     *
     * @throws UnusableInput
     */
    private function assembled(): ?Assembled
    {
        $paths = $this->optional('assembled');
        $paths = is_array($paths) ? array_values(array_filter($paths, is_string(...))) : [];
        if ($paths === []) {
            return null;
        }
        foreach ($paths as $path) {
            if (! is_file($path)) {
                throw new UnusableInput('file-missing', "$path is not there", $path);
            }
        }
        if (count($paths) === 1 && strtolower(pathinfo($paths[0], PATHINFO_EXTENSION)) === 'json') {
            try {
                return Assembled::ofPlan((string) file_get_contents($paths[0]));
            } catch (Unreadable $error) {
                throw UnusableInput::of($error, $paths[0], 'assembled-invalid');
            }
        }
        $files = [];
        foreach ($paths as $path) {
            $read = ReadFile::of(new GivenFile($path, null, new FileSource($path)));
            if ($read->error !== null) {
                throw UnusableInput::of($read->error, $path);
            }
            $files[] = $read;
        }

        return Assembled::ofOriginal(Measures::of($files, $this->standard(), $this->choices())->asset);
    }

    /**
     * The folder given with --out.
     *
     * @throws UnusableInput
     */
    protected function outOption(string $what): string
    {
        $out = $this->optional('out');
        if (! is_string($out) || $out === '') {
            throw new UnusableInput('input-unusable', "--out=$what is missing");
        }

        return $out;
    }

    protected function printJson(mixed $document): void
    {
        $this->output->writeln((string) json_encode($document, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRETTY_PRINT | JSON_INVALID_UTF8_SUBSTITUTE | JSON_THROW_ON_ERROR), OutputInterface::OUTPUT_RAW);
    }

    /** An option that not every command has. */
    private function optional(string $name): mixed
    {
        return $this->input->hasOption($name) ? $this->input->getOption($name) : null;
    }

    protected function wantsJson(): bool
    {
        return (bool) $this->option('json') || $this->optional('format') === 'json';
    }

    /**
     * @return Closure(string): void|null
     */
    protected function progress(): ?Closure
    {
        if (! stream_isatty(STDERR)) {
            return null;
        }

        return static function (string $what): void {
            fwrite(STDERR, "\r\e[K$what");
        };
    }

    protected function clearProgress(): void
    {
        if (stream_isatty(STDERR)) {
            fwrite(STDERR, "\r\e[K");
        }
    }

    /**
     * @return list<string>
     *
     * @throws UnusableInput
     */
    private function codes(): array
    {
        $only = $this->optional('only');
        if (! is_string($only) || $only === '') {
            return [];
        }
        $codes = array_values(array_filter(array_map(trim(...), explode(',', $only)), static fn (string $code): bool => $code !== ''));
        foreach ($codes as $code) {
            if (! Catalogue::knows($code)) {
                throw new UnusableInput('input-unusable', "--only: $code is no check");
            }
        }

        return $codes;
    }

    /**
     * @template T
     *
     * @param  Closure(string): T  $parse
     * @return T|null
     *
     * @throws UnusableInput
     */
    protected function settings(string $option, Closure $parse): mixed
    {
        $path = $this->option($option);
        if (! is_string($path) || $path === '') {
            return null;
        }
        $text = is_file($path) ? @file_get_contents($path) : false;
        if ($text === false) {
            throw new UnusableInput('file-missing', "$path is not there", $path);
        }
        try {
            return $parse($text);
        } catch (Unreadable $error) {
            throw UnusableInput::of($error, $path, "$option-invalid");
        }
    }

    private function report(OutputInterface $output, bool $json, string $code, string $message, ?string $file = null, ?int $line = null, ?int $offset = null): void
    {
        $this->clearProgress();
        if ($json) {
            $error = array_filter(['code' => $code, 'message' => $message, 'file' => $file, 'line' => $line, 'offset' => $offset], static fn ($value): bool => $value !== null);
            $output->writeln((string) json_encode(['tool' => 'yellow-anvil', 'schema' => 1, 'error' => $error], JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRETTY_PRINT | JSON_INVALID_UTF8_SUBSTITUTE), OutputInterface::OUTPUT_RAW);
        }
        $inner = $output instanceof \Illuminate\Console\OutputStyle ? $output->getOutput() : $output;
        $errors = $inner instanceof ConsoleOutputInterface ? $inner->getErrorOutput() : $output;
        $errors->writeln(($file === null || str_contains($message, $file) ? '' : "$file: ").$message, OutputInterface::OUTPUT_RAW);
    }
}
