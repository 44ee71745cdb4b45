<?php

use App\Deliveries\DisplayFile;
use App\Http\Controllers\DeliveryController;
use App\Http\Controllers\MendController;
use App\Http\Controllers\RackController;
use App\Http\Controllers\StationController;
use App\Http\Controllers\UploadController;
use Illuminate\Support\Facades\Route;

Route::get('rack', [RackController::class, 'index']);
Route::get('assets/{asset}', [RackController::class, 'show']);
Route::delete('assets/{asset}', [RackController::class, 'destroy']);

// What costs is limited by the minute; pieces of files are not, so that large ones come in.
Route::post('uploads', [UploadController::class, 'store'])->middleware('throttle:handing-in');
Route::get('uploads/{upload}', [UploadController::class, 'show']);
Route::put('uploads/{upload}', [UploadController::class, 'update']);

Route::get('formats', [MendController::class, 'formats']);

Route::post('deliveries', [DeliveryController::class, 'store'])->middleware('throttle:handing-in');
Route::prefix('deliveries/{delivery}')->group(function (): void {
    Route::get('', [DeliveryController::class, 'show']);
    Route::delete('', [DeliveryController::class, 'destroy']);
    Route::get('progress', [StationController::class, 'progress']);
    Route::get('intake', [StationController::class, 'intake']);
    Route::get('pairing', [StationController::class, 'pairing']);
    Route::get('sets', [StationController::class, 'sets']);
    Route::get('color-id', [StationController::class, 'colorId']);
    Route::get('clearance', [StationController::class, 'clearance']);
    Route::get('hand-off', [StationController::class, 'handOff']);
    Route::get('rays', [DeliveryController::class, 'rays']);
    Route::get('mesh/{role}', [DeliveryController::class, 'mesh'])->whereIn('role', DisplayFile::KINDS);
    Route::post('cancel', [DeliveryController::class, 'cancel']);
    Route::get('files/{file}/role', [MendController::class, 'rolePreview']);
    Route::middleware('throttle:costly')->group(function (): void {
        Route::post('explode', [DeliveryController::class, 'explode']);
        Route::get('download', [DeliveryController::class, 'download']);
        Route::post('recheck', [DeliveryController::class, 'recheck']);
        Route::post('board', [DeliveryController::class, 'board']);
        Route::post('reach', [DeliveryController::class, 'reach']);
        Route::post('choices', [DeliveryController::class, 'choose']);
        Route::post('files/{file}/role', [DeliveryController::class, 'role']);
        Route::post('renames', [MendController::class, 'renames']);
        Route::post('mend', [MendController::class, 'mend']);
        Route::post('assemble', [MendController::class, 'assemble']);
        Route::post('place', [MendController::class, 'place']);
        Route::post('suffixes', [MendController::class, 'suffixes']);
        Route::post('outputs', [DeliveryController::class, 'output']);
        Route::post('packages', [DeliveryController::class, 'seal']);
    });
});
Route::get('outputs/{output}', [DeliveryController::class, 'downloadOutput']);
Route::get('packages/{package}', [DeliveryController::class, 'downloadPackage']);
