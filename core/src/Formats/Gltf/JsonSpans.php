<?php

declare(strict_types=1);

namespace Anvil\Formats\Gltf;

use Anvil\Unreadable;

/**
 * Where in a JSON text the members of `nodes[i]`, `meshes[i]` and `accessors[i]` stand, so that one value can be changed and every other byte kept.
 *
 * @internal
 */
final class JsonSpans
{
    private int $at = 0;

    /** @var array<string, array<int, array<string, array{int, int}>>> `nodes`|`meshes`|`accessors` → number → key (`` for the object itself) → [start, end) */
    private array $spans = [];

    private function __construct(private readonly string $text)
    {
    }

    /**
     * @return array<string, array<int, array<string, array{int, int}>>>
     */
    public static function of(string $text): array
    {
        $spans = new self($text);
        $spans->value([], 0);

        return $spans->spans;
    }

    /**
     * @param  list<string|int>  $path
     */
    private function value(array $path, int $depth): void
    {
        $this->blank();
        $start = $this->at;
        $char = $this->text[$this->at] ?? '';
        if ($depth > 128) {
            throw Unreadable::atByte($this->at, 'the JSON is nested over 128 deep');
        }
        if ($char === '{' || $char === '[') {
            $this->at++;
            $close = $char === '{' ? '}' : ']';
            $number = 0;
            $this->blank();
            while (($this->text[$this->at] ?? '') !== $close) {
                if ($char === '{') {
                    $keyStart = $this->at;
                    $this->string();
                    $key = json_decode(substr($this->text, $keyStart, $this->at - $keyStart));
                    $this->blank();
                    $this->at++;
                    $this->value([...$path, is_string($key) ? $key : ''], $depth + 1);
                } else {
                    $this->value([...$path, $number++], $depth + 1);
                }
                $this->blank();
                if (($this->text[$this->at] ?? '') === ',') {
                    $this->at++;
                    $this->blank();
                } elseif (($this->text[$this->at] ?? '') !== $close) {
                    throw Unreadable::atByte($this->at, 'the JSON is broken');
                }
            }
            $this->at++;
        } elseif ($char === '"') {
            $this->string();
        } else {
            $length = strcspn($this->text, ",]} \t\r\n", $this->at);
            if ($length === 0) {
                throw Unreadable::atByte($this->at, 'the JSON is broken');
            }
            $this->at += $length;
        }
        $known = in_array($path[0] ?? null, ['nodes', 'meshes', 'accessors'], true);
        if ($known && is_int($path[1] ?? null) && (count($path) === 2 || (count($path) === 3 && is_string($path[2])))) {
            $this->spans[(string) $path[0]][$path[1]][(string) ($path[2] ?? '')] = [$start, $this->at];
        }
    }

    private function string(): void
    {
        if (preg_match('/\G"(?:[^"\\\\]++|\\\\.)*+"/s', $this->text, $found, 0, $this->at) !== 1) {
            throw Unreadable::atByte($this->at, 'the JSON is broken');
        }
        $this->at += strlen($found[0]);
    }

    private function blank(): void
    {
        $this->at += strspn($this->text, " \t\r\n", $this->at);
    }
}
