<?php

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('deliveries', function (Blueprint $table): void {
            $table->foreignId('exploded_from')->nullable()->constrained('deliveries')->nullOnDelete();
        });
        Schema::table('assets', function (Blueprint $table): void {
            $table->json('explode')->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('deliveries', function (Blueprint $table): void {
            $table->dropConstrainedForeignId('exploded_from');
        });
        Schema::table('assets', fn (Blueprint $table) => $table->dropColumn('explode'));
    }
};
