<?php

declare(strict_types=1);

namespace Anvil\Handoff;

use Anvil\Checks\Finding;
use Anvil\Formats\FileSource;
use Anvil\Formats\Folder;
use Anvil\Formats\FormatCatalogue;
use Anvil\Formats\Zip\ZippedFiles;
use Anvil\Json;
use Anvil\Standard\Severity;
use Anvil\Unreadable;
use ZipArchive;

/**
 * A package as who receives it reads it, with nothing else to go by: every checksum both ways, the ticket against the files, and the meshes read again.
 *
 * What a package says of itself it cannot prove against somebody who writes all of it anew; for that the SHA-256 of the whole is sent another way.
 */
final readonly class Verification
{
    private const SUMS = 'SHA256SUMS';

    /** Bytes of the texts that are read whole. */
    private const MOST_TEXT = 64 << 20;

    private const BLOCK = 1 << 20;

    /**
     * @param  list<Finding>  $findings  of `package-readback` and `package-mixed`; empty when all is as it says
     * @param  array<string, string>  $sums  name in the package → SHA-256, of what was read
     * @param  string|null  $asset  its name, where the ticket could be read
     * @param  string|null  $verdict  on the ticket
     */
    private function __construct(public array $findings, public array $sums, public ?string $asset, public ?string $verdict)
    {
    }

    /**
     * @throws Unreadable when it is no zip archive at all
     */
    public static function of(string $path): self
    {
        $zip = new ZipArchive;
        $opened = $zip->open($path, ZipArchive::RDONLY | ZipArchive::CHECKCONS);
        if ($opened !== true) {
            throw Unreadable::because($opened === ZipArchive::ER_NOZIP ? 'it is no zip archive' : 'the zip archive is damaged or cut short');
        }
        try {
            $seal = PackageSeal::trouble($path, $zip);
            $found = $seal === null ? [] : [self::finding(basename($path), $seal)];
            $real = self::real($zip, $found);
            $listed = self::listed($zip, $found);
            foreach ($listed as $name => $sum) {
                if (! isset($real[$name])) {
                    $found[] = self::finding($name, 'it is not in the package');
                } elseif ($real[$name] !== $sum) {
                    $found[] = self::finding($name, 'its bytes are not those that were sealed');
                }
            }
            foreach ($real as $name => $sum) {
                if ($name !== self::SUMS && ! isset($listed[$name])) {
                    $found[] = self::finding($name, 'it was not sealed with the package');
                }
            }
            [$asset, $verdict] = self::ticket($zip, $path, $real, $found);
        } finally {
            $zip->close();
        }

        return new self($found, $real, $asset, $verdict);
    }

    public function isSound(): bool
    {
        return $this->findings === [];
    }

    /**
     * What lies in the package.
     *
     * @param  list<Finding>  $found
     * @return array<string, string> name → SHA-256
     */
    private static function real(ZipArchive $zip, array &$found): array
    {
        $out = [];
        for ($i = 0; $i < $zip->numFiles; $i++) {
            $entry = $zip->statIndex($i);
            if ($entry === false) {
                $found[] = self::finding("entry $i", 'it cannot be read');

                continue;
            }
            $name = (string) $entry['name'];
            if (isset($out[$name])) {
                $found[] = self::finding($name, 'it is in the package twice');
            }
            $sum = self::sum($zip, $i, (int) $entry['size']);
            if ($sum === null) {
                $found[] = self::finding($name, 'it cannot be unpacked');
            }
            $out[$name] = $sum ?? '';
        }

        return $out;
    }

    /** The checksum of an entry that unpacks to what it says and no more. */
    private static function sum(ZipArchive $zip, int $index, int $size): ?string
    {
        $stream = @$zip->getStreamIndex($index);
        if ($stream === false) {
            return null;
        }
        $hash = hash_init('sha256');
        $read = 0;
        while (! feof($stream)) {
            $block = @fread($stream, self::BLOCK);
            if ($block === false || ($read += strlen($block)) > $size) {
                fclose($stream);

                return null;
            }
            hash_update($hash, $block);
        }
        fclose($stream);

        return $read === $size ? hash_final($hash) : null;
    }

    /**
     * What is said to lie in it.
     *
     * @param  list<Finding>  $found
     * @return array<string, string> name → SHA-256
     */
    private static function listed(ZipArchive $zip, array &$found): array
    {
        $text = self::text($zip, self::SUMS);
        if ($text === null) {
            $found[] = self::finding(self::SUMS, 'it is not in the package');

            return [];
        }
        $out = [];
        foreach (explode("\n", rtrim($text, "\n")) as $number => $line) {
            if (preg_match('/^([0-9a-f]{64})  (.+)$/D', $line, $parts) !== 1 || isset($out[$parts[2]])) {
                $found[] = self::finding(self::SUMS, 'line '.($number + 1).' is no checksum, or names a file again');

                continue;
            }
            $out[$parts[2]] = $parts[1];
        }
        foreach (['ticket.json', 'ticket.html'] as $name) {
            if (! isset($out[$name])) {
                $found[] = self::finding($name, 'it is not among the checksums');
            }
        }

        return $out;
    }

    /**
     * The ticket against the files: what it lists is there and nothing else, reads back, and has the parts that its sets name.
     *
     * @param  array<string, string>  $real
     * @param  list<Finding>  $found
     * @return array{string|null, string|null} asset and verdict
     */
    private static function ticket(ZipArchive $zip, string $path, array $real, array &$found): array
    {
        $text = self::text($zip, 'ticket.json');
        if ($text === null) {
            return [null, null];
        }
        try {
            $ticket = Json::parse($text);
            if ($ticket->string('tool') !== 'yellow-anvil' || $ticket->int('schema') !== 1) {
                throw Unreadable::because('it is no ticket that this version reads');
            }
            $asset = $ticket->string('asset');
            $verdict = $ticket->string('verdict');
            $listed = $meshes = $sets = [];
            foreach ($ticket->objects('files') as $file) {
                $name = $file->string('path') ?? '';
                $listed[$name] = true;
                if (! isset($real[$name])) {
                    $found[] = self::finding($name, 'it is on the ticket and not in the package');
                } elseif ($real[$name] !== $file->string('sha256')) {
                    $found[] = self::finding($name, 'its bytes are not those of the ticket');
                }
                if (FormatCatalogue::isMesh($name)) {
                    $meshes[] = $name;
                }
            }
            foreach ($ticket->objects('maps') as $map) {
                $name = $map->string('path') ?? '';
                $listed[$name] = true;
                if (($real[$name] ?? null) !== $map->string('sha256')) {
                    $found[] = self::finding($name, 'its bytes are not those of the ticket');
                }
            }
            $of = $ticket->string('of');
            $mixed = [];
            foreach ($ticket->objects('outputs') as $output) {
                $name = $output->string('path') ?? '';
                $listed[$name] = true;
                if (($real[$name] ?? null) !== $output->string('sha256')) {
                    $found[] = self::finding($name, 'its bytes are not those of the ticket');
                }
                if ($output->string('of') !== $of) {
                    $mixed[$output->string('kind') ?? ''] = true;
                }
            }
            foreach (array_keys($mixed) as $kind) {
                $found[] = Extra::finding($kind);
            }
            foreach (array_keys($real) as $name) {
                if (preg_match('#^(files|maps|outputs)/#', (string) $name) === 1 && ! isset($listed[$name])) {
                    $found[] = self::finding((string) $name, 'it is not on the ticket');
                }
            }
            foreach ($ticket->objects('sets') as $set) {
                $sets[] = [$set->string('set') ?? '', [...$set->strings('low'), ...$set->strings('high')]];
            }
        } catch (Unreadable $error) {
            $found[] = self::finding('ticket.json', $error->getMessage());

            return [null, null];
        }
        if ($verdict !== 'ready') {
            $found[] = self::finding('ticket.json', 'the asset is not ready, and a package of it should not be');
        }
        self::readBack($path, $meshes, $sets, $found);

        return [$asset, $verdict];
    }

    /**
     * @param  list<string>  $meshes  names in the package
     * @param  list<array{string, list<string>}>  $sets  each with the names of its parts
     * @param  list<Finding>  $found
     */
    private static function readBack(string $path, array $meshes, array $sets, array &$found): void
    {
        $folder = sys_get_temp_dir().'/anvil-verify-'.bin2hex(random_bytes(8));
        mkdir($folder, 0o700);
        try {
            ZippedFiles::extract($path, $folder);
            $parts = [];
            foreach ($meshes as $name) {
                if (! is_file("$folder/$name")) {
                    continue;
                }
                try {
                    foreach (FormatCatalogue::read(new FileSource("$folder/$name"))->parts as $part) {
                        $parts[$part->name] = true;
                    }
                } catch (Unreadable $error) {
                    $found[] = self::finding($name, 'it does not read back: '.$error->getMessage());
                }
            }
            foreach ($sets as [$set, $names]) {
                $missing = array_values(array_filter($names, static fn (string $name): bool => ! isset($parts[$name])));
                if ($missing !== []) {
                    $found[] = self::finding($set, 'set '.$set.' of the ticket names '.implode(', ', array_slice($missing, 0, 3)).(count($missing) > 3 ? ', …' : '').', which no file holds');
                }
            }
        } catch (Unreadable $error) {
            $found[] = self::finding(basename($path), $error->getMessage());
        } finally {
            Folder::remove($folder);
        }
    }

    private static function text(ZipArchive $zip, string $name): ?string
    {
        $entry = $zip->statName($name);

        return $entry === false || $entry['size'] > self::MOST_TEXT ? null : (($text = @$zip->getFromName($name)) === false ? null : $text);
    }

    private static function finding(string $name, string $what): Finding
    {
        return new Finding('package-readback', Severity::Blocker, "$name: $what", 'ask for the package again, and for its SHA-256 by another way', ['file' => $name]);
    }
}
