<?php

declare(strict_types=1);

namespace Anvil\Formats\Collada;

use Anvil\Unreadable;

/**
 * An element of an XML file.
 *
 * @internal
 */
final class XmlNode
{
    /** @var list<self> */
    public array $children = [];

    public string $text = '';

    /**
     * @param  array<string, string>  $attributes
     * @param  int  $number  of a `node` element: its place among all of them in the file
     */
    public function __construct(public readonly string $name, public readonly array $attributes, public readonly ?self $parent, public readonly int $line, public readonly int $number = 0)
    {
    }

    public function child(string $name): ?self
    {
        foreach ($this->children as $child) {
            if ($child->name === $name) {
                return $child;
            }
        }

        return null;
    }

    /**
     * @return list<self>
     */
    public function all(string $name): array
    {
        return array_values(array_filter($this->children, static fn (self $child): bool => $child->name === $name));
    }

    /**
     * Everywhere below.
     *
     * @return list<self>
     */
    public function below(string $name): array
    {
        $out = [];
        $stack = array_reverse($this->children);
        while ($stack !== []) {
            $node = array_pop($stack);
            if ($node->name === $name) {
                $out[] = $node;
            }
            foreach (array_reverse($node->children) as $child) {
                $stack[] = $child;
            }
        }

        return $out;
    }

    public function attribute(string $name): ?string
    {
        return $this->attributes[$name] ?? null;
    }

    /** What a reference within the file leads to: `#id` as `id`. */
    public function reference(string $name): string
    {
        $value = $this->attributes[$name] ?? throw Unreadable::onLine($this->line, "<$this->name> has no attribute $name");
        if (! str_starts_with($value, '#')) {
            throw Unreadable::onLine($this->line, "<$this->name> refers to another file (".mb_strimwidth(mb_scrub($value), 0, 60, '…').'); export it into one file');
        }

        return substr($value, 1);
    }

    public function int(string $name, int $default): int
    {
        $value = $this->attributes[$name] ?? null;
        if ($value === null) {
            return $default;
        }
        if (preg_match('/^\s*\d{1,10}\s*$/', $value) !== 1) {
            throw Unreadable::onLine($this->line, "the attribute $name of <$this->name> is no whole number");
        }

        return (int) $value;
    }

    /**
     * @return list<float>
     */
    public function floats(?int $count = null): array
    {
        $out = [];
        // Some exporters write the decimal sign of their user's language; blanks alone part the numbers of a list.
        $text = str_contains($this->text, ',') ? strtr($this->text, ',', '.') : $this->text;
        foreach (self::words($text) as $i => $word) {
            if (! is_numeric($word)) {
                throw Unreadable::onLine($this->line, "<$this->name> holds \"".mb_strimwidth(mb_scrub($word), 0, 30, '…')."\" at place $i, which is no finite number");
            }
            $out[] = (float) $word;
        }
        if ($count !== null && count($out) !== $count) {
            throw Unreadable::onLine($this->line, "<$this->name> needs $count numbers and has ".count($out));
        }

        return $out;
    }

    /**
     * @return list<int>
     */
    public function ints(): array
    {
        if (strspn($this->text, "0123456789 \t\r\n") !== strlen($this->text)) {
            throw Unreadable::onLine($this->line, "<$this->name> holds what is no whole number of 0 or more");
        }

        return array_map(intval(...), self::words($this->text));
    }

    /**
     * @return list<string>
     */
    private static function words(string $text): array
    {
        $text = trim(strtr($text, "\t\r\n", '   '));
        if ($text === '') {
            return [];
        }
        if (str_contains($text, '  ')) {
            $text = (string) preg_replace('/ {2,}/', ' ', $text);
        }

        return explode(' ', $text);
    }
}
