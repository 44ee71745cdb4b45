<?php

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // What was measured, once for all deliveries and assets, by the hash of all that it depends on.
        Schema::create('measures', function (Blueprint $table): void {
            $table->char('key', 64)->charset('ascii')->collation('ascii_bin')->primary();
            $table->string('measure', 32);
            $table->longText('stored');
            $table->longText('names')->nullable();
            $table->timestamp('kept_at')->useCurrent()->index();
        });
        // What is to be measured of a delivery, and under which key it lies.
        Schema::create('tasks', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('delivery_id')->constrained()->cascadeOnDelete();
            $table->unsignedTinyInteger('wave');
            $table->unsignedInteger('bundle');
            $table->string('measure', 32);
            $table->text('subject');
            $table->string('state', 16)->default('waiting');
            $table->char('key', 64)->charset('ascii')->collation('ascii_bin')->nullable()->index();
            $table->boolean('reused')->default(false);
            $table->index(['delivery_id', 'state', 'wave']);
        });
        DB::statement('ALTER TABLE `tasks` MODIFY `subject` TEXT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL');
        Schema::table('sets', function (Blueprint $table): void {
            $table->dropColumn(['clearance', 'inputs', 'seen', 'samples']);
            $table->char('key', 64)->charset('ascii')->collation('ascii_bin')->nullable();
        });
        Schema::table('deliveries', fn (Blueprint $table) => $table->unsignedTinyInteger('wave')->default(0)->after('step'));
        // What was measured before is measured again: of each asset's newest delivery at once, of others when somebody checks them again.
        DB::table('deliveries')->whereIn('step', ['measure', 'check'])->update(['step' => 'pair', 'state' => 'measuring']);
        DB::table('sets')->where('state', 'done')->update(['state' => 'failed', 'error' => 'measured by an earlier version; check the delivery again']);
        DB::update("update deliveries d join (select max(id) as id from deliveries group by asset_id) newest on newest.id = d.id set d.state = 'measuring', d.step = 'pair', d.run = d.run + 1 where d.state = 'done'");
        DB::table('jobs')->delete();
    }

    public function down(): void
    {
        Schema::table('deliveries', fn (Blueprint $table) => $table->dropColumn('wave'));
        Schema::table('sets', function (Blueprint $table): void {
            $table->dropColumn('key');
            $table->longText('clearance')->nullable();
            $table->string('inputs', 64)->nullable()->index();
            $table->string('seen', 64)->nullable();
            $table->unsignedInteger('samples')->default(0);
        });
        Schema::dropIfExists('tasks');
        Schema::dropIfExists('measures');
    }
};
