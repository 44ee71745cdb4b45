<?php

declare(strict_types=1);

namespace Anvil\Checks;

use Anvil\Standard\Severity;

/**
 * Findings of one code, one file and one kind of remedy: told once, with the names of what they are on.
 */
final readonly class Cause
{
    /** Names that are told of what it is on. */
    private const NAMES = 3;

    /**
     * @param  Severity  $severity  the worst of those that are not waived; of all where all are
     * @param  list<int>  $findings  positions in the list of findings
     * @param  int  $subjects  parts or sets that it is on
     * @param  bool  $waived  all of them are
     */
    private function __construct(public string $code, public Severity $severity, public string $message, public string $remedy, public array $findings, public int $subjects, public bool $waived)
    {
    }

    /**
     * @param  list<Finding>  $findings
     * @return list<self> in the order of the first finding of each
     */
    public static function of(array $findings): array
    {
        $groups = [];
        foreach ($findings as $position => $finding) {
            $groups[json_encode([$finding->code, $finding->subject['file'] ?? null, self::kind($finding)], JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE)][] = $position;
        }

        return array_values(array_map(static fn (array $positions): self => self::ofOne($findings, $positions), $groups));
    }

    /**
     * @param  list<self>  $causes
     * @return int how many of a severity are open
     */
    public static function count(array $causes, Severity $severity): int
    {
        return count(array_filter($causes, static fn (self $cause): bool => $cause->severity === $severity && ! $cause->waived));
    }

    /**
     * @param  list<Finding>  $findings  all
     * @param  non-empty-list<int>  $positions
     */
    private static function ofOne(array $findings, array $positions): self
    {
        $own = array_map(static fn (int $position): Finding => $findings[$position], $positions);
        $open = array_filter($own, static fn (Finding $finding): bool => ! $finding->waived);
        $severities = array_map(static fn (Finding $finding): Severity => $finding->severity, $open === [] ? $own : $open);
        $worst = in_array(Severity::Blocker, $severities, true) ? Severity::Blocker : (in_array(Severity::Caution, $severities, true) ? Severity::Caution : Severity::Note);
        $isOfSets = ! isset($own[0]->subject['part']) && isset($own[0]->subject['set']);
        $names = array_values(array_unique(array_merge(...array_map(static fn (Finding $finding): array => self::names($finding->subject), $own))));
        $remedies = array_unique(array_map(static fn (Finding $finding): string => $finding->remedy, $own));
        $remedy = count($remedies) === 1 ? $own[0]->remedy : Catalogue::about()[$own[0]->code]->remedy ?? $own[0]->remedy;

        return new self($own[0]->code, $worst, count($own) === 1 ? $own[0]->message : self::words($own[0], count($own), $names, $isOfSets), $remedy, $positions, count($names), $open === []);
    }

    /** A remedy without its numbers and names: what is to be done, whatever the value. */
    private static function kind(Finding $finding): string
    {
        $names = implode('|', array_map(static fn (string $name): string => preg_quote($name, '/'), array_filter($finding->subject, static fn (string $name): bool => $name !== '')));
        $words = $names === '' ? $finding->remedy : preg_replace("/(?<![\\w.])(?:$names)(?![\\w.])/u", '*', $finding->remedy) ?? $finding->remedy;

        return preg_replace('/[\w.,:\-]*[_\d][\w.,:\-]*/u', '*', $words) ?? $words;
    }

    /**
     * @param  array{file?: string, part?: string, set?: string, other?: string, page?: string}  $subject
     * @return list<string>
     */
    private static function names(array $subject): array
    {
        // On a page two parts are told of alike.
        return isset($subject['part'], $subject['other'], $subject['page']) ? [$subject['part'], $subject['other']] : [self::name($subject)];
    }

    /**
     * @param  array{file?: string, part?: string, set?: string, other?: string, page?: string}  $subject
     */
    private static function name(array $subject): string
    {
        return match (true) {
            isset($subject['part']) => $subject['part'],
            isset($subject['set'], $subject['other']) => "{$subject['set']} and {$subject['other']}",
            default => $subject['set'] ?? $subject['other'] ?? $subject['page'] ?? basename($subject['file'] ?? ''),
        };
    }

    /**
     * `13 parts of buoy_low.obj have no normals: float_low, link_01_low, …`
     *
     * @param  list<string>  $names
     */
    private static function words(Finding $first, int $count, array $names, bool $isOfSets): string
    {
        $about = Catalogue::about()[$first->code] ?? null;
        $file = basename(str_replace('\\', '/', $first->subject['file'] ?? ''));
        [$one, $many] = match (true) {
            ! $isOfSets && ! isset($first->subject['part']) && isset($first->subject['page']) => ['page', 'pages'],
            ! $isOfSets => ['part', 'parts'],
            isset($first->subject['other']) => ['pair of sets', 'pairs of sets'],
            default => ['set', 'sets'],
        };
        $who = number_format(count($names)).' '.(count($names) === 1 ? $one : $many).($file === '' ? '' : " of $file");
        $told = implode(', ', array_slice($names, 0, self::NAMES)).(count($names) > self::NAMES ? ', …' : '');
        if (count($names) === 1) {
            // Several of one part.
            return ($about->title ?? $first->code).': '.number_format($count)." times on $told".($file === '' ? '' : " of $file");
        }

        return ($about?->many !== null ? "$who $about->many" : ($about->title ?? $first->code).": $who").": $told";
    }
}
