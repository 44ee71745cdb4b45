<?php

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('standards', function (Blueprint $table): void {
            $table->id();
            $table->string('name');
            $table->longText('rules');
            $table->unsignedInteger('version')->default(1);
            $table->string('changed_by');
            $table->timestamps();
        });
        Schema::create('assets', function (Blueprint $table): void {
            $table->id();
            $table->string('name');
            $table->string('key')->unique();
            $table->foreignId('standard_id')->constrained();
            $table->json('choices');
            $table->string('changed_by');
            $table->timestamps();
        });
        Schema::create('deliveries', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('asset_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('number');
            $table->foreignId('derived_from')->nullable()->constrained('deliveries')->nullOnDelete();
            $table->string('made_by_words')->nullable();
            $table->string('state', 16)->default('queued');
            $table->text('error')->nullable();
            $table->string('verdict', 16)->nullable();
            $table->unsignedInteger('blockers')->default(0);
            $table->unsignedInteger('cautions')->default(0);
            $table->unsignedInteger('notes')->default(0);
            $table->longText('report')->nullable();
            $table->string('core_version', 16)->nullable();
            $table->unsignedInteger('standard_version')->nullable();
            $table->string('batch_id')->nullable();
            $table->string('handed_in_by');
            $table->timestamp('checked_at')->nullable();
            $table->timestamps();
            $table->unique(['asset_id', 'number']);
        });
        Schema::create('files', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('delivery_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('position');
            $table->string('name');
            $table->string('path');
            $table->string('kind', 8);
            $table->string('role', 8)->nullable();
            $table->unsignedBigInteger('bytes');
            $table->string('state', 16)->default('waiting');
            $table->text('error')->nullable();
            $table->unsignedInteger('error_line')->nullable();
            $table->unsignedBigInteger('error_offset')->nullable();
            $table->string('sha256', 64)->nullable();
            $table->string('format', 8)->nullable();
            $table->string('unit', 8)->nullable();
            $table->string('up_axis', 4)->nullable();
            $table->json('remarks')->nullable();
            $table->timestamps();
            $table->unique(['delivery_id', 'name']);
        });
        Schema::create('parts', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('delivery_id')->constrained()->cascadeOnDelete();
            $table->foreignId('file_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('position');
            $table->text('name');
            $table->string('store');
            $table->unsignedInteger('triangles');
            $table->unsignedInteger('vertices');
            $table->json('bounds')->nullable();
            $table->json('materials');
            $table->json('colors');
            $table->boolean('has_normals');
            $table->boolean('has_uvs');
        });
        Schema::create('sets', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('delivery_id')->constrained()->cascadeOnDelete();
            $table->string('name');
            $table->string('state', 16)->default('waiting');
            $table->text('error')->nullable();
            $table->unsignedInteger('samples');
            $table->longText('clearance')->nullable();
            $table->timestamps();
            $table->unique(['delivery_id', 'name']);
        });
        Schema::create('findings', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('delivery_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('position');
            $table->string('code', 32);
            $table->string('station', 16);
            $table->string('severity', 8);
            $table->text('message');
            $table->text('remedy');
            $table->json('subject');
            $table->json('measure')->nullable();
            $table->unsignedInteger('texels')->nullable();
            $table->unsignedInteger('count')->nullable();
            $table->json('where');
            $table->boolean('waived')->default(false);
        });
        Schema::create('outputs', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('delivery_id')->constrained()->cascadeOnDelete();
            $table->string('kind', 16);
            $table->string('state', 16)->default('waiting');
            $table->text('error')->nullable();
            $table->json('detail')->nullable();
            $table->string('name')->nullable();
            $table->string('path')->nullable();
            $table->unsignedBigInteger('bytes')->nullable();
            $table->string('sha256', 64)->nullable();
            $table->string('made_by');
            $table->timestamps();
        });
        Schema::create('packages', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('delivery_id')->constrained()->cascadeOnDelete();
            $table->string('state', 16)->default('waiting');
            $table->text('error')->nullable();
            $table->string('name')->nullable();
            $table->string('path')->nullable();
            $table->unsignedBigInteger('bytes')->nullable();
            $table->string('sha256', 64)->nullable();
            $table->string('sealed_by');
            $table->timestamps();
        });
        Schema::create('uploads', function (Blueprint $table): void {
            $table->uuid('id')->primary();
            $table->string('name');
            $table->unsignedBigInteger('bytes');
            $table->unsignedBigInteger('received')->default(0);
            $table->string('uploaded_by');
            $table->timestamps();
        });
        Schema::create('workers', function (Blueprint $table): void {
            $table->id();
            $table->string('host');
            $table->unsignedInteger('pid');
            $table->unsignedBigInteger('job_id')->nullable();
            $table->timestamps();
            $table->unique(['host', 'pid']);
        });
    }

    public function down(): void
    {
        foreach (['workers', 'uploads', 'packages', 'outputs', 'findings', 'sets', 'parts', 'files', 'deliveries', 'assets', 'standards'] as $table) {
            Schema::dropIfExists($table);
        }
    }
};
