<?php

declare(strict_types=1);

namespace App\Policies;

/**
 * Who may do what with assets.
 */
final class AssetPolicy extends ByStanding
{
}
