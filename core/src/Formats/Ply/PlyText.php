<?php

declare(strict_types=1);

namespace Anvil\Formats\Ply;

use Anvil\Unreadable;
use Generator;

/**
 * The rows of an ascii PLY: numbers between blanks, whatever the line breaks.
 *
 * @internal
 *
 * @phpstan-import-type Element from PlyHeader
 */
final class PlyText
{
    private const LONGEST_LINE = 8 << 20;

    private int $line;

    /** @var list<string> words of the line at hand */
    private array $words = [];

    private int $next = 0;

    /**
     * @param  resource  $stream  behind the head
     * @param  int  $lines  of the head
     */
    public function __construct(private $stream, int $lines)
    {
        $this->line = $lines;
    }

    /**
     * @return array{string, int}
     */
    public function place(): array
    {
        return ['line', $this->line];
    }

    /**
     * @param  Element  $element  without lists
     * @return Generator<int, list<int|float>> so many rows each, side by side
     */
    public function numbers(array $element, int $rows): Generator
    {
        $width = count($element['properties']);
        $block = [];
        for ($i = 0; $i < $element['count']; $i++) {
            for ($k = 0; $k < $width; $k++) {
                $block[] = $this->number($element['name'], $i, $element['count']);
            }
            if (count($block) >= $rows * $width) {
                yield $block;
                $block = [];
            }
        }
        if ($block !== []) {
            yield $block;
        }
    }

    /**
     * @param  Element  $element
     * @param  int  $longest  entries of a list
     * @return Generator<int, list<float|list<float>>>
     */
    public function rows(array $element, int $longest): Generator
    {
        for ($i = 0; $i < $element['count']; $i++) {
            $row = [];
            foreach ($element['properties'] as $property) {
                if ($property['count'] === null) {
                    $row[] = $this->number($element['name'], $i, $element['count']);

                    continue;
                }
                $count = $this->number($element['name'], $i, $element['count']);
                if ($count < 0 || $count > $longest || floor($count) !== $count) {
                    throw Unreadable::onLine($this->line, "a list of $count entries makes no sense here");
                }
                $list = [];
                for ($k = 0; $k < $count; $k++) {
                    $list[] = $this->number($element['name'], $i, $element['count']);
                }
                $row[] = $list;
            }
            yield $row;
        }
    }

    /**
     * @param  Element  $element
     */
    public function skip(array $element): void
    {
        foreach ($this->rows($element, 1 << 26) as $_) {
            continue;
        }
    }

    private function number(string $element, int $row, int $of): float
    {
        while (! isset($this->words[$this->next])) {
            $line = fgets($this->stream, self::LONGEST_LINE);
            if ($line === false) {
                throw Unreadable::onLine($this->line, "the file ends in $element $row of $of; it is cut short");
            }
            $this->line++;
            $this->words = preg_split('/\s+/', $line, -1, PREG_SPLIT_NO_EMPTY) ?: [];
            $this->next = 0;
        }
        $word = $this->words[$this->next++];
        if (! is_numeric($word)) {
            if (preg_match('/^[-+]?(nan|inf)/i', $word) === 1) {
                return NAN;
            }
            throw Unreadable::onLine($this->line, '"'.mb_strimwidth(mb_scrub($word), 0, 40, '…')."\" is no number, in $element $row of $of");
        }

        return (float) $word;
    }
}
