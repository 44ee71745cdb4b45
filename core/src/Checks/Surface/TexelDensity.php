<?php

declare(strict_types=1);

namespace Anvil\Checks\Surface;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\Contents;
use Anvil\Measures\Kind\IslandFacts;
use Anvil\Measures\Kind\Sights;
use Anvil\Measures\Measures;
use Anvil\Rays\Spread;
use Anvil\Standard\Severity;

/**
 * Texels to a unit of length of each UV island against the asset's median by area, or the density that the standard sets: their ratio, the worst of each part. A caution beyond a factor of 2 among islands that are seen, or off the standard's own by the limit.
 */
final class TexelDensity implements Check
{
    public function about(): About
    {
        return new About(
            code: 'texel-density',
            station: Station::Surface,
            row: 780,
            severity: Severity::Note,
            title: 'Uneven texel density',
            measured: 'Texels to a unit of length of each UV island against the asset\'s median by area, or the density that the standard sets: their ratio, the worst of each part. A caution beyond a factor of 2 among islands that are seen, or off the standard\'s own by the limit.',
            limit: 0.25,
            unit: 'ratio',
            limitWords: '±25 %; a caution beyond a factor of 2',
            afterBake: 'neighboring parts of unlike sharpness',
            remedy: 'scale the islands to one density',
            measures: [IslandFacts::class, Sights::class],
            beside: [Contents::class],
            many: 'have UV islands of another texel density',
            symptoms: ['blurry part', 'pixelated part', 'unlike sharpness'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $none = UvParts::none($measures);
        if ($none !== null) {
            return $none;
        }
        $standard = $measures->asset->standard;
        $limit = $this->about()->limitBy($standard);
        $reference = UvParts::reference($measures);
        if ($reference <= 0.0) {
            return Outcome::notApplicable('no UV island has area');
        }
        $isOwn = $standard->texelDensity !== null;
        $unit = $measures->asset->unit();
        $sights = $measures->ofAsset(Sights::class);
        $findings = [];
        foreach (UvParts::low($measures) as $number => $part) {
            $facts = $measures->ofPart(IslandFacts::class, $part);
            $worst = ['note' => 1.0, 'caution' => 1.0];
            $where = [];
            for ($i = 0, $n = $facts->count(); $i < $n; $i++) {
                $ratio = $facts->density($i, $standard->mapSize) / $reference;
                if ($ratio <= 0.0 || abs($ratio - 1.0) <= $limit * (1 + 1e-6)) {
                    continue;
                }
                $where[] = $facts->at[$i];
                $kind = $isOwn || (max($ratio, 1 / $ratio) > self::FACTOR * (1 + 1e-6) && ($sights[$number]['seen'][$i] ?? 1.0) > 0.0) ? 'caution' : 'note';
                if (max($ratio, 1 / $ratio) > max($worst[$kind], 1 / $worst[$kind])) {
                    $worst[$kind] = $ratio;
                }
            }
            if ($where === []) {
                continue;
            }
            $isCaution = $worst['caution'] !== 1.0;
            $ratio = $worst[$isCaution ? 'caution' : 'note'];
            $bound = $isCaution && ! $isOwn ? self::FACTOR : 1.0 + $limit;
            $findings[] = Finding::onPart(
                'texel-density', $isCaution ? Severity::Caution : Severity::Note, $part,
                UvParts::many(count($where), 'UV island')." of {$part->part->name} ".(count($where) === 1 ? 'is' : 'are').' off the '.($isOwn ? "standard's" : "asset's usual").' density of '.self::density($reference, $unit).', the furthest with '.self::density($ratio * $reference, $unit).': scale it by '.number_format(1 / $ratio, 2),
                'scale islands to '.self::density($reference, $unit).' in UV', new Measured($ratio, $ratio > 1.0 ? $bound : ($bound === self::FACTOR ? 1 / self::FACTOR : 1.0 - $limit), 'ratio'), count($where), Spread::of($where, 40),
            );
        }

        return Outcome::of($findings);
    }

    /** Seen islands further apart in density than this differ in sharpness at a glance. */
    private const FACTOR = 2.0;

    /** `512 px/m`. */
    private static function density(float $density, ?string $unit): string
    {
        return Words::pixels($density).'/'.($unit ?? 'unit');
    }
}
