<?php

use App\Deliveries\DisplayFile;
use App\Http\Controllers\AccountController;
use App\Http\Controllers\ColorIdController;
use App\Http\Controllers\DeliveryController;
use App\Http\Controllers\FindingController;
use App\Http\Controllers\GuideController;
use App\Http\Controllers\MendController;
use App\Http\Controllers\PeopleController;
use App\Http\Controllers\ProofController;
use App\Http\Controllers\RackController;
use App\Http\Controllers\SearchController;
use App\Http\Controllers\SessionController;
use App\Http\Controllers\StandardController;
use App\Http\Controllers\StationController;
use App\Http\Controllers\UploadController;
use App\Models\Asset;
use App\Models\Person;
use Illuminate\Support\Facades\Route;

// What answers before somebody is signed in.
Route::get('session', [SessionController::class, 'show']);
Route::post('session', [SessionController::class, 'signIn'])->middleware('throttle:sign-in');
// Nothing is guessed here: the crew of the demo has no passwords, and is there with the demo alone.
Route::post('session/demo', [SessionController::class, 'demo'])->middleware('throttle:trying');
Route::delete('session', [SessionController::class, 'signOut']);
Route::post('password/forgot', [SessionController::class, 'forgot'])->middleware('throttle:mail');
Route::post('password', [SessionController::class, 'setPassword'])->middleware('throttle:sign-in');

