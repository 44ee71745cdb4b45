<?php

declare(strict_types=1);

namespace Anvil\Checks;

use Anvil\Measures\Measure;
use Anvil\Standard\Severity;
use Anvil\Standard\Standard;

/**
 * What a check is: the text of its page in the docs, and what the search finds it by.
 */
final readonly class About
{
    /**
     * @param  Station  $station  where it is shown
     * @param  int  $row  where it stands among all checks, in tens
     * @param  Severity  $severity  its main one
     * @param  string  $title  a few words
     * @param  string  $measured  what is measured, how, and in what unit
     * @param  float|null  $limit  the built-in one; null where there is nothing to compare with
     * @param  string  $limitWords  the limit as people say it
     * @param  string  $afterBake  what it looks like after a bake
     * @param  string  $remedy  what mends it
     * @param  float|null  $caution  the built-in limit from which it speaks as a caution, where that is another than the one it blocks from
     * @param  string|null  $unit  of the measured value and of both limits (`Measured`); null where it measures nothing
     * @param  list<class-string<Measure<*>>>  $measures  what it is about: what these took is told under the first check that is
     * @param  list<class-string<Measure<*>>>  $beside  what else it reads
     * @param  string  $source  a published one, or `common practice, no published source`
     * @param  string|null  $many  what several parts that share a cause have or are: "have no normals"; null: the title is told
     * @param  list<string>  $symptoms  how people call what they see on such a bake; the search finds the check by these
     * @param  bool  $ofFile  told of each file by itself, once it is read: nothing of another file can change it
     */
    public function __construct(
        public string $code,
        public Station $station,
        public int $row,
        public Severity $severity,
        public string $title,
        public string $measured,
        public ?float $limit,
        public string $limitWords,
        public string $afterBake,
        public string $remedy,
        public string $source = 'common practice, no published source',
        public ?float $caution = null,
        public ?string $unit = null,
        public array $measures = [],
        public array $beside = [],
        public ?string $many = null,
        public bool $ofFile = false,
        public array $symptoms = [],
    ) {
    }

    /** The limit in force: the standard's, else the built-in one. */
    public function limitBy(Standard $standard): float
    {
        return $standard->limit($this->code, $this->limit ?? 0.0);
    }

    /** The limit in force from which it is a caution; where the standard moves only the other one, never above that. */
    public function cautionBy(Standard $standard): float
    {
        return $standard->cautionOf($this->code) ?? min($this->caution ?? INF, $this->limitBy($standard));
    }
}
