<?php

declare(strict_types=1);

namespace Anvil\Checks;

use Anvil\Standard\Severity;

/**
 * What a check is: the text of its page in the docs, and what the search finds it by.
 */
final readonly class About
{
    /**
     * @param  Station  $station  where it is shown
     * @param  Severity  $severity  its main one
     * @param  string  $title  a few words
     * @param  string  $measured  what is measured, how, and in what unit
     * @param  float|null  $limit  the built-in one; null where there is nothing to compare with
     * @param  string  $limitWords  the limit as people say it
     * @param  string  $afterBake  what it looks like after a bake
     * @param  string  $remedy  what mends it
     * @param  string  $source  a published one, or `common practice, no published source`
     */
    public function __construct(
        public string $code,
        public Station $station,
        public Severity $severity,
        public string $title,
        public string $measured,
        public ?float $limit,
        public string $limitWords,
        public string $afterBake,
        public string $remedy,
        public string $source = 'common practice, no published source',
    ) {
    }
}
