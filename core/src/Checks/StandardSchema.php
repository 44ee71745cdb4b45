<?php

declare(strict_types=1);

namespace Anvil\Checks;

/**
 * The form of a standard's file as JSON Schema (draft 2020-12), its checks from the catalogue: for editors, and for whoever writes one.
 */
final class StandardSchema
{
    private const LENGTH = ['anyOf' => [['type' => 'number', 'minimum' => 0], ['type' => 'string', 'pattern' => '^\d+(\.\d+)?%$'], ['type' => 'null']]];

    /**
     * @return array<string, mixed>
     */
    public static function toArray(): array
    {
        $suffix = ['type' => 'string', 'pattern' => '^[^*]+\*?$'];
        $checks = [];
        foreach (Catalogue::about() as $about) {
            $checks[$about->code] = self::check($about);
        }
        ksort($checks);

        return [
            '$schema' => 'https://json-schema.org/draft/2020-12/schema',
            'title' => 'A studio\'s standard',
            'description' => 'Suffixes, map size, rays, reach, limits and severities. What it leaves out is as in the built-in standard.',
            'type' => 'object',
            'additionalProperties' => false,
            'properties' => [
                'name' => ['type' => ['string', 'null']],
                'suffixes' => ['type' => ['object', 'null'], 'description' => 'what the names of parts and files end in; a * may stand at the end', 'additionalProperties' => false, 'properties' => array_fill_keys(['low', 'high', 'id', 'cage', 'pose'], ['anyOf' => [$suffix, ['type' => 'array', 'items' => $suffix]]])],
                'pairing' => ['enum' => ['names', 'whole', null], 'default' => 'names'],
                'mapSize' => ['type' => ['integer', 'null'], 'minimum' => 16, 'maximum' => 65536, 'default' => 2048, 'description' => 'px'],
                'pages' => ['anyOf' => [['type' => 'integer'], ['const' => 'udim'], ['type' => 'null']], 'description' => 'sets of textures an asset has; udim: each UV tile is a page'],
                'upright' => ['type' => ['boolean', 'null'], 'default' => false, 'description' => 'whether UV islands are to stand upright, as the surface does'],
                'triangleBudget' => ['type' => ['integer', 'null']],
                'texelDensity' => ['type' => ['number', 'null'], 'description' => 'px a file unit'],
                'greenChannel' => ['enum' => ['+Y', '-Y', null], 'default' => '+Y'],
                'unit' => ['enum' => ['m', 'cm', 'mm', 'in', 'ft', null], 'description' => 'of lengths in files that say none'],
                'idColors' => ['type' => ['object', 'null'], 'description' => 'colors that are fixed for IDs, by their names, with *', 'additionalProperties' => ['type' => 'string', 'pattern' => '^#[0-9A-Fa-f]{6}$']],
                'rays' => ['type' => ['object', 'null'], 'additionalProperties' => false, 'properties' => [
                    'direction' => ['enum' => ['smooth', 'split', null], 'default' => 'smooth'],
                    'length' => ['enum' => ['cage', 'unit', null], 'default' => 'cage'],
                    'backFaces' => ['type' => ['boolean', 'null'], 'default' => false],
                    'count' => ['type' => ['integer', 'null'], 'minimum' => 64, 'maximum' => 4194304, 'default' => 65536],
                    'setsKeptApart' => ['type' => 'boolean', 'default' => true],
                ]],
                'reach' => ['type' => ['object', 'null'], 'description' => 'by set, * for all: a length in file units, or a share of the set\'s size such as "1%"', 'additionalProperties' => ['type' => ['object', 'null'], 'additionalProperties' => false, 'properties' => ['out' => self::LENGTH, 'in' => self::LENGTH]]],
                'checks' => ['type' => ['object', 'null'], 'additionalProperties' => false, 'properties' => $checks],
            ],
        ];
    }

    /**
     * @return array<string, mixed>
     */
    private static function check(About $about): array
    {
        $limit = static fn (?float $default): array => ['type' => ['number', 'null'], ...($default === null ? [] : ['default' => $default])];

        return [
            'type' => ['object', 'null'], 'title' => $about->title, 'description' => "$about->measured Built in: $about->limitWords.",
            'properties' => [...self::severity($about->severity->value), 'limit' => [...$limit($about->limit), ...($about->unit === null ? [] : ['description' => $about->unit])], 'caution' => $limit($about->caution)],
            'additionalProperties' => false,
        ];
    }

    /**
     * @return array<string, array<string, mixed>>
     */
    private static function severity(string $default): array
    {
        return ['severity' => ['enum' => ['blocker', 'caution', 'note', 'off'], 'default' => $default]];
    }

    public static function json(): string
    {
        return json_encode(self::toArray(), JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR)."\n";
    }
}
