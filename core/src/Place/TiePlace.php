<?php

declare(strict_types=1);

namespace Anvil\Place;

/**
 * How low and high of one tie lie on each other.
 */
final readonly class TiePlace
{
    /**
     * @param  string  $low  name of the low part
     * @param  string  $high  of its first high part
     * @param  string  $file  of the low part
     * @param  list<array{first: string, second: string, file: string, share: float, where: array{float, float, float}|null}>  $doubled  high parts on each other
     * @param  float  $covered  share of the low part where a copy of it in the high hides other high surface
     * @param  list<array{float, float, float}>  $coveredWhere
     */
    public function __construct(
        public string $base,
        public string $low,
        public string $high,
        public string $file,
        public ?Offset $offset,
        public array $doubled,
        public float $covered,
        public array $coveredWhere,
    ) {
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        return [
            'base' => $this->base, 'low' => $this->low, 'high' => $this->high, 'file' => $this->file, 'offset' => $this->offset?->toArray(),
            'doubled' => $this->doubled, 'covered' => $this->covered, 'coveredWhere' => $this->coveredWhere,
        ];
    }

    /**
     * What was stored of a tie whose parts have other names now.
     *
     * @param  array{base: string, low: string, high: string, file: string, doubled: list<array{first: string, second: string, file: string}>}  $stored  of `toArray`
     * @param  array{base: string, low: list<array{string, string}>, high: list<array{string, string}>}  $then  file and name of each part
     * @param  array{base: string, low: list<array{string, string}>, high: list<array{string, string}>}  $now  as many
     * @return array<string, mixed>
     */
    public static function underNames(array $stored, array $then, array $now): array
    {
        $parts = $files = [];
        foreach (['low', 'high'] as $side) {
            foreach ($then[$side] as $k => [$file, $name]) {
                $parts["$side\0$name"] = $now[$side][$k][1] ?? $name;
                $files[$file] = $now[$side][$k][0] ?? $file;
            }
        }
        $part = static fn (string $side, string $name): string => $parts["$side\0$name"] ?? $name;
        $doubled = [];
        foreach ($stored['doubled'] as $one) {
            $doubled[] = [...$one, 'first' => $part('high', $one['first']), 'second' => $part('high', $one['second']), 'file' => $files[$one['file']] ?? $one['file']];
        }

        return [...$stored, 'base' => $now['base'], 'low' => $part('low', $stored['low']), 'high' => $part('high', $stored['high']), 'file' => $files[$stored['file']] ?? $stored['file'], 'doubled' => $doubled];
    }

    /**
     * @param  array<string, mixed>  $stored
     */
    public static function ofArray(array $stored): self
    {
        /** @var array{base: string, low: string, high: string, file: string, offset: array{shift: array{float, float, float}, axis: array{float, float, float}, degrees: float, scale: float, d: float, hidden: list<string>}|null, doubled: list<array{first: string, second: string, file: string, share: float, where: array{float, float, float}|null}>, covered: float|int, coveredWhere: list<array{float, float, float}>} $stored */
        return new self(
            $stored['base'], $stored['low'], $stored['high'], $stored['file'], $stored['offset'] === null ? null : Offset::ofArray($stored['offset']),
            $stored['doubled'], (float) $stored['covered'], $stored['coveredWhere'],
        );
    }
}
