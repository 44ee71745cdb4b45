<?php

declare(strict_types=1);

namespace Tests\Attack;

use Tests\Support\HandsIn;
use Tests\Support\Waits;
use Tests\TestCase;

/**
 * An application to attack: emptied before each test.
 */
abstract class AttackCase extends TestCase
{
    use HandsIn;
    use Waits;

    protected const LOW = "o post_low\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\nusemtl plain\nf 1/1 2/2 3/3 4/4\n";

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied(measures: true);
    }

    /**
     * @return array<string, string> a small pair that is checked in a moment
     */
    protected static function pair(int $number): array
    {
        $high = str_replace(['post_low', '1 1 0'], ['post_high', '1 1 0.001'], self::LOW);

        return ["post{$number}_low.obj" => self::LOW, "post{$number}_high.obj" => $high."f 1 2 3\nf 1 3 4\n"];
    }
}
