<?php

declare(strict_types=1);

namespace Anvil\Parallel;

use Anvil\Formats\Folder;
use Closure;
use Throwable;

/**
 * Pieces of work that do not need one another, spread over processes that are forked from this one. Each takes the next piece that nobody
 * has taken; answers come back in the order of the pieces, whoever made them. What a process that ended early has left is done here.
 */
final class Forks
{
    /** The most memory that forked processes took beside this one's at one time, in bytes. */
    public static int $beside = 0;

    /** How many processes this machine runs at one time; 1 where there is no forking. */
    public static function most(): int
    {
        if (! function_exists('pcntl_fork')) {
            return 1;
        }
        $told = is_readable('/proc/cpuinfo') ? substr_count((string) file_get_contents('/proc/cpuinfo'), "\nprocessor") + 1 : 1;
        $allowed = trim((string) @shell_exec('nproc 2>/dev/null'));

        return max(1, ctype_digit($allowed) && $allowed !== '0' ? (int) $allowed : $told);
    }

    /**
     * @template T of array<array-key, mixed>
     *
     * @param  int  $pieces  how many there are
     * @param  Closure(int): T  $work  by number from 0; what it gives holds no objects
     * @param  int  $workers  processes, this one among them
     * @param  Closure(): void|null  $meanwhile  done by this process first, while the others have begun
     * @param  Closure(int): void|null  $taken  called here for each piece that is begun here or was begun elsewhere
     * @return list<T>
     *
     * @throws Throwable what a piece throws here
     */
    public static function map(int $pieces, Closure $work, int $workers, ?Closure $meanwhile = null, ?Closure $taken = null): array
    {
        $forks = min($workers - 1, $meanwhile === null ? $pieces - 1 : $pieces);
        if ($forks < 1 || ! function_exists('pcntl_fork')) {
            $meanwhile?->__invoke();
            $out = [];
            for ($i = 0; $i < $pieces; $i++) {
                $taken?->__invoke($i);
                $out[] = $work($i);
            }

            return $out;
        }
        $folder = sys_get_temp_dir().'/anvil-forks-'.bin2hex(random_bytes(8));
        mkdir($folder, 0o700);
        $children = [];
        $parent = posix_getpid();
        try {
            for ($k = 0; $k < $forks; $k++) {
                $child = pcntl_fork();
                if ($child === 0) {
                    self::child($folder, $k, $parent, $pieces, $work);
                }
                if ($child > 0) {
                    $children[$k] = $child;
                }
            }
            $meanwhile?->__invoke();
            $done = [];
            $took = 0;
            while (($i = self::next($folder, $pieces)) !== null) {
                $taken?->__invoke($i);
                $done[$i] = $work($i);
            }
            foreach ($children as $k => $child) {
                pcntl_waitpid($child, $status);
                unset($children[$k]);
                [$answers, $most] = self::answers("$folder/$k");
                $done += $answers;
                $took += $most;
            }
            self::$beside = max(self::$beside, $took);
            for ($i = 0; $i < $pieces; $i++) {
                $done[$i] ??= $work($i);
            }
            ksort($done);

            /** @var list<T> */
            return array_values($done);
        } finally {
            foreach ($children as $child) {
                posix_kill($child, SIGKILL);
                pcntl_waitpid($child, $status);
            }
            Folder::remove($folder);
        }
    }

    /**
     * The life of a forked process: it leaves without running what this program does at its end.
     */
    private static function child(string $folder, int $number, int $parent, int $pieces, Closure $work): never
    {
        try {
            $before = memory_get_usage();
            $stream = fopen("$folder/$number", 'wb');
            while ($stream !== false && posix_getppid() === $parent && ($i = self::next($folder, $pieces)) !== null) {
                $answer = serialize([$i, $work($i), max(0, memory_get_peak_usage() - $before)]);
                fwrite($stream, pack('J', strlen($answer)).$answer);
            }
        } catch (Throwable) {
            // The piece is done again where its failure can be told.
        }
        posix_kill(posix_getpid(), SIGKILL);
        exit;
    }

    /** The next piece that nobody has taken; null when all are. */
    private static function next(string $folder, int $pieces): ?int
    {
        $stream = fopen("$folder/next", 'c+b');
        if ($stream === false || ! flock($stream, LOCK_EX)) {
            return null;
        }
        $next = (int) stream_get_contents($stream);
        rewind($stream);
        fwrite($stream, (string) ($next + 1));
        fclose($stream);

        return $next < $pieces ? $next : null;
    }

    /**
     * @return array{array<int, mixed>, int} by number of the piece; the most memory that the process took beside what it began with
     */
    private static function answers(string $path): array
    {
        $out = [];
        $stream = @fopen($path, 'rb');
        $most = 0;
        while ($stream !== false && strlen($head = (string) fread($stream, 8)) === 8) {
            $length = unpack('J', $head);
            $text = (string) stream_get_contents($stream, is_array($length) && is_int($length[1]) ? $length[1] : 0);
            $answer = @unserialize($text, ['allowed_classes' => false]);
            if (! is_array($answer) || ! is_int($answer[0] ?? null) || ! array_key_exists(1, $answer)) {
                break;
            }
            $out[$answer[0]] = $answer[1];
            $most = max($most, is_int($answer[2] ?? null) ? $answer[2] : 0);
        }

        return [$out, $most];
    }
}
