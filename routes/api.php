<?php

use App\Deliveries\DisplayFile;
use App\Http\Controllers\DeliveryController;
use App\Http\Controllers\MendController;
use App\Http\Controllers\RackController;
use App\Http\Controllers\UploadController;
use Illuminate\Support\Facades\Route;

Route::get('rack', [RackController::class, 'index']);
Route::get('assets/{asset}', [RackController::class, 'show']);

Route::post('uploads', [UploadController::class, 'store']);
Route::put('uploads/{upload}', [UploadController::class, 'update']);

Route::get('formats', [MendController::class, 'formats']);

Route::post('deliveries', [DeliveryController::class, 'store']);
Route::prefix('deliveries/{delivery}')->group(function (): void {
    Route::get('', [DeliveryController::class, 'show']);
    Route::post('explode', [DeliveryController::class, 'explode']);
    Route::get('rays', [DeliveryController::class, 'rays']);
    Route::get('mesh/{role}', [DeliveryController::class, 'mesh'])->whereIn('role', DisplayFile::KINDS);
    Route::get('download', [DeliveryController::class, 'download']);
    Route::post('cancel', [DeliveryController::class, 'cancel']);
    Route::post('recheck', [DeliveryController::class, 'recheck']);
    Route::post('board', [DeliveryController::class, 'board']);
    Route::post('reach', [DeliveryController::class, 'reach']);
    Route::post('choices', [DeliveryController::class, 'choose']);
    Route::post('files/{file}/role', [DeliveryController::class, 'role']);
    Route::get('files/{file}/role', [MendController::class, 'rolePreview']);
    Route::post('renames', [MendController::class, 'renames']);
    Route::post('mend', [MendController::class, 'mend']);
    Route::post('assemble', [MendController::class, 'assemble']);
    Route::post('place', [MendController::class, 'place']);
    Route::post('suffixes', [MendController::class, 'suffixes']);
    Route::post('outputs', [DeliveryController::class, 'output']);
    Route::post('packages', [DeliveryController::class, 'seal']);
});
Route::get('outputs/{output}', [DeliveryController::class, 'downloadOutput']);
Route::get('packages/{package}', [DeliveryController::class, 'downloadPackage']);
