<?php

declare(strict_types=1);

namespace Tests\Attack;

use App\Deliveries\Store;
use App\Models\Delivery;
use App\Models\Person;
use App\People\Standing;
use Illuminate\Routing\Middleware\ThrottleRequests;
use Illuminate\Routing\Middleware\ThrottleRequestsWithRedis;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;

/** Every route that the OpenAPI file has, with each of its parameters and fields in turn made an array, nothing, too large or of another type: refused in words, never a fault of the server. */
final class FuzzTest extends AttackCase
{
    /** What is put in place of each value in turn. */
    private const ODD = [[], [[]], ['a' => ['b' => []]], [null], null, true, -1, 0, 1.5, 1e300, 9223372036854775807, '', ' ', 'x', "\0", "a\u{202e}b", '1e999', '*'];

    /** In a query, where all is text or an array. */
    private const QUERY = ['[]=x', '[a][b]=x', '=', '=%00', '=%FF', '=-1', '=99999999999999999999', '=1e999', '=..%2F..', '=%2A%2A%2A', ''];

    public function test_no_parameter_makes_the_server_fail(): void
    {
        $this->withoutMiddleware([ThrottleRequests::class, ThrottleRequestsWithRedis::class]);
        $this->as(Person::factory()->create(['role' => Standing::Lead]));
        $delivery = Delivery::query()->findOrFail($this->handIn(self::pair(1)));
        $this->work();
        $upload = $this->upload('spare_low.obj', self::LOW);
        $known = [
            'delivery' => $delivery->id, 'asset' => $delivery->asset_id, 'standard' => $delivery->asset->standard_id, 'file' => $delivery->files->firstOrFail()->id, 'set' => $delivery->sets->firstOrFail()->name,
            'upload' => $upload, 'number' => 0, 'page' => 0, 'what' => 'seen', 'kind' => 'normal', 'form' => 'json', 'person' => Person::query()->value('id'),
        ];
        $api = json_decode((string) file_get_contents(base_path('docs/openapi.json')), true, 512, JSON_THROW_ON_ERROR);
        self::assertIsArray($api);
        $store = Store::here()->path('');
        $kept = sys_get_temp_dir().'/anvil-fuzz-'.bin2hex(random_bytes(4));
        File::copyDirectory($store, $kept);
        $this->beforeApplicationDestroyed(static fn (): bool => File::deleteDirectory($kept));
        $asked = $refused = 0;
        $failed = [];
        foreach ($this->operations($api) as [$method, $path, $parameters, $schema]) {
            $values = [];
            foreach ($parameters as $name) {
                $values[$name] = (string) ($known[$name] ?? 1);
            }
            $fill = static fn (array $with): string => preg_replace_callback('/\{(\w+)\}/', static fn (array $m): string => rawurlencode((string) ($with[$m[1]] ?? '1')), $path) ?? $path;
            $body = $schema === null ? [] : (array) self::example($api, $schema, $known);
            $requests = [[$fill($values), $body]];
            foreach ($values as $name => $value) {
                if (str_contains($path, '{'.$name.'}')) {
                    foreach (['0', '-1', 'x', '1.5', '99999999999999999999', "\0", '..', str_repeat('9', 3000), '[]'] as $odd) {
                        $requests[] = [$fill([...$values, $name => $odd]), $body];
                    }
                } else {
                    foreach ([...self::QUERY, '='.str_repeat('x', 7000)] as $odd) {
                        $requests[] = [$fill($values).'?'.$name.$odd, $body];
                    }
                }
            }
            foreach (self::changed($body) as $one) {
                $requests[] = [$fill($values), $one];
            }
            foreach ($requests as [$uri, $with]) {
                DB::beginTransaction();
                $answer = $this->json($method, $uri, $with);
                DB::rollBack();
                $asked++;
                $status = $answer->baseResponse->getStatusCode();
                if ($method !== 'GET' && $status < 400) {
                    // What was done is taken back with its files.
                    File::deleteDirectory($store);
                    File::copyDirectory($kept, $store);
                }
                $refused += $status >= 400 ? 1 : 0;
                if ($status >= 500 || ($status >= 400 && ! is_string($answer->json('message')))) {
                    $failed[] = "$method $uri ".mb_strimwidth((string) json_encode($with, JSON_PARTIAL_OUTPUT_ON_ERROR), 0, 200, '…')." → $status ".mb_strimwidth((string) $answer->baseResponse->getContent(), 0, 300);
                }
            }
        }
        self::assertSame([], array_slice($failed, 0, 40), count($failed)." of $asked failed");
        self::assertGreaterThan(1500, $asked);
        self::assertGreaterThan(0.5 * $asked, $refused);
    }

