<?php

declare(strict_types=1);

namespace App\Policies;

/**
 * Who may do what with deliveries.
 */
final class DeliveryPolicy extends ByStanding
{
}
