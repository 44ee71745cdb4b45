<?php

declare(strict_types=1);

namespace Tests\Attack;

use Anvil\Formats\Folder;
use PHPUnit\Framework\TestCase;
use Tests\Support\Waits;

/**
 * `bin/start` itself, in a data folder of its own: who its servers run as, what they listen on, and that it comes up again whatever was killed.
 */
final class StartTest extends TestCase
{
    use Waits;

    private string $var;

    private int $port;

    /** @var resource|null */
    private $process = null;

    protected function setUp(): void
    {
        $this->var = dirname(__DIR__, 2).'/var/attack-'.bin2hex(random_bytes(4));
        mkdir($this->var, 0o711, true);
        $socket = stream_socket_server('tcp://127.0.0.1:0');
        self::assertNotFalse($socket);
        $this->port = (int) substr((string) strrchr((string) stream_socket_get_name($socket, false), ':'), 1);
        fclose($socket);
    }

    protected function tearDown(): void
    {
        $this->stop();
        foreach ($this->pids() as $pid) {
            posix_kill($pid, SIGKILL);
        }
        Folder::remove($this->var);
    }

    public function test_it_comes_up_again_whatever_was_killed_and_nobody_else_gets_in(): void
    {
        // Planted: a pid file that names a process which is not ours.
        mkdir("$this->var/run", 0o700);
        $bystander = proc_open(['sleep', '600'], [], $pipes);
        self::assertIsResource($bystander);
        $pid = proc_get_status($bystander)['pid'];
        file_put_contents("$this->var/run/database.pid", "$pid\n");
        file_put_contents("$this->var/run/nginx.pid", "$pid 12345\n");
        try {
            $this->start();
            self::assertTrue(proc_get_status($bystander)['running'], 'a process that is not ours was ended');

            $pids = $this->pids();
            self::assertArrayHasKey('database', $pids);
            self::assertGreaterThanOrEqual(5, count($pids));
            // The effective user of each; a checkout that only root can read is said so and runs as root.
            $users = array_map(static fn (int $one): int => preg_match('/^Uid:\s+\d+\s+(\d+)/m', (string) file_get_contents("/proc/$one/status"), $found) === 1 ? (int) $found[1] : -1, $pids);
            if (posix_geteuid() === 0 && ! str_contains((string) file_get_contents("$this->var/out"), 'cannot be read by any user but root')) {
                self::assertNotContains(0, $users, 'something runs as root: '.json_encode($users));
            }
            // The database listens on no port, and lets nobody in without the password; its user writes no files.
            self::assertSame([], self::listens($pids['database']));
            self::assertNotSame([], self::listens($pids['nginx']), 'what listens is seen');
            $socket = "$this->var/run/sockets/mysql.sock";
            if (! file_exists($socket)) {
                $socket = trim((string) file_get_contents("$this->var/run/sockets/short")).'/mysql.sock';
            }
            foreach (['root', 'anvil', ''] as $user) {
                exec('mariadb --no-defaults --socket='.escapeshellarg($socket).' --user='.escapeshellarg($user).' -e "SELECT 1" 2>&1', $out, $code);
                self::assertNotSame(0, $code, "$user got in");
            }
            exec('MYSQL_PWD='.escapeshellarg((string) file_get_contents("$this->var/mysql.password")).' mariadb --no-defaults --socket='.escapeshellarg($socket).' --user=anvil anvil -e "SELECT 1 INTO OUTFILE \'/tmp/anvil-outfile\'" 2>&1', $out, $code);
            self::assertNotSame(0, $code);
            self::assertFileDoesNotExist('/tmp/anvil-outfile');
            // What is kept is for nobody else to read.
            foreach (['mysql.password' => '0600', 'app.key' => '0600', 'mysql' => '0700', 'storage' => '0700', 'log' => '0700', 'log/app.log' => '0600', dirname($socket) => '0700'] as $path => $mode) {
                self::assertSame($mode, sprintf('%04o', fileperms($path[0] === '/' ? $path : "$this->var/$path") & 0o777), $path);
            }
            self::assertStringContainsString("frame-ancestors 'none'", $this->head('/'));
            self::assertStringContainsString("frame-ancestors 'none'", $this->head('/build/nothing.js'));

            // A second start from the same folder says so and harms nothing.
            self::assertStringContainsString('running already', $this->second());

            // Nobody has signed up: the link that makes the first person is printed, and each start prints another.
            $link = static fn (string $said): string => preg_match('~http://127\.0\.0\.1:\d+/password#email=owner%40localhost&token=([0-9a-f]{40,})&invite=1~', $said, $found) === 1 ? $found[1] : '';
            $first = $link((string) file_get_contents("$this->var/out"));
            self::assertNotSame('', $first);
            self::assertFileDoesNotExist("$this->var/demo");

            // One after the other is killed and comes back.
            foreach (['nginx', 'fpm', 'worker-1', 'keeper', 'database'] as $name) {
                posix_kill($this->pids()[$name], SIGKILL);
                $before = $pids[$name];
                $this->comesUp(fn (): bool => ($this->pids()[$name] ?? $before) !== $before && $this->answers(), "$name came back");
            }

            // Only bin/start is killed: the next one ends what it left and comes up on its port.
            $left = $this->pids();
            $this->kill();
            self::assertNotSame([], array_filter($left, static fn (int $one): bool => file_exists("/proc/$one")));
            $this->start();
            self::assertTrue($this->answers());
            self::assertNotContains($link((string) file_get_contents("$this->var/out")), ['', $first]);
            // All of it is killed at once.
            foreach ($this->pids() as $one) {
                posix_kill($one, SIGKILL);
            }
            $this->kill();
            $this->start();
            self::assertTrue($this->answers());
            self::assertTrue(proc_get_status($bystander)['running']);
        } finally {
            proc_terminate($bystander, SIGKILL);
            proc_close($bystander);
        }
    }