    /**
     * @param  array<mixed>  $api
     * @return list<array{string, string, list<string>, array<mixed>|null}> method, path, names of parameters, schema of the body
     */
    private function operations(array $api): array
    {
        $out = [];
        foreach ((array) $api['paths'] as $path => $methods) {
            foreach ((array) $methods as $method => $operation) {
                if (! is_array($operation) || ! is_string($method)) {
                    continue;
                }
                $names = array_values(array_filter(array_map(static fn (mixed $one): mixed => is_array($one) ? $one['name'] ?? null : null, (array) ($operation['parameters'] ?? [])), is_string(...)));
                $schema = $operation['requestBody']['content']['application/json']['schema'] ?? null;
                $out[] = [strtoupper($method), (string) $path, $names, is_array($schema) ? $schema : null];
            }
        }

        return $out;
    }

    /**
     * A body that fits.
     *
     * @param  array<mixed>  $api
     * @param  array<mixed>  $schema
     * @param  array<string, mixed>  $known
     */
    private static function example(array $api, array $schema, array $known, string $name = ''): mixed
    {
        if (is_string($schema['$ref'] ?? null)) {
            $of = $api['components']['schemas'][basename($schema['$ref'])] ?? [];

            return is_array($of) ? self::example($api, $of, $known, $name) : null;
        }
        if (is_array($schema['oneOf'][0] ?? null)) {
            return self::example($api, $schema['oneOf'][0], $known, $name);
        }
        if (isset($schema['enum']) && is_array($schema['enum'])) {
            return $schema['enum'][0];
        }

        return match ($schema['type'] ?? 'string') {
            'object' => self::fields($api, (array) ($schema['properties'] ?? []), $known),
            'array' => [self::example($api, (array) ($schema['items'] ?? []), $known, rtrim($name, 's'))],
            'integer' => is_int($known[$name] ?? null) ? $known[$name] : 1,
            'number' => 0.5,
            'boolean' => true,
            default => is_string($known[$name] ?? null) ? $known[$name] : 'post',
        };
    }

    /**
     * @param  array<mixed>  $api
     * @param  array<mixed>  $properties
     * @param  array<string, mixed>  $known
     * @return array<string, mixed>
     */
    private static function fields(array $api, array $properties, array $known): array
    {
        $out = [];
        foreach ($properties as $key => $one) {
            $out[(string) $key] = is_array($one) ? self::example($api, $one, $known, (string) $key) : null;
        }

        return $out;
    }

    /**
     * The body with each of its values in turn put another way, at every depth; and without each.
     *
     * @param  array<mixed>  $body
     * @return list<array<mixed>>
     */
    private static function changed(array $body): array
    {
        $out = [];
        foreach ($body as $key => $value) {
            foreach ([...self::ODD, str_repeat('x', 70_000), array_fill(0, 3000, 'x')] as $odd) {
                $out[] = [...$body, $key => $odd];
            }
            $less = $body;
            unset($less[$key]);
            $out[] = $less;
            foreach (is_array($value) ? self::changed($value) : [] as $inner) {
                $out[] = [...$body, $key => $inner];
            }
        }

        return $out;
    }
}
