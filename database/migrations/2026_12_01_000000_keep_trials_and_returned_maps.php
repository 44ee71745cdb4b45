<?php

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('outputs', function (Blueprint $table): void {
            // By what a trial was made of: the same is not made twice.
            $table->string('key', 64)->nullable()->index();
        });
        Schema::table('files', function (Blueprint $table): void {
            // Of a map that came back: what it was said to be of, where its name does not tell.
            $table->string('page', 255)->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('outputs', fn (Blueprint $table) => $table->dropColumn('key'));
        Schema::table('files', fn (Blueprint $table) => $table->dropColumn('page'));
    }
};
