<?php

declare(strict_types=1);

namespace Anvil\Sets;

use Anvil\Pairing\Pairing;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\TieKind;
use Anvil\Standard\Choices;
use Anvil\Standard\Pattern;
use Anvil\Standard\Role;

/**
 * Bake sets: one a base, unless the choices group bases.
 */
final class SetGrouping
{
    /**
     * @param  list<RoledPart>  $parts
     * @return list<BakeSet> by name
     */
    public static function of(array $parts, Pairing $pairing, Choices $choices): array
    {
        /** @var array<string|int, array{low: list<RoledPart>, high: list<RoledPart>, id: list<RoledPart>, cage: list<RoledPart>, self: bool}> $sets */
        $sets = [];
        $setOfBase = [];
        foreach ($pairing->ties as $tie) {
            $name = self::setOf($tie->base, $choices);
            $sets[$name] ??= ['low' => [], 'high' => [], 'id' => [], 'cage' => [], 'self' => false];
            array_push($sets[$name]['low'], ...$tie->low);
            array_push($sets[$name]['high'], ...$tie->high);
            $sets[$name]['self'] = $sets[$name]['self'] || $tie->kind === TieKind::Self || Pattern::anyFits($choices->bakedOnItself, $tie->base);
            foreach ([...$tie->low, ...$tie->high] as $part) {
                $setOfBase[$part->base] ??= $name;
            }
        }
        $only = count($sets) === 1 ? array_key_first($sets) : null;
        foreach ($parts as $part) {
            if ($part->mixed || ($part->role !== Role::Id && $part->role !== Role::Cage) || $choices->leavesOut($part->base, $part->part->name)) {
                continue;
            }
            $name = $setOfBase[$part->base] ?? $only;
            if ($name !== null && isset($sets[$name])) {
                $sets[$name][$part->role === Role::Id ? 'id' : 'cage'][] = $part;
            }
        }
        ksort($sets, SORT_STRING);
        $out = [];
        foreach ($sets as $name => $set) {
            $out[] = new BakeSet((string) $name, $set['low'], $set['high'], $set['id'], $set['cage'], $set['self']);
        }

        return $out;
    }

    private static function setOf(string $base, Choices $choices): string
    {
        foreach ($choices->sets as $set => $patterns) {
            if (Pattern::anyFits($patterns, $base)) {
                return $set;
            }
        }

        return $base;
    }
}
