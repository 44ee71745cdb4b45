<?php

declare(strict_types=1);

namespace Anvil\Formats\Usd;

use Anvil\Unreadable;

/**
 * The text form of USD to a tree of prims. Values stay as they are written until someone asks for them.
 *
 * @internal
 */
final class UsdaParser
{
    private const DEEPEST = 200;

    private int $at = 0;

    private readonly int $length;

    /** @var array<string, true> */
    public array $remarks = [];

    private function __construct(private readonly string $text)
    {
        $this->length = strlen($text);
    }

    /**
     * @return array{Prim, array<string, true>} the root, whose `meta` is that of the layer, and remarks
     *
     * @throws Unreadable
     */
    public static function parse(string $text): array
    {
        $parser = new self($text);
        if (! str_starts_with($text, '#usda')) {
            throw Unreadable::atByte(0, 'the file does not begin with "#usda"');
        }
        $meta = '';
        $parser->skip();
        if (($text[$parser->at] ?? '') === '(') {
            $meta = $parser->balanced();
        }
        $root = new Prim('', '', '', '', $meta, 1);
        $parser->body($root, 0);

        return [$root, $parser->remarks];
    }

    private function body(Prim $into, int $depth): void
    {
        if ($depth > self::DEEPEST) {
            throw Unreadable::onLine($this->line(), 'prims are nested over '.self::DEEPEST.' deep');
        }
        while (true) {
            $this->skip();
            if ($this->at >= $this->length) {
                if ($depth > 0) {
                    throw Unreadable::onLine($this->line(), "the file ends inside \"$into->name\", which begins on line $into->line; it is cut short");
                }

                return;
            }
            if ($this->text[$this->at] === '}') {
                if ($depth === 0) {
                    throw Unreadable::onLine($this->line(), 'a brace closes what was not opened');
                }
                $this->at++;

                return;
            }
            $this->statement($into, $depth);
        }
    }

    private function statement(Prim $into, int $depth): void
    {
        $line = $this->line();
        $words = [];
        while (true) {
            $word = $this->word();
            if ($word === '') {
                break;
            }
            $words[] = $word;
            $this->skip(false);
        }
        $first = $words[0] ?? '';
        if (in_array($first, ['def', 'over', 'class'], true)) {
            $this->prim($into, $first, $words[1] ?? '', $line, $depth);

            return;
        }
        if ($first === 'variantSet') {
            $this->string();
            $this->skip();
            $this->expect('=');
            $this->skip();
            $this->balanced();
            $this->remarks['variants are passed over'] = true;

            return;
        }
        if ($words === []) {
            throw Unreadable::onLine($line, 'is no USD text: "'.mb_strimwidth(mb_scrub(trim(substr($this->text, $this->at, 60))), 0, 40, '…').'"');
        }
        $name = $words[count($words) - 1];
        $value = null;
        $this->skip();
        if (($this->text[$this->at] ?? '') === '=') {
            $this->at++;
            $this->skip();
            $value = $this->value();
        }
        $meta = '';
        $mark = $this->at;
        $this->skip();
        if (($this->text[$this->at] ?? '') === '(') {
            $meta = $this->balanced();
        } else {
            $this->at = $mark;
        }
        if ($value !== null && $first !== 'reorder') {
            $into->attributes[$name] = ['value' => $value, 'meta' => $meta, 'line' => $line];
        }
    }

    private function prim(Prim $into, string $specifier, string $type, int $line, int $depth): void
    {
        $name = $this->string();
        $this->skip();
        $meta = '';
        if (($this->text[$this->at] ?? '') === '(') {
            $meta = $this->balanced();
            $this->skip();
        }
        $this->expect('{');
        $prim = new Prim($specifier, $type, $name, "$into->path/$name", $meta, $line);
        $this->body($prim, $depth + 1);
        $into->children[] = $prim;
        if (preg_match('/\b(references|payload|inherits|specializes)\b/', $meta) === 1) {
            $this->remarks['references to other prims and files are not followed'] = true;
        }
    }

    /** A bare word: letters, digits, `_ : . [ ]` as they stand in types and names. */
    private function word(): string
    {
        $length = strspn($this->text, 'abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789_:.', $this->at);
        $word = substr($this->text, $this->at, $length);
        $this->at += $length;
        if ($word !== '' && substr($this->text, $this->at, 2) === '[]') {
            $this->at += 2;
            $word .= '[]';
        }

        return $word;
    }

