<?php

declare(strict_types=1);

namespace Anvil\Measures;

/**
 * One measure of one subject.
 */
final readonly class Task
{
    /**
     * @param  Measure<mixed>  $measure
     * @param  int  $wave  tasks of a wave need only what those of earlier ones give
     * @param  int  $work  how much it is, in triangles and rays
     */
    public function __construct(public Measure $measure, public Subject $subject, public int $wave, public int $work)
    {
    }
}
