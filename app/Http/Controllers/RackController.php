<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Anvil\Pairing\NameReading;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;
