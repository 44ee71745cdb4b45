<?php

declare(strict_types=1);

namespace Anvil\Fuzz;

use Anvil\Formats\Folder;
use Anvil\Formats\FormatCatalogue;
use Anvil\Formats\Zip\ZippedFiles;
use Anvil\Tests\Support\MemorySource;
use Anvil\Unreadable;
use ErrorException;
use RuntimeException;
use Throwable;

/**
 * Puts changed files to a reader: each must be read or refused as Unreadable, without a PHP warning, in bounded time and memory.
 *
 * Changes are bytes turned, cut out, doubled and put in, and, of text, numbers and words replaced by others that readers trip over
 * (a grammar of one rule a format: whatever stands between separators). The numbers are drawn from a fixed seed.
 */
final class Strain
{
    private const WORDS = ['-1', '0', '1', '4294967295', '-2147483649', '9223372036854775807', '1e308', '-1e-320', 'nan', 'inf', '', '""', '{}', '[]', '[', ']', '{', '}', '<', '>', '&', '#', '\\', "\n", "\r\n", "\0", "\xFF\xFE", '65535', '99999999', '0.5', 'true', 'null', '../..', '1 2 3', '-'];

    /** Whole seconds that a small file may take. */
    private const SLOW = 5.0;

    /** @var list<string> what went wrong: the message, and the file's bytes in base64 */
    public static array $complaints = [];

    public static function run(string $name, string $seed, int $rounds, int $number): void
    {
        mt_srand($number);
        for ($i = 0; $i < $rounds; $i++) {
            $content = $seed;
            for ($k = mt_rand(1, 4); $k > 0; $k--) {
                $content = self::changed($content);
            }
            self::survives($name, $content);
        }
    }

    /** Whether it was read; a refusal is no complaint, anything else is. */
    public static function survives(string $name, string $content): bool
    {
        set_error_handler(static function (int $level, string $message, string $file, int $line): bool {
            // What the reader itself silences, because it reads the result, is no complaint.
            if ((error_reporting() & $level) === 0) {
                return true;
            }
            throw new ErrorException($message, 0, $level, $file, $line);
        });
        $start = hrtime(true);
        try {
            str_ends_with($name, '.zip') ? self::unzip($content) : FormatCatalogue::read(new MemorySource($name, $content));

            return true;
        } catch (Unreadable) {
            return false;
        } catch (Throwable $error) {
            self::complain($name, $content, $error::class.' '.$error->getMessage().' at '.basename($error->getFile()).':'.$error->getLine());

            return false;
        } finally {
            restore_error_handler();
            if ((hrtime(true) - $start) / 1e9 > self::SLOW) {
                self::complain($name, $content, 'took over '.self::SLOW.' s');
            }
        }
    }

    /** Unpacks an archive into a folder of its own; what comes out must lie in it. */
    private static function unzip(string $content): void
    {
        $folder = sys_get_temp_dir().'/anvil-strain-'.getmypid();
        @mkdir("$folder/in/out", 0o700, true);
        file_put_contents("$folder/x.zip", $content);
        try {
            ZippedFiles::extract("$folder/x.zip", "$folder/in/out");
        } finally {
            $beside = array_diff(scandir("$folder/in") ?: [], ['.', '..', 'out']);
            Folder::remove($folder);
            if ($beside !== []) {
                throw new RuntimeException('something came out beside the folder: '.implode(' ', $beside));
            }
        }
    }

    private static function complain(string $name, string $content, string $what): void
    {
        self::$complaints[] = "$name: $what: ".base64_encode($content);
    }

    private static function changed(string $content): string
    {
        $length = strlen($content);
        $at = mt_rand(0, max(0, $length - 1));
        $word = self::WORDS[mt_rand(0, count(self::WORDS) - 1)];

        return match (mt_rand(0, 7)) {
            0 => $length === 0 ? $word : substr_replace($content, chr(mt_rand(0, 255)), $at, 1),
            1 => $length === 0 ? $word : substr_replace($content, chr(ord($content[$at]) ^ (1 << mt_rand(0, 7))), $at, 1),
            2 => substr_replace($content, '', $at, mt_rand(1, 40)),
            3 => substr_replace($content, substr($content, $at, mt_rand(1, 60)), mt_rand(0, max(0, $length - 1)), 0),
            4 => substr($content, 0, $at),
            5 => substr_replace($content, $word, $at, 0),
            6 => substr_replace($content, pack('V', [0, 1, 0x7FFFFFFF, 0x80000000, 0xFFFFFFFF][mt_rand(0, 4)]), $at & ~3, 4),
            default => self::withToken($content, $word),
        };
    }

    private static function withToken(string $content, string $word): string
    {
        // One token between separators, near a place drawn by chance.
        $at = mt_rand(0, max(0, strlen($content) - 1));
        if (preg_match('/[^\s,\[\]{}()<>"\/=:]+/', $content, $found, PREG_OFFSET_CAPTURE, $at) !== 1) {
            return $content.$word;
        }

        return substr_replace($content, $word, $found[0][1], strlen($found[0][0]));
    }
}
