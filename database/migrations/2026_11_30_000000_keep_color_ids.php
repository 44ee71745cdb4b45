<?php

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // What was decided about the IDs of an asset, and how often: so that a page knows that it changed.
        Schema::table('assets', function (Blueprint $table): void {
            $table->json('color_ids')->nullable();
            $table->unsignedInteger('color_ids_version')->default(0);
        });
    }

    public function down(): void
    {
        Schema::table('assets', fn (Blueprint $table) => $table->dropColumn(['color_ids', 'color_ids_version']));
    }
};
