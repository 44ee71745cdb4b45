<?php

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('parts', function (Blueprint $table): void {
            $table->string('hash', 64)->nullable();
        });
        Schema::table('sets', function (Blueprint $table): void {
            $table->string('inputs', 64)->nullable()->index();
            $table->string('seen', 64)->nullable();
            $table->boolean('reused')->default(false);
        });
        Schema::table('assets', function (Blueprint $table): void {
            $table->json('reaches')->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('parts', fn (Blueprint $table) => $table->dropColumn('hash'));
        Schema::table('sets', fn (Blueprint $table) => $table->dropColumn(['inputs', 'seen', 'reused']));
        Schema::table('assets', fn (Blueprint $table) => $table->dropColumn('reaches'));
    }
};
