<?php

declare(strict_types=1);

namespace Anvil\Standard;

/**
 * What a part is for. `pose` is the low poly that ships where another is baked.
 */
enum Role: string
{
    case Low = 'low';
    case High = 'high';
    case Id = 'id';
    case Cage = 'cage';
    case Pose = 'pose';

    public function words(): string
    {
        return match ($this) {
            self::Low => 'low poly',
            self::High => 'high poly',
            self::Id => 'ID copy',
            self::Cage => 'cage',
            self::Pose => 'low poly that ships',
        };
    }
}
