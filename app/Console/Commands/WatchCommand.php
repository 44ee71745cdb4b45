<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Anvil\Standard\Standard;
use App\Watch\Server;
use App\Watch\Watch;
use App\Watch\WatchedFolder;
use App\Watch\WatchState;

/**
 * Watches a folder, hands in what is saved there, and keeps a report beside it. Needs the address of a running application and a token; no database.
 */
final class WatchCommand extends AnvilCommand
{
    protected $signature = 'anvil:watch {folder : what is watched, with all folders in it}
        {--server=http://127.0.0.1:8750 : where the application answers}
        {--state= : folder for what is kept over a stop; by default var/watch}
        {--standard= : the studio\'s standard, JSON, for its suffixes}
        {--settled=5 : seconds without a change after which files are handed in}
        {--every=2 : seconds from look to look}
        {--rounds=0 : look so many times and end; 0: until it is stopped}
        {--json : tell what cannot be used as one JSON document}';

    protected $description = 'Hand in what is saved in a folder once it has stopped changing, and keep report.html and report.json beside it';

    protected function perform(): int
    {
        $folder = $this->argument('folder');
        $path = realpath($folder);
        if ($path === false || ! is_dir($path)) {
            throw new UnusableInput('file-missing', "$folder is no folder", $folder);
        }
        $token = (string) getenv('ANVIL_TOKEN');
        if ($token === '') {
            throw new UnusableInput('input-unusable', 'set ANVIL_TOKEN to a token that may read and hand in; it is made on the account page');
        }
        $kept = $this->option('state');
        $kept = is_string($kept) && $kept !== '' ? $kept : base_path('var/watch');
        if (! is_dir($kept) && ! @mkdir($kept, 0o700, true)) {
            throw new UnusableInput('input-unusable', "$kept cannot be made; --state names another folder", $kept);
        }
        $file = "$kept/".hash('sha256', $path).'.json';
        $lock = fopen("$file.lock", 'c');
        if ($lock === false || ! flock($lock, LOCK_EX | LOCK_NB)) {
            throw new UnusableInput('input-unusable', "$path is being watched already");
        }
        $standard = $this->option('standard') === null ? Standard::builtIn() : $this->standard();
        $watch = new Watch(
            new WatchedFolder($path, $standard), new Server((string) $this->option('server'), $token), new WatchState($file), max(0.0, (float) $this->option('settled')),
            function (string $words): void {
                $this->line(date('H:i:s ').$words);
            },
            static fn (): float => hrtime(true) / 1e9,
        );
        $this->line("watching $path");
        $rounds = (int) $this->option('rounds');
        for ($round = 1; $rounds === 0 || $round <= $rounds; $round++) {
            $watch->round();
            if ($round !== $rounds) {
                usleep((int) (1e6 * max(0.1, (float) $this->option('every'))));
            }
        }
        fclose($lock);

        return self::SUCCESS;
    }
}
