<?php

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // When its machine last said that it is there.
        Schema::table('workers', fn (Blueprint $table) => $table->timestamp('seen_at')->useCurrent()->after('last_words'));
    }

    public function down(): void
    {
        Schema::table('workers', fn (Blueprint $table) => $table->dropColumn('seen_at'));
    }
};
