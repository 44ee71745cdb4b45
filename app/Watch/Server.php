<?php

declare(strict_types=1);

namespace App\Watch;

use GuzzleHttp\Client;
use GuzzleHttp\Exception\GuzzleException;

/**
 * The application, as a program with a token of a person sees it.
 */
final class Server
{
    private const PIECE = 8 << 20;

    private readonly Client $client;

    /** @param  callable|null  $handler  that answers in place of the network */
    public function __construct(string $address, string $token, ?callable $handler = null)
    {
        $this->client = new Client([...($handler === null ? [] : ['handler' => $handler]), 'base_uri' => rtrim($address, '/').'/', 'http_errors' => false, 'connect_timeout' => 5, 'timeout' => 120, 'headers' => ['Authorization' => "Bearer $token", 'X-Anvil' => '1', 'Accept' => 'application/json']]);
    }

    /**
     * @param  array<string, mixed>|null  $json
     * @return array<mixed>
     *
     * @throws Gone when the server does not answer, or is busy
     * @throws Refused when it says no, in its words
     */
    public function ask(string $method, string $path, ?array $json = null): array
    {
        $answer = json_decode($this->text($method, $path, $json === null ? [] : ['json' => $json]), true);

        return is_array($answer) ? $answer : [];
    }

    /**
     * @param  array<string, mixed>  $options
     *
     * @throws Gone
     * @throws Refused
     */
    public function text(string $method, string $path, array $options = []): string
    {
        try {
            $response = $this->client->request($method, ltrim($path, '/'), $options);
        } catch (GuzzleException $error) {
            throw new Gone('the server does not answer', 0, $error);
        }
        $status = $response->getStatusCode();
        $body = (string) $response->getBody();
        if ($status >= 500 || $status === 429 || $status === 409) {
            throw new Gone("the server answers $status");
        }
        if ($status >= 400) {
            $said = json_decode($body, true);
            throw new Refused(is_array($said) && is_string($said['message'] ?? null) ? $said['message'] : "the server answers $status", $status);
        }

        return $body;
    }

    /**
     * Sends a file in pieces.
     *
     * @return string|null the number of the upload; null where the file became shorter or longer meanwhile
     *
     * @throws Gone
     * @throws Refused
     */
    public function upload(string $name, string $path): ?string
    {
        $bytes = @filesize($path);
        $stream = @fopen($path, 'rb');
        if ($bytes === false || $stream === false) {
            return null;
        }
        try {
            $id = $this->ask('POST', 'api/uploads', ['name' => $name, 'bytes' => $bytes])['id'] ?? null;
            if (! is_string($id)) {
                throw new Gone('the server gave no number for a file');
            }
            $offset = 0;
            while ($offset < $bytes) {
                $piece = (string) stream_get_contents($stream, min(self::PIECE, $bytes - $offset));
                if ($piece === '') {
                    return null;
                }
                $this->text('PUT', "api/uploads/$id?offset=$offset", ['body' => $piece, 'headers' => ['Content-Type' => 'application/octet-stream']]);
                $offset += strlen($piece);
            }

            return fread($stream, 1) === '' ? $id : null;
        } finally {
            fclose($stream);
        }
    }
}