    private function string(): string
    {
        $this->skip();
        $start = $this->at;
        $quote = $this->text[$this->at] ?? '';
        if ($quote !== '"' && $quote !== "'") {
            throw Unreadable::onLine($this->line(), 'a name in quotes is missing');
        }
        $this->quoted();

        return stripcslashes(trim(substr($this->text, $start, $this->at - $start), $quote));
    }

    private function value(): string
    {
        $start = $this->at;
        $first = $this->text[$this->at] ?? '';
        if ($first === '(' || $first === '[' || $first === '{') {
            return $this->balanced();
        }
        if ($first === '"' || $first === "'") {
            $this->quoted();
        } elseif ($first === '@') {
            $this->asset();
            $this->skip(false);
            if (($this->text[$this->at] ?? '') === '<') {
                $this->at += strcspn($this->text, '>', $this->at) + 1;
            }
        } elseif ($first === '<') {
            $this->at += strcspn($this->text, '>', $this->at) + 1;
        } else {
            $this->at += strcspn($this->text, " \t\r\n;()[]{}#,", $this->at);
            if ($this->at === $start) {
                throw Unreadable::onLine($this->line(), 'a value is missing');
            }
        }

        return substr($this->text, $start, $this->at - $start);
    }

    /** From an opening bracket to the one that closes it, both included. */
    private function balanced(): string
    {
        $start = $this->at;
        $open = 0;
        while (true) {
            $this->at += strcspn($this->text, '()[]{}"\'@#', $this->at);
            if ($this->at >= $this->length) {
                throw Unreadable::onLine(substr_count($this->text, "\n", 0, $start) + 1, 'what is opened here is never closed; the file is cut short');
            }
            switch ($this->text[$this->at]) {
                case '(': case '[': case '{':
                    $open++;
                    $this->at++;
                    break;
                case ')': case ']': case '}':
                    $open--;
                    $this->at++;
                    break;
                case '#':
                    $this->at += strcspn($this->text, "\r\n", $this->at);
                    break;
                case '@':
                    $this->asset();
                    break;
                default:
                    $this->quoted();
            }
            if ($open === 0) {
                return substr($this->text, $start, $this->at - $start);
            }
        }
    }

    private function quoted(): void
    {
        $quote = $this->text[$this->at];
        $line = $this->at;
        if (substr($this->text, $this->at, 3) === str_repeat($quote, 3)) {
            $end = strpos($this->text, str_repeat($quote, 3), $this->at + 3);
            $this->at = $end === false ? $this->length : $end + 3;
        } else {
            $this->at++;
            while ($this->at < $this->length && $this->text[$this->at] !== $quote && $this->text[$this->at] !== "\n") {
                $this->at += $this->text[$this->at] === '\\' ? 2 : 1;
            }
            $this->at = ($this->text[$this->at] ?? '') === $quote ? $this->at + 1 : $this->length;
        }
        if ($this->at >= $this->length) {
            throw Unreadable::onLine(substr_count($this->text, "\n", 0, $line) + 1, 'a string is not closed');
        }
    }

    private function asset(): void
    {
        $mark = substr($this->text, $this->at, 3) === '@@@' ? '@@@' : '@';
        $end = strpos($this->text, $mark, $this->at + strlen($mark));
        if ($end === false) {
            throw Unreadable::onLine($this->line(), 'an asset path is not closed');
        }
        $this->at = $end + strlen($mark);
    }

    private function expect(string $character): void
    {
        $this->skip();
        if (($this->text[$this->at] ?? '') !== $character) {
            throw Unreadable::onLine($this->line(), "\"$character\" is missing here");
        }
        $this->at++;
    }

    /** Blanks and comments, and line breaks where they may stand. */
    private function skip(bool $lines = true): void
    {
        while ($this->at < $this->length) {
            $this->at += strspn($this->text, $lines ? " \t\r\n;" : " \t", $this->at);
            if (($this->text[$this->at] ?? '') !== '#') {
                return;
            }
            $this->at += strcspn($this->text, "\r\n", $this->at);
        }
    }

    private function line(): int
    {
        return substr_count($this->text, "\n", 0, min($this->at, $this->length)) + 1;
    }
}
