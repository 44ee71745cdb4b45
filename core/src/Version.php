<?php

declare(strict_types=1);

namespace Anvil;

/** The core's own version: part of what every result was made by. */
final class Version
{
    public const CORE = '0.9.0';
}
