<?php

declare(strict_types=1);

namespace Anvil\Handoff;

use Anvil\Asset\GivenFile;
use Anvil\Checks\Finding;
use Anvil\Formats\FormatCatalogue;
use Anvil\Json;
use Anvil\Standard\Choices;
use Anvil\Standard\Severity;
use Anvil\Standard\Standard;
use Anvil\Unreadable;

/**
 * A sealed package held against the files, the standard and the choices as they are now.
 */
final class Staleness
{
    /**
     * @param  list<GivenFile>  $files  as they are now
     * @return list<Finding> of `package-stale`; empty where nothing changed since
     *
     * @throws Unreadable when the ticket is none
     */
    public static function of(Json $ticket, array $files, ?Standard $standard = null, ?Choices $choices = null): array
    {
        $sealed = [];
        foreach ($ticket->objects('files') as $row) {
            $sealed[basename($row->string('path') ?? '')] = $row->string('sha256') ?? '';
        }
        $out = $now = [];
        foreach ($files as $file) {
            $name = basename(str_replace('\\', '/', $file->path));
            $stream = $file->source->open();
            $hash = hash_init('sha256');
            hash_update_stream($hash, $stream);
            fclose($stream);
            $now[$name] = hash_final($hash);
            if (! isset($sealed[$name])) {
                $out[] = self::finding($name, 'it is not in the package');
            } elseif ($sealed[$name] !== $now[$name]) {
                $out[] = self::finding($name, 'it changed since the package was sealed');
            }
        }
        // Side files need not be given; meshes do, where any are.
        foreach ($files === [] ? [] : array_keys(array_diff_key($sealed, $now)) as $name) {
            if (FormatCatalogue::isMesh((string) $name)) {
                $out[] = self::finding((string) $name, 'it is in the package and not among the files');
            }
        }
        $differs = static fn (string $key, mixed $now): bool => $ticket->value($key) !== null && self::text($ticket->value($key)) !== self::text(json_decode((string) json_encode($now), true));
        if ($standard !== null && $differs('standard', $standard->toArray())) {
            $out[] = self::finding("standard \"$standard->name\"", 'it changed since the package was sealed');
        }
        if ($choices !== null && $differs('choices', $choices->toArray())) {
            $out[] = self::finding('choices', 'something was decided anew since the package was sealed');
        }

        return $out;
    }

    private static function text(mixed $value): string
    {
        $sorted = static function (mixed $value) use (&$sorted): mixed {
            if ($value instanceof \stdClass) {
                $value = (array) $value;
            }
            if (! is_array($value)) {
                return is_int($value) ? (float) $value : $value;
            }
            if (! array_is_list($value)) {
                ksort($value);
            }

            return array_map($sorted, $value);
        };

        return (string) json_encode($sorted($value));
    }

    private static function finding(string $name, string $what): Finding
    {
        return new Finding('package-stale', Severity::Blocker, "$name: $what", 'check the asset as it is now, and seal it again', ['file' => $name]);
    }
}
