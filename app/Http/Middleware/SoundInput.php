<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Illuminate\Validation\ValidationException;
use Symfony\Component\HttpFoundation\Response;

/**
 * Input is text in UTF-8, of a depth and a size that somebody could mean. What is not is refused before anything looks at it.
 */
final class SoundInput
{
    private const DEPTH = 8;

    private const VALUES = 200_000;

    /** JSON bodies; pieces of files are no JSON. */
    private const BYTES = 16 << 20;

    private int $values = 0;

    /**
     * @param  Closure(Request): Response  $next
     */
    public function handle(Request $request, Closure $next): Response
    {
        $this->values = 0;
        $this->look($request->query->all(), 'the address', 0);
        if ($request->isJson()) {
            $length = strlen($request->getContent());
            if ($length > self::BYTES) {
                throw ValidationException::withMessages(['body' => 'the request is longer than '.(self::BYTES >> 20).' MB; send fewer things at once']);
            }
            $body = json_decode($length === 0 ? '{}' : $request->getContent(), true, self::DEPTH + 2);
            if (! is_array($body)) {
                throw ValidationException::withMessages(['body' => 'the request is no JSON object, or goes deeper than '.self::DEPTH.' levels, or is not in UTF-8']);
            }
            $this->look($body, 'the request', 0);
        } elseif ($request->request->count() > 0) {
            throw ValidationException::withMessages(['body' => 'requests are JSON here: give Content-Type: application/json']);
        }

        return $next($request);
    }

    /**
     * @param  array<array-key, mixed>  $values
     */
    private function look(array $values, string $where, int $depth): void
    {
        foreach ($values as $key => $value) {
            if (++$this->values > self::VALUES || $depth > self::DEPTH) {
                throw ValidationException::withMessages(['body' => "$where holds more than anyone could mean; send fewer things at once"]);
            }
            foreach ([(string) $key, $value] as $text) {
                if (is_string($text) && (! mb_check_encoding($text, 'UTF-8') || str_contains($text, "\0"))) {
                    throw ValidationException::withMessages(['body' => "$where holds text that is not UTF-8, or a zero byte"]);
                }
            }
            if (is_array($value)) {
                $this->look($value, $where, $depth + 1);
            }
        }
    }
}
