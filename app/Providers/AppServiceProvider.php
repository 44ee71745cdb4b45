<?php

declare(strict_types=1);

namespace App\Providers;

use App\Deliveries\Workers;
use App\Http\BlankIsAValue;
use App\Jobs\DeliveryJob;
use App\Models\Asset;
use App\Models\Delivery;
use App\Models\File;
use App\Models\FixList;
use App\Models\Letter;
use App\Models\Output;
use App\Models\Package;
use App\Models\Person;
use App\Models\Standard;
use App\Models\Upload;
use App\Models\Waiver;
use App\People\InboxTransport;
use App\People\Who;
use App\Policies\PersonPolicy;
use Illuminate\Cache\RateLimiter;
use Illuminate\Cache\RateLimiting\Limit;
use Illuminate\Contracts\Translation\Translator;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Http\Request;
use Illuminate\Queue\Events\JobFailed;
use Illuminate\Queue\Events\JobProcessed;
use Illuminate\Queue\Events\JobProcessing;
use Illuminate\Queue\Queue;
use Illuminate\Support\Facades\Event;
use Illuminate\Support\Facades\Gate;
use Illuminate\Support\Facades\Log;
use Illuminate\Support\Facades\Mail;
use Illuminate\Support\Facades\Route;
use Illuminate\Support\ServiceProvider;
use Illuminate\Support\Str;
use Illuminate\Validation\Factory;
use Illuminate\Validation\ValidationException;

final class AppServiceProvider extends ServiceProvider
{
    private static bool $isListening = false;

    /** When the job at hand was begun, in nanoseconds. */
    private static int $begun = 0;

    public function boot(): void
    {
        // A job that takes all the time that it may is over before another worker is given it.
        config(['queue.connections.database.retry_after' => config()->integer('anvil.job_seconds') + 300]);
        Event::listen(JobProcessing::class, static function (JobProcessing $event): void {
            if ($event->connectionName === 'database') {
                self::listenForDeath();
                Workers::holds($event->job);
                self::$begun = hrtime(true);
                memory_reset_peak_usage();
            }
        });
        Event::listen([JobProcessed::class, JobFailed::class], static function (JobProcessed|JobFailed $event): void {
            if ($event->connectionName === 'database') {
                Workers::holds(null);
                $step = $event->job->payload()['step'] ?? $event->job->resolveName();
                Log::info(($event instanceof JobFailed ? 'failed ' : 'done ').(is_string($step) ? $step : 'a job'), ['seconds' => round((hrtime(true) - self::$begun) / 1e9, 3), 'mebibytes' => (int) round(memory_get_peak_usage() / 1048576)]);
            }
        });
        // Each job in the queue bears its name, so that it is known what is sent.
        Queue::createPayloadUsing(static function (string $connection, ?string $queue, array $payload): array {
            $job = is_array($payload['data'] ?? null) ? ($payload['data']['command'] ?? null) : null;

            return $job instanceof DeliveryJob ? ['step' => $job->name()] : [];
        });
        // Only where something is validated.
        $this->callAfterResolving(Factory::class, static function (Factory $validators): void {
            $validators->resolver(static fn (Translator $translator, array $data, array $rules, array $messages, array $attributes): BlankIsAValue => new BlankIsAValue($translator, $data, $rules, $messages, $attributes));
        });
        Gate::policy(Person::class, PersonPolicy::class);
        Mail::extend('inbox', static fn (): InboxTransport => new InboxTransport);
        // Only where something is limited: commands need no store for it, and no database.
        $this->callAfterResolving(RateLimiter::class, static function (RateLimiter $limiter): void {
            foreach (['handing-in', 'costly', 'trying'] as $what) {
                $limiter->for($what, static fn (Request $request): Limit => Limit::perMinute(config()->integer("anvil.a_minute.$what"))->by($what.(Who::person()->id ?? $request->ip())));
            }
            // Guessing passwords, and flooding somebody with mail: by who asks, and by whose account it is.
            $limiter->for('sign-in', static fn (Request $request): array => self::guesses($request, 5));
            $limiter->for('mail', static fn (Request $request): array => self::guesses($request, 3));
        });
        $this->bindIds();
    }

    /**
     * @return list<Limit>
     */
    private static function guesses(Request $request, int $aMinute): array
    {
        $given = $request->input('email');
        $email = Who::person()->id ?? (is_string($given) ? hash('sha256', mb_strtolower(trim($given))) : '');
        $much = config()->integer('anvil.a_minute.guesses');

        return [Limit::perMinute($much)->by("guess {$request->ip()}"), Limit::perMinute($aMinute)->by("guess $aMinute $email {$request->ip()}"), Limit::perHour(10 * $aMinute)->by("guess $aMinute $email")];
    }

    /** A number in an address is a number, or told so in words; the database would take `1e0` for one. */
    private function bindIds(): void
    {
        /** @var array<string, class-string<Model>> $models */
        $models = ['asset' => Asset::class, 'delivery' => Delivery::class, 'file' => File::class, 'output' => Output::class, 'package' => Package::class, 'upload' => Upload::class, 'person' => Person::class, 'waiver' => Waiver::class, 'fixList' => FixList::class, 'letter' => Letter::class, 'standard' => Standard::class];
        foreach ($models as $name => $model) {
            Route::bind($name, static function (string $value) use ($name, $model): Model {
                if ($name === 'upload' ? ! Str::isUuid($value) : preg_match('/^[1-9]\d{0,17}$/D', $value) !== 1) {
                    throw ValidationException::withMessages([$name => $name === 'upload' ? 'the address does not name an upload' : "the address does not name a number of the $name"]);
                }

                return $model::query()->findOrFail($value);
            });
        }
    }

    /** A worker that dies of want of memory says so, for nobody else can. */
    private static function listenForDeath(): void
    {
        if (self::$isListening) {
            return;
        }
        self::$isListening = true;
        register_shutdown_function(static function (): void {
            $last = error_get_last();
            if ($last !== null && preg_match('/^Allowed memory size of (\d+) bytes exhausted \(tried to allocate (\d+) bytes\)/', $last['message'], $found) === 1) {
                ini_set('memory_limit', '-1');
                $gb = static fn (int $bytes): string => round($bytes / 1024 ** 3, 1).' GB';
                Workers::dying("needs more than {$gb((int) $found[1] + (int) $found[2])} of memory, and a worker has {$gb((int) $found[1])}. Give workers more with ANVIL_WORKER_MEMORY, or hand in fewer triangles.");
            }
        });
    }
}
