<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('events', function (Blueprint $table): void {
            // What was decided, each with a space between: who decides the same on top of something older is told first. Null: nothing was decided.
            $table->text('area')->nullable();
            $table->index(['asset_id', 'id']);
        });
    }

    public function down(): void
    {
        Schema::table('events', function (Blueprint $table): void {
            $table->dropIndex(['asset_id', 'id']);
            $table->dropColumn('area');
        });
    }
};
