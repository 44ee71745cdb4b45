<?php

declare(strict_types=1);

namespace App\Http;

use App\Http\Data\ChangedMeanwhileData;
use App\People\ChangedMeanwhile;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Database\Eloquent\ModelNotFoundException;
use Illuminate\Http\Exceptions\PostTooLargeException;
use Illuminate\Http\Exceptions\ThrottleRequestsException;
use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\Log;
use Illuminate\Support\Str;
use Illuminate\Validation\ValidationException;
use PDOException;
use Symfony\Component\HttpKernel\Exception\HttpExceptionInterface;
use Symfony\Component\HttpKernel\Exception\MethodNotAllowedHttpException;
use Symfony\Component\HttpKernel\Exception\NotFoundHttpException;
use Throwable;

/**
 * What is answered where something went wrong: what happened and what to do, as JSON, never a query, a class, a path or a trace.
 */
final class ErrorAnswer
{
    public static function of(Throwable $error): JsonResponse
    {
        if ($error instanceof ValidationException) {
            $first = collect($error->errors())->flatten()->first();

            $errors = [];
            foreach ($error->errors() as $field => $all) {
                $errors[$field] = array_map(self::plain(...), array_values(array_filter(is_array($all) ? $all : [$all], is_string(...))));
            }

            return response()->json(['message' => is_string($first) ? self::plain($first) : 'The request does not fit.', 'errors' => $errors], 422, [], JSON_INVALID_UTF8_SUBSTITUTE | JSON_UNESCAPED_UNICODE);
        }
        if ($error instanceof ChangedMeanwhile) {
            $changes = array_map(static fn (array $one): array => [...$one, 'words' => self::plain($one['words'])], $error->changes);

            return response()->json(new ChangedMeanwhileData(self::plain($error->getMessage()), $changes, $error->version), 409, [], JSON_INVALID_UTF8_SUBSTITUTE | JSON_UNESCAPED_UNICODE);
        }
        if (self::isDiskFull($error)) {
            return response()->json(['message' => 'The disk of Yellow Anvil is full, and nothing was changed. Free some space there, and try again.'], 507);
        }
        if ($error instanceof AuthenticationException) {
            return response()->json(['message' => 'Sign in first.'], 401);
        }
        $status = $error instanceof HttpExceptionInterface ? $error->getStatusCode() : ($error instanceof ModelNotFoundException ? 404 : 500);
        $missing = $error instanceof ModelNotFoundException ? $error : ($error->getPrevious() instanceof ModelNotFoundException ? $error->getPrevious() : null);
        $message = match (true) {
            $missing !== null => 'There is no such '.Str::of(class_basename($missing->getModel()))->snake(' ').'; it may have been deleted. Go back to the rack.',
            $error instanceof PostTooLargeException || $status === 413 => 'The request is too large. Files are sent in pieces of at most 8 MB.',
            $status === 419 => 'Your session is over, or was begun anew in another tab. Try again.',
            $error instanceof ThrottleRequestsException => 'That was too much in too short a time. Wait a minute and go on.',
            $error instanceof MethodNotAllowedHttpException => 'That cannot be done at this address.',
            $error instanceof NotFoundHttpException => $error->getMessage() !== '' && ! str_contains($error->getMessage(), 'route') ? ucfirst($error->getMessage()).'.' : 'There is nothing at this address.',
            $status < 500 || $status === 507 => $error->getMessage() === '' ? 'That is not possible.' : ucfirst($error->getMessage()),
            default => self::logged($error),
        };
        $headers = $error instanceof HttpExceptionInterface ? $error->getHeaders() : [];

        return response()->json(['message' => self::plain($message)], $status, $headers, JSON_INVALID_UTF8_SUBSTITUTE | JSON_UNESCAPED_UNICODE);
    }

    /** The database says 1114 or 1021 when its disk is full, a file system "No space left on device". */
    private static function isDiskFull(Throwable $error): bool
    {
        for ($one = $error; $one !== null; $one = $one->getPrevious()) {
            if (($one instanceof PDOException && in_array($one->errorInfo[1] ?? null, [1021, 1114], true)) || str_contains($one->getMessage(), 'No space left on device')) {
                return true;
            }
        }

        return false;
    }

    /** Names that people gave stand in messages: nothing of them breaks a line or steers a terminal. */
    private static function plain(string $text): string
    {
        return (string) preg_replace('/[\x{00}-\x{1f}\x{7f}-\x{9f}\x{202a}-\x{202e}\x{2066}-\x{2069}]/u', '?', mb_strimwidth(mb_scrub($text), 0, 1000, '…'));
    }

    /** What went wrong goes into the log under a number that the person can name. */
    private static function logged(Throwable $error): string
    {
        $number = strtoupper(bin2hex(random_bytes(3)));
        Log::error("Error $number", ['class' => $error::class, 'message' => $error->getMessage(), 'at' => $error->getFile().':'.$error->getLine()]);

        return "Something went wrong here, not in what you did. Try again; if it stays, the log knows it as $number.";
    }
}
