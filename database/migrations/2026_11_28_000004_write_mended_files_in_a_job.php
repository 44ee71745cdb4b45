<?php

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // What a derived delivery changes in the files of the one that it is made from.
        Schema::table('deliveries', fn (Blueprint $table) => $table->longText('changes')->nullable()->after('made_by_words'));
    }

    public function down(): void
    {
        Schema::table('deliveries', fn (Blueprint $table) => $table->dropColumn('changes'));
    }
};
