<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Asset;
use App\Models\Person;

/**
 * Who may do what with an asset. There is one built-in person, who may everything, until accounts come.
 */
final class AssetPolicy
{
    public function view(Person $person, Asset $asset): bool
    {
        return true;
    }

    public function change(Person $person, Asset $asset): bool
    {
        return true;
    }

    public function delete(Person $person, Asset $asset): bool
    {
        return true;
    }
}
