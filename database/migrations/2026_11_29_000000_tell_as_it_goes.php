<?php

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // What a finding is about, so that it stays the same row while a delivery is judged again and again.
        Schema::table('findings', function (Blueprint $table): void {
            $table->char('key', 40)->charset('ascii')->collation('ascii_bin')->nullable();
            $table->unsignedInteger('cause')->nullable();
        });
        Schema::table('deliveries', function (Blueprint $table): void {
            $table->unsignedInteger('judged')->default(0);
            $table->timestamp('judge_after', 3)->nullable();
            $table->string('waits_for', 8)->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('findings', fn (Blueprint $table) => $table->dropColumn(['key', 'cause']));
        Schema::table('deliveries', fn (Blueprint $table) => $table->dropColumn(['judged', 'judge_after', 'waits_for']));
    }
};
