<?php

declare(strict_types=1);

namespace App\Watch;

/**
 * An asset as it lies in a watched folder: its files, and where its report goes.
 */
final readonly class WatchedAsset
{
    /**
     * @param  string  $name  by the folder it lies in, below the watched one
     * @param  array<string, string>  $files  name → path
     * @param  string  $report  where its report goes, without the ending
     * @param  string  $mark  another one once a file has another size or time, came or went
     */
    public function __construct(public string $name, public array $files, public string $report, public string $mark)
    {
    }

    /**
     * @return string|null hash of names and contents; null where a file cannot be read, or went meanwhile
     */
    public function content(): ?string
    {
        $sums = $this->sums();

        return $sums === null ? null : hash('sha256', (string) json_encode($sums, JSON_INVALID_UTF8_SUBSTITUTE));
    }

    /**
     * @return array<string, string>|null name → SHA-256
     */
    public function sums(): ?array
    {
        $out = [];
        foreach ($this->files as $name => $path) {
            $sum = @hash_file('sha256', $path);
            if ($sum === false) {
                return null;
            }
            $out[$name] = $sum;
        }

        return $out;
    }
}
