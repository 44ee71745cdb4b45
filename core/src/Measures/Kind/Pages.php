<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Measures\AssetMeasure;
use Anvil\Measures\Measures;
use Anvil\Measures\Subject;
use Anvil\Pairing\RoledPart;
use Anvil\Sets\BakeSet;
use Anvil\Standard\Role;

/**
 * The pages of the low poly as they will be baked: name, name for files, texels inside islands at the size of the retouch mask, and the low parts on each.
 *
 * @extends AssetMeasure<list<array{name: string, file: string, inside: int, parts: list<string>, sets: list<string>}>>
 */
final class Pages extends AssetMeasure
{
    public function name(): string
    {
        return 'pages';
    }

    public function revision(): int
    {
        return 1;
    }

    public function words(Subject $subject): string
    {
        return 'laying out the pages';
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        return $measures->asset->judged(Role::Low);
    }

    protected function depends(Measures $measures): mixed
    {
        return [
            $measures->asset->standard->mapSize, $measures->asset->standard->udim,
            // Which set each low part is in, by numbers: names change nothing that is stored.
            array_map(static fn (RoledPart $part): int => self::setsByPart($measures)[spl_object_id($part)] ?? -1, $this->meshes($measures, Subject::asset())),
        ];
    }

    /**
     * @return array<int, int> low part → number of its set, by object number
     */
    private static function setsByPart(Measures $measures): array
    {
        $of = [];
        foreach ($measures->asset->sets as $number => $set) {
            foreach ($set->low as $part) {
                $of[spl_object_id($part)] = $number;
            }
        }

        return $of;
    }

    public function compute(Measures $measures, Subject $subject): array
    {
        $of = self::setsByPart($measures);
        $out = [];
        foreach ($measures->common()->pages() as $number => $page) {
            $sets = [];
            foreach ($page->parts as $part) {
                $set = $of[spl_object_id($part)] ?? null;
                $sets += $set === null ? [] : [$set => $measures->asset->sets[$set]->name];
            }
            $out[] = ['name' => $page->name, 'file' => $page->file, 'inside' => $measures->common()->owners($number)->inside, 'parts' => RoledPart::names($page->parts), 'sets' => array_values($sets)];
        }

        return $out;
    }

    /** Parts and sets by their numbers. */
    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        $parts = array_flip(RoledPart::names($this->meshes($measures, $subject)));
        $sets = array_flip(array_map(static fn (BakeSet $set): string => $set->name, $measures->asset->sets));

        return array_map(static fn (array $page): array => [
            ...$page, 'parts' => array_map(static fn (string $name): int => $parts[$name], $page['parts']), 'sets' => array_map(static fn (string $name): int => $sets[$name], $page['sets']),
        ], $result);
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): array
    {
        /** @var list<array{name: string, file: string, inside: int, parts: list<int>, sets: list<int>}> $stored */
        $stored ??= [];
        $parts = RoledPart::names($this->meshes($measures, $subject));

        return array_map(static fn (array $page): array => [
            ...$page, 'parts' => array_map(static fn (int $number): string => $parts[$number], $page['parts']), 'sets' => array_map(static fn (int $number): string => $measures->asset->sets[$number]->name, $page['sets']),
        ], $stored);
    }
}
