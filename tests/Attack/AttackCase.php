<?php

declare(strict_types=1);

namespace Tests\Attack;

use Illuminate\Support\Facades\DB;
use Illuminate\Testing\TestResponse;
use Symfony\Component\HttpFoundation\Response;
use Tests\TestCase;

/**
 * An application to attack: emptied before each test.
 */
abstract class AttackCase extends TestCase
{
    protected const LOW = "o post_low\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\nusemtl plain\nf 1/1 2/2 3/3 4/4\n";

    protected function setUp(): void
    {
        parent::setUp();
        $this->withHeader('X-Anvil', '1');
        foreach (['assets', 'standards', 'uploads', 'workers', 'jobs', 'failed_jobs', 'stopped_steps', 'cache'] as $table) {
            DB::table($table)->delete();
        }
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

    protected function upload(string $name, string $content): string
    {
        $id = $this->postJson('/api/uploads', ['name' => $name, 'bytes' => strlen($content)])->assertCreated()->json('id');
        self::assertIsString($id);
        $this->piece($id, '0', $content)->assertOk();

        return $id;
    }

    /**
     * @return TestResponse<Response>
     */
    protected function piece(string $upload, string $offset, string $content): TestResponse
    {
        return $this->call('PUT', "/api/uploads/$upload?offset=$offset", [], [], [], ['HTTP_ACCEPT' => 'application/json', 'CONTENT_TYPE' => 'application/octet-stream', 'HTTP_X_ANVIL' => '1'], $content);
    }

    /**
     * @return array<string, string> a small pair that is checked in a moment
     */
    protected static function pair(int $number): array
    {
        $high = str_replace(['post_low', '1 1 0'], ['post_high', '1 1 0.001'], self::LOW);

        return ["post{$number}_low.obj" => self::LOW, "post{$number}_high.obj" => $high."f 1 2 3\nf 1 3 4\n"];
    }
}
