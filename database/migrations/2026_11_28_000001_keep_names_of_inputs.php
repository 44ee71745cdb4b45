<?php

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('sets', function (Blueprint $table): void {
            // What the inputs were called when they were measured: under other names the measure is the same.
            $table->json('names')->nullable()->after('inputs');
        });
    }

    public function down(): void
    {
        Schema::table('sets', function (Blueprint $table): void {
            $table->dropColumn('names');
        });
    }
};
