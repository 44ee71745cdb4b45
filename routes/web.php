<?php

use App\Http\Controllers\HealthController;
use Illuminate\Support\Facades\Route;

Route::get('up', HealthController::class);
Route::view('/{any?}', 'app')->where('any', '^(?!api/|build/|up$).*');
