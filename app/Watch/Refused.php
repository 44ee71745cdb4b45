<?php

declare(strict_types=1);

namespace App\Watch;

use RuntimeException;

/** The server said no, in words; its code is that of HTTP. */
final class Refused extends RuntimeException
{
}
