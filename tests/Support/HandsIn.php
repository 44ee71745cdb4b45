<?php

declare(strict_types=1);

namespace Tests\Support;

use App\Deliveries\Store;
use App\Models\Delivery;
use App\Models\Person;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Testing\TestResponse;
use Laravel\Sanctum\TransientToken;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Response;

/**
 * An application that is emptied before each test, and files that come in as a program sends them.
 */
trait HandsIn
{
    /** @param  bool  $measures  whether measuring itself is tested: then nothing that another test measured is taken */
    protected function emptied(bool $measures = false): void
    {
        config(['anvil.measures' => $measures ? null : (getenv('ANVIL_MEASURES') ?: null)]);
        $this->withHeader('X-Anvil', '1');
        foreach (['assets', 'standards', 'uploads', 'workers', 'jobs', 'failed_jobs', 'stopped_steps', 'cache', 'measures', 'people', 'events', 'letters', 'sessions', 'personal_access_tokens', 'password_reset_tokens', 'invite_tokens'] as $table) {
            DB::table($table)->delete();
        }
        // Numbers begin anew where another suite ran before, and with them the folders.
        Store::drop('assets');
        Store::here()->deleteDirectory('uploads');
        $this->as(Person::factory()->create(['name' => 'Ines Falk', 'email' => 'ines.falk@harbor.example']));
    }

    /** From here on it is they who ask, by a session. */
    protected function as(Person $person): Person
    {
        $this->actingAs($person->withAccessToken(new TransientToken));

        return $person;
    }

    /**
     * A delivery with what all stations show of it, as one answer.
     *
     * @return TestResponse<Response>
     */
    protected function whole(int $delivery): TestResponse
    {
        $all = [];
        foreach (['', '/intake', '/pairing', '/sets', '/color-id', '/clearance', '/surface', '/hand-off'] as $station) {
            $answer = $this->getJson("/api/deliveries/$delivery$station");
            if ($answer->status() !== 200) {
                return $answer;
            }
            $all = [...$all, ...(array) $answer->json()];
        }

        return TestResponse::fromBaseResponse(new JsonResponse($all, 200, [], false));
    }

    protected function upload(string $name, string $content): string
    {
        $id = $this->postJson('/api/uploads', ['name' => $name, 'bytes' => strlen($content)])->assertCreated()->json('id');
        self::assertIsString($id);
        $this->piece($id, 0, $content)->assertOk();

        return $id;
    }

    /**
     * @param  int|string  $offset  a string where it is none
     * @return TestResponse<Response>
     */
    protected function piece(string $upload, int|string $offset, string $content): TestResponse
    {
        return $this->call('PUT', "/api/uploads/$upload?offset=$offset", [], [], [], ['HTTP_ACCEPT' => 'application/json', 'CONTENT_TYPE' => 'application/octet-stream', 'HTTP_X_ANVIL' => '1'], $content);
    }

    /**
     * Hands files in.
     *
     * @param  array<string, string>  $files  name → content
     */
    protected function handIn(array $files): int
    {
        $ids = [];
        foreach ($files as $name => $content) {
            $ids[] = $this->upload((string) $name, $content);
        }
        $id = $this->postJson('/api/deliveries', ['uploads' => $ids])->assertCreated()->json('deliveryId');
        self::assertIsInt($id);

        return $id;
    }

    /**
     * Does what lies in the queue, until nothing does.
     *
     * @param  int  $jobs  how many at most; 0 for all
     * @param  bool  $mayFail  whether jobs may fail for good on the way
     */
    protected function work(int $jobs = 0, bool $mayFail = false): void
    {
        Artisan::call('queue:work', ['connection' => 'database', '--stop-when-empty' => true, '--memory' => 3500, '--sleep' => 0] + ($jobs > 0 ? ['--max-jobs' => $jobs] : []));
        if (! $mayFail) {
            self::assertSame(0, DB::table('failed_jobs')->count(), (string) json_encode(DB::table('failed_jobs')->pluck('exception')));
        }
    }

    /**
     * What was found and measured, without ids, names of files and times.
     */
    protected function figures(int $id): string
    {
        $delivery = Delivery::query()->findOrFail($id);
        $text = (string) json_encode([$delivery->verdict, $delivery->findings->map->only(['code', 'severity', 'message', 'measure', 'where'])->all(), $delivery->sets->map->only(['name', 'state', 'samples', 'clearance'])->all()]);

        return (string) preg_replace('/(post|quay)\d+_/', '$1_', $text);
    }
}
