<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Deliveries\Store;
use App\Models\Worker;
use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use Throwable;

/**
 * For those who look after the machines: whether the database answers, files can be written, and how long work waits.
 */
final class HealthController extends Controller
{
    public function __invoke(): JsonResponse
    {
        $health = ['database' => $this->answers(static fn (): bool => DB::scalar('select 1') === 1), 'store' => $this->answers($this->writes(...))];
        $isWell = ! in_array(false, $health, true);
        if ($health['database']) {
            $waiting = DB::table('jobs')->whereNull('reserved_at')->selectRaw('queue, count(*) as jobs, min(created_at) as oldest')->groupBy('queue')->orderBy('queue')->get();
            $queues = [];
            foreach ($waiting as $row) {
                if (is_string($row->queue ?? null) && is_numeric($row->jobs ?? null) && is_numeric($row->oldest ?? null)) {
                    $queues[$row->queue] = ['waiting' => (int) $row->jobs, 'oldestSeconds' => max(0, time() - (int) $row->oldest)];
                }
            }
            $health['queues'] = (object) $queues;
            $health['workers'] = Worker::query()->orderBy('id')->get()->map(static fn (Worker $worker): array => ['machine' => $worker->machine, 'process' => $worker->pid, 'step' => $worker->job_id === null ? null : $worker->step])->all();
            $health['failed'] = DB::table('failed_jobs')->count();
        }
        $free = $health['store'] ? @disk_free_space(Store::here()->path('')) : false;
        $health['freeBytes'] = $free === false ? null : (int) $free;

        return response()->json(['well' => $isWell, ...$health], $isWell ? 200 : 503, ['Cache-Control' => 'no-store']);
    }

    private function writes(): bool
    {
        $path = 'health/'.bin2hex(random_bytes(8));
        $wrote = Storage::put($path, 'x') && Storage::get($path) === 'x';
        Storage::delete($path);

        return $wrote;
    }

    /**
     * @param  callable(): bool  $asked
     */
    private function answers(callable $asked): bool
    {
        try {
            return $asked();
        } catch (Throwable) {
            return false;
        }
    }
}
