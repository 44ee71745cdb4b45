<?php

use App\Deliveries\DisplayFile;
use App\Http\Controllers\ColorIdController;
use App\Http\Controllers\DeliveryController;
use App\Http\Controllers\MendController;
use App\Http\Controllers\ProofController;
use App\Http\Controllers\RackController;
use App\Http\Controllers\SearchController;
use App\Http\Controllers\StationController;
use App\Http\Controllers\UploadController;
use Illuminate\Support\Facades\Route;

Route::get('rack', [RackController::class, 'index']);
Route::get('assets/{asset}', [RackController::class, 'show'])->can('view', 'asset');
Route::delete('assets/{asset}', [RackController::class, 'destroy'])->can('delete', 'asset');

// What costs is limited by the minute; pieces of files are not, so that large ones come in.
Route::post('uploads', [UploadController::class, 'store'])->middleware('throttle:handing-in');
Route::get('uploads/{upload}', [UploadController::class, 'show']);
Route::put('uploads/{upload}', [UploadController::class, 'update']);

Route::get('search', SearchController::class);

Route::get('formats', [MendController::class, 'formats']);

Route::post('deliveries', [DeliveryController::class, 'store'])->middleware('throttle:handing-in');
Route::prefix('deliveries/{delivery}')->group(function (): void {
    Route::get('', [DeliveryController::class, 'show'])->can('view', 'delivery');
    Route::delete('', [DeliveryController::class, 'destroy'])->can('delete', 'delivery');
    Route::get('progress', [StationController::class, 'progress'])->can('view', 'delivery');
    Route::get('intake', [StationController::class, 'intake'])->can('view', 'delivery');
    Route::get('pairing', [StationController::class, 'pairing'])->can('view', 'delivery');
    Route::get('sets', [StationController::class, 'sets'])->can('view', 'delivery');
    Route::get('color-id', [StationController::class, 'colorId'])->can('view', 'delivery');
    Route::get('clearance', [StationController::class, 'clearance'])->can('view', 'delivery');
    Route::get('surface', [StationController::class, 'surface'])->can('view', 'delivery');
    Route::get('proof', [ProofController::class, 'show'])->can('view', 'delivery');
    Route::get('proof/{output}/{kind}', [ProofController::class, 'map'])->whereIn('kind', ['normal', 'ao', 'id', 'height', 'miss', 'rays'])->can('view', 'delivery');
    Route::get('retouch/{page}', [ProofController::class, 'retouch'])->whereNumber('page')->can('view', 'delivery');
    Route::get('maps/{number}/{what}', [ProofController::class, 'returned'])->whereNumber('number')->whereIn('what', ['map', 'difference'])->can('view', 'delivery');
    Route::post('proof/{output}/cancel', [ProofController::class, 'cancelTrial'])->can('change', 'delivery');
    Route::get('hand-off', [StationController::class, 'handOff'])->can('view', 'delivery');
    Route::get('rays', [DeliveryController::class, 'rays'])->can('view', 'delivery');
    Route::get('mesh/{kind}', [DeliveryController::class, 'mesh'])->whereIn('kind', DisplayFile::KINDS)->can('view', 'delivery');
    Route::get('files/{file}/mesh', [DeliveryController::class, 'fileMesh'])->can('view', 'delivery');
    Route::get('pieces/{output}', [ColorIdController::class, 'pieces'])->can('view', 'delivery');
    Route::post('cancel', [DeliveryController::class, 'cancel'])->can('change', 'delivery');
    Route::get('files/{file}/role', [MendController::class, 'rolePreview'])->can('view', 'delivery');
    Route::middleware('throttle:costly')->group(function (): void {
        Route::post('explode', [DeliveryController::class, 'explode'])->can('change', 'delivery');
        Route::get('download', [DeliveryController::class, 'download'])->can('view', 'delivery');
        Route::post('recheck', [DeliveryController::class, 'recheck'])->can('change', 'delivery');
        Route::post('board', [DeliveryController::class, 'board'])->can('change', 'delivery');
        Route::post('reach', [DeliveryController::class, 'reach'])->can('change', 'delivery');
        Route::post('mirrored', [DeliveryController::class, 'mirrored'])->can('change', 'delivery');
        Route::post('choices', [DeliveryController::class, 'choose'])->can('change', 'delivery');
        Route::post('files/{file}/role', [DeliveryController::class, 'role'])->can('change', 'delivery');
        Route::post('renames', [MendController::class, 'renames'])->can('view', 'delivery');
        Route::post('mend', [MendController::class, 'mend'])->can('change', 'delivery');
        Route::post('assemble', [MendController::class, 'assemble'])->can('change', 'delivery');
        Route::post('place', [MendController::class, 'place'])->can('change', 'delivery');
        Route::post('suffixes', [MendController::class, 'suffixes'])->can('change', 'delivery');
        Route::post('outputs', [DeliveryController::class, 'output'])->can('change', 'delivery');
        Route::post('id-cut', [ColorIdController::class, 'cut'])->can('change', 'delivery');
        Route::post('id-sheet', [ColorIdController::class, 'sheet'])->can('change', 'delivery');
        Route::post('id-files', [ColorIdController::class, 'handIn'])->can('change', 'delivery');
        Route::post('proof', [ProofController::class, 'bake'])->can('change', 'delivery');
        Route::post('maps', [ProofController::class, 'maps'])->can('change', 'delivery');
        Route::post('maps/{file}/take-back', [ProofController::class, 'takeBack'])->can('change', 'delivery');
        Route::post('packages', [DeliveryController::class, 'seal'])->can('change', 'delivery');
    });
});
Route::get('outputs/{output}', [DeliveryController::class, 'downloadOutput']);
Route::get('packages/{package}', [DeliveryController::class, 'downloadPackage']);
