<?php

declare(strict_types=1);

namespace Anvil;

use stdClass;

/**
 * A typed look into decoded JSON: every wrong type is an error that names its path (`meshes[0].primitives[1].indices`).
 */
final readonly class Json
{
    private function __construct(private mixed $value, public string $path)
    {
    }

    /**
     * @throws Unreadable
     */
    public static function parse(string $text): self
    {
        $value = json_decode($text, false, 128, JSON_BIGINT_AS_STRING);
        if (! $value instanceof stdClass) {
            throw Unreadable::because('the JSON cannot be parsed: '.(json_last_error() === JSON_ERROR_NONE ? 'it is not an object' : json_last_error_msg()));
        }

        return new self($value, '');
    }

    /**
     * @param  list<string>  $keys
     *
     * @throws Unreadable when there is another key
     */
    public function only(array $keys): self
    {
        foreach ($this->keys() as $key) {
            if (! in_array($key, $keys, true)) {
                throw Unreadable::because($this->at($key).' is not a known key; known here: '.implode(', ', $keys));
            }
        }

        return $this;
    }

    /**
     * @return list<string>
     */
    public function keys(): array
    {
        return $this->value instanceof stdClass ? array_map(strval(...), array_keys(get_object_vars($this->value))) : [];
    }

    public function value(string $key): mixed
    {
        return $this->raw($key);
    }

    public function has(string $key): bool
    {
        return $this->value instanceof stdClass && property_exists($this->value, $key);
    }

    public function object(string $key): ?self
    {
        $value = $this->raw($key);
        if ($value !== null && ! $value instanceof stdClass) {
            throw $this->wrong($key, 'an object');
        }

        return $value === null ? null : new self($value, $this->at($key));
    }

    /**
     * @return list<self> the objects of an array, empty where it is missing
     */
    public function objects(string $key): array
    {
        $out = [];
        foreach ($this->items($key) as $i => $item) {
            $path = $this->at($key)."[$i]";
            if (! $item instanceof stdClass) {
                throw Unreadable::because("$path is not an object");
            }
            $out[] = new self($item, $path);
        }

        return $out;
    }

    public function string(string $key): ?string
    {
        $value = $this->raw($key);
        if ($value !== null && ! is_string($value)) {
            throw $this->wrong($key, 'a string');
        }

        return $value;
    }

    public function int(string $key): ?int
    {
        $value = $this->raw($key);
        if (is_float($value) && floor($value) === $value && abs($value) < 2 ** 53) {
            $value = (int) $value;
        }
        if ($value !== null && (! is_int($value) || $value < 0)) {
            throw $this->wrong($key, 'a whole number of 0 or more');
        }

        return $value;
    }

    public function need(string $key): int
    {
        return $this->int($key) ?? throw Unreadable::because($this->at($key).' is missing');
    }

    public function bool(string $key): bool
    {
        $value = $this->raw($key);
        if ($value !== null && ! is_bool($value)) {
            throw $this->wrong($key, 'true or false');
        }

        return $value ?? false;
    }

    /**
     * @return list<float>|null
     */
    public function floats(string $key, int $count): ?array
    {
        if (! $this->has($key)) {
            return null;
        }
        $out = [];
        foreach ($this->items($key) as $item) {
            if (! is_int($item) && ! is_float($item)) {
                throw $this->wrong($key, "$count numbers");
            }
            $out[] = (float) $item;
        }
        if (count($out) !== $count) {
            throw $this->wrong($key, "$count numbers");
        }

        return $out;
    }

    /**
     * @return list<int>
     */
    public function ints(string $key): array
    {
        $out = [];
        foreach ($this->items($key) as $item) {
            if (! is_int($item) || $item < 0) {
                throw $this->wrong($key, 'whole numbers of 0 or more');
            }
            $out[] = $item;
        }

        return $out;
    }

    /**
     * @return list<string>
     */
    public function strings(string $key): array
    {
        $out = [];
        foreach ($this->items($key) as $item) {
            if (! is_string($item)) {
                throw $this->wrong($key, 'strings');
            }
            $out[] = $item;
        }

        return $out;
    }

    public function at(string $key): string
    {
        return $this->path === '' ? $key : "$this->path.$key";
    }

    /**
     * @return list<mixed>
     */
    private function items(string $key): array
    {
        $value = $this->raw($key) ?? [];
        if (! is_array($value)) {
            throw $this->wrong($key, 'an array');
        }

        return array_values($value);
    }

    private function raw(string $key): mixed
    {
        return $this->value instanceof stdClass ? ($this->value->{$key} ?? null) : null;
    }

    private function wrong(string $key, string $wanted): Unreadable
    {
        return Unreadable::because($this->at($key)." is not $wanted");
    }
}
