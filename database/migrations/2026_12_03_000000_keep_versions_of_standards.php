<?php

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('standard_versions', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('standard_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('version');
            $table->string('name');
            $table->longText('rules');
            $table->string('changed_by');
            // What it was changed for, in the words of who did.
            $table->text('reason')->nullable();
            $table->timestamp('created_at')->useCurrent();
            $table->unique(['standard_id', 'version']);
        });
        foreach (DB::table('standards')->get(['id', 'version', 'name', 'rules', 'changed_by']) as $row) {
            DB::table('standard_versions')->insert(['standard_id' => $row->id, 'version' => $row->version, 'name' => $row->name, 'rules' => $row->rules, 'changed_by' => $row->changed_by]);
        }
        // What each check measured on a delivery, to be held against other limits in a moment.
        Schema::create('limit_values', function (Blueprint $table): void {
            $table->foreignId('delivery_id')->primary()->constrained()->cascadeOnDelete();
            $table->longText('kept');
        });
        // What a delivery was judged of, and a package sealed of: files, choices, standard.
        Schema::table('deliveries', fn (Blueprint $table) => $table->char('judged_of', 64)->nullable());
        Schema::table('packages', function (Blueprint $table): void {
            $table->char('sealed_of', 64)->nullable();
            $table->json('with')->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('packages', fn (Blueprint $table) => $table->dropColumn(['sealed_of', 'with']));
        Schema::table('deliveries', fn (Blueprint $table) => $table->dropColumn('judged_of'));
        Schema::dropIfExists('limit_values');
        Schema::dropIfExists('standard_versions');
    }
};