// Everything else: who asks is known, and each route says what leave it needs. What changes an asset is noted in its history.
Route::middleware('auth')->group(function (): void {
    Route::prefix('me')->middleware('can:account,'.Person::class)->group(function (): void {
        Route::put('', [AccountController::class, 'update']);
        Route::post('password', [AccountController::class, 'password'])->middleware('throttle:sign-in');
        Route::delete('sessions', [AccountController::class, 'signOutEverywhere']);
        Route::get('tokens', [AccountController::class, 'tokens']);
        Route::post('tokens', [AccountController::class, 'makeToken'])->middleware('throttle:costly');
        Route::delete('tokens/{token}', [AccountController::class, 'revokeToken']);
        Route::get('fix-lists', [AccountController::class, 'fixLists']);
        Route::get('letters', [AccountController::class, 'letters']);
        Route::post('letters/{letter}/read', [AccountController::class, 'readLetter']);
    });
    Route::get('people', [PeopleController::class, 'index'])->can('view', Asset::class);
    Route::post('people', [PeopleController::class, 'store'])->middleware('throttle:costly')->can('manage', Person::class);
    Route::put('people/{person}', [PeopleController::class, 'update'])->can('manage', Person::class);
    Route::post('people/{person}/invite', [PeopleController::class, 'invite'])->middleware('throttle:costly')->can('manage', Person::class);

    // A change of a standard tells the history of the studio, not of one asset.
    Route::get('standards', [StandardController::class, 'index'])->can('view', Asset::class);
    Route::get('checks', [StandardController::class, 'checks'])->can('view', Asset::class);
    Route::get('standards/{standard}', [StandardController::class, 'show'])->can('view', Asset::class);
    Route::post('standards/{standard}/effect', [StandardController::class, 'effect'])->middleware('throttle:trying')->can('view', Asset::class);
    Route::post('standards/{standard}/learn', [StandardController::class, 'learn'])->middleware('throttle:costly')->can('view', Asset::class);
    Route::post('standards', [StandardController::class, 'store'])->middleware('throttle:costly')->can('decide', Asset::class);
    Route::put('standards/{standard}', [StandardController::class, 'update'])->middleware('throttle:costly')->can('decide', Asset::class);
    Route::delete('standards/{standard}', [StandardController::class, 'destroy'])->can('delete', Asset::class);
    Route::put('assets/{asset}/standard', [StandardController::class, 'hold'])->can('decide', 'asset')->middleware('throttle:costly');

    Route::get('rack', [RackController::class, 'index'])->can('view', Asset::class);
    Route::get('search', SearchController::class)->can('view', Asset::class);
    Route::get('guide', [GuideController::class, 'index'])->can('view', Asset::class);
    Route::get('guide/{page}', [GuideController::class, 'show'])->can('view', Asset::class);
    Route::get('guide/pictures/{picture}', [GuideController::class, 'picture'])->can('view', Asset::class);
    Route::get('formats', [MendController::class, 'formats'])->can('view', Asset::class);
    Route::get('assets/{asset}', [RackController::class, 'show'])->can('view', 'asset');
    Route::get('assets/{asset}/history', [FindingController::class, 'history'])->can('view', 'asset');
    Route::delete('assets/{asset}', [RackController::class, 'destroy'])->can('delete', 'asset')->middleware('noted:deleted the asset');

    // What costs is limited by the minute; pieces of files are not, so that large ones come in.
    Route::post('uploads', [UploadController::class, 'store'])->middleware('throttle:handing-in')->can('mend', Asset::class);
    Route::get('uploads/{upload}', [UploadController::class, 'show'])->can('mend', Asset::class);
    Route::put('uploads/{upload}', [UploadController::class, 'update'])->can('mend', Asset::class);
    Route::post('deliveries', [DeliveryController::class, 'store'])->middleware('throttle:handing-in')->can('mend', Asset::class);

    Route::prefix('deliveries/{delivery}')->group(function (): void {
        Route::middleware('unchanged')->group(function (): void {
            Route::get('', [DeliveryController::class, 'show'])->can('view', 'delivery');
            Route::get('progress', [StationController::class, 'progress'])->can('view', 'delivery');
            Route::get('intake', [StationController::class, 'intake'])->can('view', 'delivery');
            Route::get('pairing', [StationController::class, 'pairing'])->can('view', 'delivery');
            Route::get('sets', [StationController::class, 'sets'])->can('view', 'delivery');
            Route::get('color-id', [StationController::class, 'colorId'])->can('view', 'delivery');
            Route::get('clearance', [StationController::class, 'clearance'])->can('view', 'delivery');
            Route::get('surface', [StationController::class, 'surface'])->can('view', 'delivery');
            Route::get('hand-off', [StationController::class, 'handOff'])->can('view', 'delivery');
        });
        Route::get('proof', [ProofController::class, 'show'])->can('view', 'delivery');
        Route::get('proof/{output}/{kind}', [ProofController::class, 'map'])->whereIn('kind', ['normal', 'ao', 'id', 'height', 'miss', 'rays'])->can('view', 'delivery');
        Route::get('retouch/{page}', [ProofController::class, 'retouch'])->where('page', '\d{1,9}')->can('view', 'delivery');
        Route::get('maps/{number}/{what}', [ProofController::class, 'returned'])->where('number', '\d{1,9}')->whereIn('what', ['map', 'difference'])->can('view', 'delivery');
        Route::get('rays', [DeliveryController::class, 'rays'])->can('view', 'delivery');
        Route::get('mesh/{kind}', [DeliveryController::class, 'mesh'])->whereIn('kind', DisplayFile::KINDS)->can('view', 'delivery');
        Route::get('files/{file}/mesh', [DeliveryController::class, 'fileMesh'])->can('view', 'delivery');
        Route::get('pieces/{output}', [ColorIdController::class, 'pieces'])->can('view', 'delivery');
        Route::get('files/{file}/role', [MendController::class, 'rolePreview'])->can('view', 'delivery');
        Route::get('changes', [FindingController::class, 'changes'])->can('view', 'delivery');
        Route::post('cancel', [DeliveryController::class, 'cancel'])->can('mend', 'delivery')->middleware('noted:stopped the check');
        Route::post('proof/{output}/cancel', [ProofController::class, 'cancelTrial'])->can('mend', 'delivery')->middleware('noted:stopped a trial bake');
        Route::delete('', [DeliveryController::class, 'destroy'])->can('delete', 'delivery')->middleware('noted:deleted the delivery');
        Route::middleware('throttle:costly')->group(function (): void {
            Route::get('ticket/{form}', [DeliveryController::class, 'ticket'])->whereIn('form', ['html', 'json'])->can('view', 'delivery');
            Route::get('download', [DeliveryController::class, 'download'])->can('view', 'delivery');
            Route::post('renames', [MendController::class, 'renames'])->can('view', 'delivery');
            Route::post('recheck', [DeliveryController::class, 'recheck'])->can('mend', 'delivery')->middleware('noted:had it checked again');
            Route::post('files/{file}/role', [DeliveryController::class, 'role'])->can('mend', 'delivery');
            Route::post('mend', [MendController::class, 'mend'])->can('mend', 'delivery');
            Route::post('assemble', [MendController::class, 'assemble'])->can('mend', 'delivery');
            Route::post('place', [MendController::class, 'place'])->can('mend', 'delivery');
            Route::post('outputs', [DeliveryController::class, 'output'])->can('mend', 'delivery')->middleware('noted:had files written');
            Route::post('id-files', [ColorIdController::class, 'handIn'])->can('mend', 'delivery');
            Route::post('proof', [ProofController::class, 'bake'])->can('mend', 'delivery')->middleware('noted:began a trial bake');
            Route::post('maps', [ProofController::class, 'maps'])->can('mend', 'delivery')->middleware('noted:added maps that came back');
            Route::post('maps/{file}/take-back', [ProofController::class, 'takeBack'])->can('mend', 'delivery')->middleware('noted:took back a map');
            Route::post('explode', [DeliveryController::class, 'explode'])->can('decide', 'delivery');
            Route::post('board', [DeliveryController::class, 'board'])->can('decide', 'delivery');
            Route::post('reach', [DeliveryController::class, 'reach'])->can('decide', 'delivery');
            Route::post('mirrored', [DeliveryController::class, 'mirrored'])->can('decide', 'delivery');
            Route::post('choices', [DeliveryController::class, 'choose'])->can('decide', 'delivery');
            Route::post('suffixes', [MendController::class, 'suffixes'])->can('decide', 'delivery');
            Route::post('id-cut', [ColorIdController::class, 'cut'])->can('mend', 'delivery')->middleware('noted:had the high poly cut for color IDs');
            Route::post('id-sheet', [ColorIdController::class, 'sheet'])->can('decide', 'delivery');
            // These tell their history themselves, with names and reasons.
            Route::post('waivers', [FindingController::class, 'waive'])->can('waive', 'delivery');
            Route::delete('waivers/{waiver}', [FindingController::class, 'withdraw'])->can('waive', 'delivery');
            Route::post('fix-lists', [FindingController::class, 'sendBack'])->can('sendBack', 'delivery');
            Route::post('packages', [DeliveryController::class, 'seal'])->can('seal', 'delivery')->middleware('noted:sealed a package');
        });
    });
    Route::get('fix-lists/{fixList}', [FindingController::class, 'fixList'])->can('view', Asset::class);
    Route::get('outputs/{output}', [DeliveryController::class, 'downloadOutput'])->can('view', Asset::class);
    Route::get('packages/{package}', [DeliveryController::class, 'downloadPackage'])->can('view', Asset::class);
});
