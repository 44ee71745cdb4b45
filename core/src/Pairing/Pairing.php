<?php

declare(strict_types=1);

namespace Anvil\Pairing;

use Anvil\Standard\Choices;
use Anvil\Standard\Pattern;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;

/**
 * Which low and high parts belong together, by name (METHODS, "Pairing").
 *
 * A part that would tie but for letter case or its suffix is tied all the same, with the trouble named: so that its rays can be
 * measured as if the name were mended, and one cause gives one finding.
 */
final readonly class Pairing
{
    /**
     * @param  list<Tie>  $ties  by base
     * @param  list<Suggestion>  $suggestions  in the order of the ties
     * @param  bool  $byPlace  whether place and size had a say
     */
    private function __construct(public array $ties, public array $suggestions, public bool $byPlace = false)
    {
    }

    /**
     * @param  list<RoledPart>  $parts
     */
    public static function of(array $parts, Standard $standard, Choices $choices): self
    {
        $named = self::byNames($parts, $standard, $choices);
        if (count($named->ties) === 0 || $standard->whole || Turned::bounds($named->ties) || self::differInSize($named->ties, $standard)) {
            return $named;
        }
        $oneAndOne = count($named->ties) === 1 && $named->ties[0]->kind === TieKind::OneAndOne;
        $ties = $oneAndOne ? $named->ties : PlacedTies::of($named->ties, $standard);

        return new self($ties, self::suggestions($ties, $standard), true);
    }

    /**
     * By names alone: what place and size would say is left out.
     *
     * @param  list<RoledPart>  $parts
     */
    private static function byNames(array $parts, Standard $standard, Choices $choices): self
    {
        $lows = $highs = [];
        foreach ($parts as $part) {
            if ($part->mixed || $choices->leavesOut($part->base, $part->part->name)) {
                continue;
            }
            if ($part->role === Role::Low) {
                $lows[] = $part;
            } elseif ($part->role === Role::High) {
                $highs[] = $part;
            }
        }
        if ($standard->whole) {
            return new self([self::tie('whole', $lows, $highs, TieKind::Whole)], []);
        }
        if (count($lows) === 1 && count($highs) === 1) {
            $lacks = $lows[0]->suffixState() !== SuffixState::Exact || $highs[0]->suffixState() !== SuffixState::Exact;
            $tie = self::tie($lows[0]->base, $lows, $highs, TieKind::OneAndOne, $lacks ? ['suffix-missing'] : []);

            return new self([$tie], self::suggestions([$tie], $standard));
        }
        $ties = self::byName($lows, $highs, $choices);

        return new self($ties, self::suggestions($ties, $standard));
    }

    /** Whether high and low differ in size or are turned against each other, so that places are no help. */
    public function saysNothingOfPlace(Standard $standard): bool
    {
        return Turned::bounds($this->ties) || self::differInSize($this->ties, $standard);
    }

    /**
     * Places mean nothing while the sizes differ by a factor.
     *
     * @param  list<Tie>  $ties
     */
    private static function differInSize(array $ties, Standard $standard): bool
    {
        $lows = $highs = [];
        foreach ($ties as $tie) {
            if ($tie->low !== [] && $tie->high !== []) {
                array_push($lows, ...$tie->low);
                array_push($highs, ...$tie->high);
            }
        }
        $low = RoledPart::boundsOf($lows)?->diagonal() ?? 0.0;
        $high = RoledPart::boundsOf($highs)?->diagonal() ?? 0.0;
        $limit = $standard->limitInForce('unit-mismatch');

        return $low > 0.0 && $high > 0.0 && ($high / $low > $limit || $high / $low < 1 / $limit);
    }

    /**
     * @param  list<RoledPart>  $lows
     * @param  list<RoledPart>  $highs
     * @return list<Tie>
     */
    private static function byName(array $lows, array $highs, Choices $choices): array
    {
        $low = self::byBase($lows);
        $high = self::byBase($highs);
        $partner = [];
        foreach (array_keys($low) as $base) {
            $base = (string) $base;
            if (isset($high[$base])) {
                $partner[$base] = $base;
            }
        }
        // What is left over may fit but for the letter case of its base, if only one such base is left on either side.
        $folded = [];
        foreach (array_keys($high) as $base) {
            $base = (string) $base;
            if (! isset($partner[$base])) {
                $folded[mb_strtolower($base)][] = $base;
            }
        }
        $foldedLow = [];
        foreach (array_keys($low) as $base) {
            $base = (string) $base;
            if (! isset($high[$base])) {
                $foldedLow[mb_strtolower($base)][] = $base;
            }
        }
        foreach ($foldedLow as $fold => $bases) {
            if (count($bases) === 1 && count($folded[$fold] ?? []) === 1) {
                $partner[$bases[0]] = $folded[$fold][0];
            }
        }
        $ties = [];
        foreach ($low as $base => $parts) {
            $base = (string) $base;
            $other = $partner[$base] ?? null;
            if ($other === null) {
                $self = Pattern::anyFits($choices->bakedOnItself, $base);
                $ties[$base] = self::tie($base, $parts, [], $self ? TieKind::Self : TieKind::Open);

                continue;
            }
            $both = [...$parts, ...$high[$other]];
            $troubles = $other === $base ? [] : ['name-case'];
            foreach ($both as $part) {
                $trouble = match ($part->suffixState()) {
                    SuffixState::Exact => null,
                    SuffixState::OtherCase => 'suffix-case',
                    default => 'suffix-missing',
                };
                if ($trouble !== null && ! in_array($trouble, $troubles, true)) {
                    $troubles[] = $trouble;
                }
            }
            $ties[$base] = self::tie($base, $parts, $high[$other], $troubles === [] ? TieKind::Exact : TieKind::Near, $troubles);
        }
        foreach (array_diff(array_map(strval(...), array_keys($high)), $partner) as $base) {
            $ties[$base.' '] = self::tie($base, [], $high[$base], TieKind::Open);
        }
        ksort($ties, SORT_STRING);

        return array_values($ties);
    }

    /**
     * @param  list<RoledPart>  $parts
     * @return array<string|int, list<RoledPart>>
     */
    private static function byBase(array $parts): array
    {
        $out = [];
        foreach ($parts as $part) {
            $out[$part->base][] = $part;
        }

        return $out;
    }

    /**
     * @param  list<RoledPart>  $low
     * @param  list<RoledPart>  $high
     * @param  list<string>  $troubles
     */
    public static function tie(string $base, array $low, array $high, TieKind $kind, array $troubles = []): Tie
    {
        $a = RoledPart::boundsOf($low);
        $b = RoledPart::boundsOf($high);

        return new Tie($base, $low, $high, $kind, $troubles, $a === null || $b === null ? null : PlaceCost::of($a, $b));
    }

    /**
     * @param  list<Tie>  $ties
     * @return list<Suggestion>
     */
    private static function suggestions(array $ties, Standard $standard): array
    {
        $out = [];
        $perFile = array_count_values(array_merge(...array_map(static fn (Tie $tie): array => array_map(static fn (RoledPart $part): string => $part->path, [...$tie->low, ...$tie->high]), $ties)));
        foreach ($ties as $tie) {
            if ($tie->better !== []) {
                array_push($out, ...self::following($tie, self::baseOfFiles($tie, $perFile, $standard), $standard));
            }
            if ($tie->troubles === [] || $tie->kind === TieKind::Crossed) {
                continue;
            }
            $highBase = isset($tie->high[0]) ? $tie->high[0]->base : $tie->base;
            $near = in_array('name-near', $tie->troubles, true);
            // Of two spellings the one in lower case stays; else the high part follows the low.
            $base = $tie->kind === TieKind::OneAndOne || $near || $tie->base === mb_strtolower($tie->base) || $highBase !== mb_strtolower($highBase) ? $tie->base : $highBase;
            foreach ([...$tie->low, ...$tie->high] as $part) {
                $role = $part->role ?? Role::Low;
                $suffix = $part->suffixState() === SuffixState::Exact ? $part->reading->suffix : $standard->suffixFor($role);
                $name = ($tie->kind === TieKind::OneAndOne ? $part->base : $base).$suffix;
                if ($name === $part->part->name) {
                    continue;
                }
                $reasons = [];
                if ($part->base !== $base && $tie->kind !== TieKind::OneAndOne) {
                    $reasons[] = $near ? "the name of {$tie->low[0]->part->name}, which stands in the same place" : 'letter case as on the other side';
                }
                if ($part->suffixState() === SuffixState::OtherCase) {
                    $reasons[] = 'suffix in the letter case of the standard';
                } elseif ($part->suffixState() !== SuffixState::Exact) {
                    $reasons[] = "the $role->value suffix added, as its file says";
                }
                $out[] = new Suggestion($part, $name, implode('; ', $reasons), $near ? 0.8 : (in_array('suffix-missing', $tie->troubles, true) ? 0.9 : 0.99));
            }
        }

        return $out;
    }

    /**
     * The high parts that stand where the low stands take its base. Where files of one part each have one name, both sides take that.
     *
     * @param  string|null  $ofFiles  the base of that name
     * @return list<Suggestion>
     */
    private static function following(Tie $tie, ?string $ofFiles, Standard $standard): array
    {
        $out = [];
        $crossed = $tie->kind === TieKind::Crossed || in_array('chain', $tie->troubles, true);
        $confidence = $crossed ? 0.95 : ($ofFiles !== null ? 0.9 : 0.6);
        $base = $ofFiles ?? $tie->base;
        // A name without a suffix would leave the pair to be made in a second round.
        foreach ($crossed ? [] : $tie->low as $part) {
            $name = $base.($part->suffixState() === SuffixState::Exact ? $part->reading->suffix : $standard->suffixFor(Role::Low));
            if ($part->suffixState() !== SuffixState::Exact && $name !== $part->part->name) {
                $out[] = new Suggestion($part, $name, $ofFiles !== null ? 'the name of its file, as on the other side' : 'the low suffix added, as its file says', $confidence);
            }
        }
        foreach ($tie->better as $part) {
            $name = $base.($part->suffixState() === SuffixState::Exact ? $part->reading->suffix : $standard->suffixFor(Role::High));
            if ($name !== $part->part->name) {
                $out[] = new Suggestion($part, $name, "stands where {$tie->low[0]->part->name} stands", $confidence);
            }
        }

        return $out;
    }

    /**
     * The base of the names of two files that hold one part each, which stand in one place: a low one whose own name lacks its suffix, and the high one.
     *
     * @param  array<string, int>  $perFile  parts of each file
     */
    private static function baseOfFiles(Tie $tie, array $perFile, Standard $standard): ?string
    {
        if ($tie->kind !== TieKind::Open || count($tie->low) !== 1 || count($tie->better) !== 1 || $tie->low[0]->suffixState() === SuffixState::Exact) {
            return null;
        }
        $bases = [];
        foreach ([[$tie->low[0], Role::Low], [$tie->better[0], Role::High]] as [$part, $role]) {
            $reading = NameReading::of(pathinfo($part->path, PATHINFO_FILENAME), $standard);
            if ($perFile[$part->path] !== 1 || $reading->role !== $role) {
                return null;
            }
            $bases[] = $reading->base;
        }

        return $bases[0] === $bases[1] ? $bases[0] : null;
    }
}
