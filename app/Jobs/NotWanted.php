<?php

declare(strict_types=1);

namespace App\Jobs;

use RuntimeException;

/** What is being made is not wanted any more. */
final class NotWanted extends RuntimeException
{
}
