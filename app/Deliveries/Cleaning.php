<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Formats\Folder;
use App\Models\Delivery;
use App\Models\File;
use App\Models\Output;
use App\Models\Package;
use App\Models\Upload;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;

/**
 * Clears away what nobody comes back for: uploads that broke off, folders that a killed process left, files of what was deleted.
 */
final class Cleaning
{
    /** Days that mail is kept. */
    private const MAIL = 90;

    /** An upload that nothing was added to for so long, in hours. */
    private const ABANDONED = 48;

    /** A working folder of this age is nobody's, in seconds. */
    private const LEFT = 3600;

    public static function run(): void
    {
        foreach (Upload::query()->where('updated_at', '<', now()->subHours(self::ABANDONED))->get() as $upload) {
            Store::here()->delete($upload->path());
            $upload->delete();
        }
        // Sessions of nobody, and mail and links that nobody follows any more.
        DB::table('sessions')->whereNull('user_id')->where('last_activity', '<', now()->subHour()->timestamp)->delete();
        DB::table('letters')->where('created_at', '<', now()->subDays(self::MAIL))->delete();
        foreach (['password_reset_tokens', 'invite_tokens'] as $links) {
            DB::table($links)->where('created_at', '<', now()->subDays(self::MAIL))->delete();
        }
        self::here();
        foreach (Storage::directories('work') as $folder) {
            self::dropOld($folder);
        }
        // Temporary folders of killed processes.
        foreach (glob(sys_get_temp_dir().'/anvil-*', GLOB_ONLYDIR) ?: [] as $folder) {
            if (basename(dirname($folder)) === 'tmp' && fileowner($folder) === posix_geteuid() && (int) @filemtime($folder) < time() - self::LEFT) {
                Folder::remove($folder);
            }
        }
        foreach (Storage::directories('assets') as $asset) {
            foreach (Storage::directories($asset) as $folder) {
                $delivery = Delivery::query()->where('asset_id', (int) basename($asset))->where('number', (int) basename($folder))->first();
                if ($delivery === null) {
                    self::dropOld($folder);

                    continue;
                }
                self::ofDelivery($delivery);
            }
            if (Storage::directories($asset) === []) {
                self::dropOld($asset);
            }
        }
        KeptMeasures::prune();
        DB::table('stopped_steps')->where('updated_at', '<', now()->subDays(7))->delete();
        DB::table('failed_jobs')->where('failed_at', '<', now()->subDays(30))->delete();
    }

    /** What lies about on this machine. */
    private static function here(): void
    {
        $here = Store::here();
        foreach ($here->files('uploads') as $path) {
            if ($here->lastModified($path) < time() - self::LEFT && Upload::query()->whereKey(basename($path))->doesntExist()) {
                $here->delete($path);
            }
        }
        foreach ($here->files('work') as $path) {
            if ($here->lastModified($path) < time() - self::LEFT) {
                $here->delete($path);
            }
        }
        foreach ($here->directories('work') as $folder) {
            if (filemtime($here->path($folder)) < time() - self::LEFT) {
                $here->deleteDirectory($folder);
            }
        }
    }

    private static function ofDelivery(Delivery $delivery): void
    {
        $known = ['outputs' => Output::class, 'packages' => Package::class, 'original' => File::class];
        foreach (Storage::directories($delivery->folder()) as $inner) {
            $name = basename($inner);
            if (isset($known[$name])) {
                foreach (Storage::files($inner) as $file) {
                    if (Storage::lastModified($file) < time() - self::LEFT && $known[$name]::query()->where('delivery_id', $delivery->id)->where('path', $file)->doesntExist()) {
                        Storage::delete($file);
                    }
                }
                foreach (Storage::directories($inner) as $left) {
                    self::dropOld($left);
                }
            } elseif (preg_match('/^(download|mending)-/', $name) === 1) {
                self::dropOld($inner);
            }
        }
    }

    private static function dropOld(string $folder): void
    {
        if (Store::writtenAt($folder) < time() - self::LEFT) {
            Storage::deleteDirectory($folder);
        }
    }
}
