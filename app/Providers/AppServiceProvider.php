<?php

declare(strict_types=1);

namespace App\Providers;

use App\Models\Worker;
use Illuminate\Queue\Events\JobFailed;
use Illuminate\Queue\Events\JobProcessed;
use Illuminate\Queue\Events\JobProcessing;
use Illuminate\Support\Facades\Event;
use Illuminate\Support\ServiceProvider;

final class AppServiceProvider extends ServiceProvider
{
    public function boot(): void
    {
        // Each worker says which job it holds: that of a killed one can then be run again at once.
        Event::listen(JobProcessing::class, function (JobProcessing $event): void {
            $this->holds($event->connectionName, (int) $event->job->getJobId());
        });
        Event::listen([JobProcessed::class, JobFailed::class], function (JobProcessed|JobFailed $event): void {
            $this->holds($event->connectionName, null);
        });
    }

    private function holds(string $connection, ?int $job): void
    {
        if ($connection === 'database') {
            $self = ['host' => (string) gethostname(), 'pid' => (int) getmypid()];
            if (Worker::query()->where($self)->update(['job_id' => $job]) === 0) {
                Worker::query()->insertOrIgnore([...$self, 'job_id' => $job]);
            }
        }
    }
}
