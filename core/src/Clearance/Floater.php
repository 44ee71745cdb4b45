<?php

declare(strict_types=1);

namespace Anvil\Clearance;

/**
 * A shell of the high poly that stands over the low one by itself, and what its rim and the surface beneath it look like.
 */
final readonly class Floater
{
    /**
     * @param  int  $part  number among the set's high parts
     * @param  array{float, float, float}  $where  a place on it
     * @param  bool  $isBacked  whether another surface of the high poly lies beneath it
     * @param  float  $missShare  share of the set's low area around it from which rays meet nothing
     * @param  list<array{float, float, float}>  $missWhere
     * @param  float  $rimShare  share of its outer loop that turns or stands away from the surface beneath
     * @param  float|null  $rimDegrees  how far the rim's faces turn from the surface beneath, on the average of what turns; null where nothing turns too far
     * @param  float|null  $rimHeight  how high the rim stands over that surface, as a length, on the average of what stands too high
     */
    public function __construct(
        public int $part,
        public array $where,
        public bool $isBacked,
        public float $missShare,
        public array $missWhere,
        public float $rimShare,
        public ?float $rimDegrees,
        public ?float $rimHeight,
    ) {
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        return ['part' => $this->part, 'where' => $this->where, 'isBacked' => $this->isBacked, 'missShare' => $this->missShare, 'missWhere' => $this->missWhere, 'rimShare' => $this->rimShare, 'rimDegrees' => $this->rimDegrees, 'rimHeight' => $this->rimHeight];
    }

    /**
     * @param  array<string, mixed>  $stored
     */
    public static function ofArray(array $stored): self
    {
        /** @var array{part: int, where: array{float, float, float}, isBacked: bool, missShare: float|int, missWhere: list<array{float, float, float}>, rimShare: float|int, rimDegrees: float|int|null, rimHeight: float|int|null} $stored */
        return new self(
            $stored['part'], $stored['where'], $stored['isBacked'], (float) $stored['missShare'], $stored['missWhere'], (float) $stored['rimShare'],
            $stored['rimDegrees'] === null ? null : (float) $stored['rimDegrees'], $stored['rimHeight'] === null ? null : (float) $stored['rimHeight'],
        );
    }
}
