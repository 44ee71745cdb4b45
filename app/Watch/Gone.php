<?php

declare(strict_types=1);

namespace App\Watch;

use RuntimeException;

/** The server does not answer, or is busy: what was asked is asked again later. */
final class Gone extends RuntimeException
{
}
