<?php

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('deliveries', function (Blueprint $table): void {
            // What is done now, and the how-manieth time it was begun: a job of an earlier run does nothing.
            $table->string('step', 8)->nullable()->after('state');
            $table->unsignedInteger('run')->default(1)->after('step');
            $table->dropColumn('batch_id');
        });
        DB::table('deliveries')->whereIn('state', ['queued', 'reading'])->update(['state' => 'reading', 'step' => 'read']);
        DB::table('deliveries')->where('state', 'measuring')->update(['step' => 'pair']);
        DB::table('deliveries')->where('state', 'checking')->update(['step' => 'check']);
        DB::table('jobs')->delete();
        Schema::dropIfExists('job_batches');
        Schema::dropIfExists('workers');
        Schema::create('workers', function (Blueprint $table): void {
            $table->id();
            $table->string('machine', 64);
            $table->unsignedInteger('pid');
            // Boot and start time: a number that went to another program is told apart.
            $table->string('born', 96);
            $table->unsignedBigInteger('job_id')->nullable();
            $table->string('step', 64)->nullable();
            $table->text('last_words')->nullable();
            $table->timestamps();
            $table->unique(['machine', 'pid', 'born']);
        });
        Schema::create('stopped_steps', function (Blueprint $table): void {
            $table->string('step', 64)->primary();
            $table->unsignedInteger('times');
            $table->timestamps();
        });
        // Names are kept whole and compared byte for byte: a blank at the end counts.
        Schema::table('files', function (Blueprint $table): void {
            $table->index('delivery_id');
            $table->dropUnique(['delivery_id', 'name']);
        });
        Schema::table('sets', function (Blueprint $table): void {
            $table->index('delivery_id');
            $table->dropUnique(['delivery_id', 'name']);
        });
        foreach (['files' => 'name', 'sets' => 'name', 'uploads' => 'name', 'parts' => 'name'] as $table => $column) {
            DB::statement("ALTER TABLE `$table` MODIFY `$column` TEXT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL");
        }
        DB::statement('ALTER TABLE `assets` MODIFY `key` VARCHAR(255) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL');
        DB::statement('ALTER TABLE `deliveries` MODIFY `made_by_words` TEXT NULL');
    }

    public function down(): void
    {
        Schema::dropIfExists('stopped_steps');
        Schema::table('deliveries', function (Blueprint $table): void {
            $table->dropColumn(['step', 'run']);
            $table->string('batch_id')->nullable();
        });
    }
};
