<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use OpenApi\Attributes as OA;

#[OA\Info(version: '1', title: 'Yellow Anvil')]
abstract class Controller
{
    protected function user(): string
    {
        return config()->string('anvil.user');
    }
}