    private function start(): void
    {
        $this->process = proc_open(['bin/start', "--port=$this->port"], [0 => ['file', '/dev/null', 'r'], 1 => ['file', "$this->var/out", 'w'], 2 => ['file', "$this->var/out", 'a']], $pipes, dirname(__DIR__, 2), $this->environment()) ?: null;
        self::assertNotNull($this->process);
        $this->comesUp(fn (): bool => str_contains((string) file_get_contents("$this->var/out"), 'Ctrl-C stops it'), 'it came up');
    }

    private function second(): string
    {
        $process = proc_open(['bin/start', '--port='.($this->port + 1)], [0 => ['file', '/dev/null', 'r'], 1 => ['pipe', 'w'], 2 => ['redirect', 1]], $pipes, dirname(__DIR__, 2), $this->environment());
        self::assertIsResource($process);
        $said = (string) stream_get_contents($pipes[1]);
        proc_close($process);

        return $said;
    }

    private function kill(): void
    {
        self::assertIsResource($this->process);
        posix_kill(proc_get_status($this->process)['pid'], SIGKILL);
        proc_close($this->process);
        $this->process = null;
    }

    private function stop(): void
    {
        if (is_resource($this->process)) {
            proc_terminate($this->process, SIGTERM);
            proc_close($this->process);
            $this->process = null;
        }
    }

    /**
     * What the servers are told is not that of the test run around them.
     *
     * @return array<string, string>
     */
    private function environment(): array
    {
        $kept = array_filter(getenv(), static fn (string $name): bool => preg_match('/^(DB_|APP_|ANVIL_|QUEUE_|CACHE_|SESSION_|LOG_|VIEW_|TMPDIR)/', $name) !== 1, ARRAY_FILTER_USE_KEY);

        return [...$kept, 'ANVIL_VAR' => $this->var];
    }

    /**
     * @return array<string, int> name → process
     */
    private function pids(): array
    {
        $out = [];
        foreach (glob("$this->var/run/*.pid") ?: [] as $path) {
            $words = explode(' ', trim((string) @file_get_contents($path)));
            if (count($words) === 2 && $words[1] !== '12345') {
                $out[basename($path, '.pid')] = (int) $words[0];
            }
        }

        return $out;
    }

    /**
     * @return list<string> sockets that a process listens on over TCP, by number
     */
    private static function listens(int $pid): array
    {
        $listening = [];
        foreach (['tcp', 'tcp6'] as $kind) {
            foreach (@file("/proc/net/$kind") ?: [] as $line) {
                $words = preg_split('/\s+/', trim($line)) ?: [];
                // The fourth word is the state, 0A for one that listens; the tenth the socket's number.
                if (($words[3] ?? '') === '0A') {
                    $listening[] = "socket:[{$words[9]}]";
                }
            }
        }

        return array_values(array_intersect($listening, array_map(static fn (string $fd): string => (string) @readlink($fd), glob("/proc/$pid/fd/*") ?: [])));
    }

    private function head(string $path): string
    {
        $stream = @fopen("http://127.0.0.1:$this->port$path", 'r', false, stream_context_create(['http' => ['ignore_errors' => true, 'timeout' => 10]]));
        $meta = $stream === false ? [] : stream_get_meta_data($stream)['wrapper_data'] ?? [];

        return implode("\n", is_array($meta) ? array_filter($meta, is_string(...)) : []);
    }

    private function answers(): bool
    {
        return str_contains($this->head('/api/session'), '200 OK');
    }

    private function comesUp(\Closure $holds, string $what): void
    {
        self::until($holds, fn (): string => "$what: ".(string) @file_get_contents("$this->var/out").shell_exec('tail -n 5 '.escapeshellarg($this->var).'/log/*.log 2>&1'), 90);
    }
}
