<?php

declare(strict_types=1);

namespace Tests;

use App\Deliveries\Store;
use Illuminate\Support\Facades\DB;
use Illuminate\Testing\TestResponse;
use Symfony\Component\HttpFoundation\Response;

/**
 * An application that is emptied before each test, and files that come in as a program sends them.
 */
trait HandsIn
{
    protected function emptied(): void
    {
        $this->withHeader('X-Anvil', '1');
        foreach (['assets', 'standards', 'uploads', 'workers', 'jobs', 'failed_jobs', 'stopped_steps', 'cache'] as $table) {
            DB::table($table)->delete();
        }
        // Numbers begin anew where another suite ran before, and with them the folders.
        Store::drop('assets');
        Store::here()->deleteDirectory('uploads');
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
}
