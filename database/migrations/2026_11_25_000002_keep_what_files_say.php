<?php

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('files', function (Blueprint $table): void {
            $table->json('extras')->nullable();
            $table->string('unit', 40)->nullable()->change();
        });
        Schema::table('parts', function (Blueprint $table): void {
            $table->json('facts')->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('files', fn (Blueprint $table) => $table->dropColumn('extras'));
        Schema::table('parts', fn (Blueprint $table) => $table->dropColumn('facts'));
    }
};
