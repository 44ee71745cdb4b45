<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Delivery;
use App\Models\Person;

/**
 * Who may do what with a delivery. There is one built-in person, who may everything, until accounts come.
 */
final class DeliveryPolicy
{
    public function view(Person $person, Delivery $delivery): bool
    {
        return true;
    }

    public function change(Person $person, Delivery $delivery): bool
    {
        return true;
    }

    public function delete(Person $person, Delivery $delivery): bool
    {
        return true;
    }
}
