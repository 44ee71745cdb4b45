<?php

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('people', function (Blueprint $table): void {
            $table->id();
            $table->string('name');
            $table->string('email', 191)->unique();
            // None until the person has followed the link that was sent.
            $table->string('password')->nullable();
            $table->string('role', 24);
            $table->rememberToken();
            $table->boolean('is_demo')->default(false);
            $table->timestamp('signed_in_at')->nullable();
            $table->timestamp('disabled_at')->nullable();
            $table->timestamps();
        });
        Schema::create('sessions', function (Blueprint $table): void {
            $table->string('id')->primary();
            $table->foreignId('user_id')->nullable()->index();
            $table->string('ip_address', 45)->nullable();
            $table->text('user_agent')->nullable();
            $table->longText('payload');
            $table->integer('last_activity')->index();
        });
        foreach (['password_reset_tokens', 'invite_tokens'] as $tokens) {
            Schema::create($tokens, function (Blueprint $table): void {
                $table->string('email', 191)->primary();
                $table->string('token');
                $table->timestamp('created_at')->nullable();
            });
        }
        Schema::create('personal_access_tokens', function (Blueprint $table): void {
            $table->id();
            $table->morphs('tokenable');
            $table->string('name');
            $table->string('token', 64)->unique();
            $table->text('abilities')->nullable();
            $table->timestamp('last_used_at')->nullable();
            $table->timestamp('expires_at')->nullable()->index();
            $table->timestamps();
        });
        // Mail that no server was there to take.
        Schema::create('letters', function (Blueprint $table): void {
            $table->id();
            $table->string('to', 191)->index();
            $table->string('subject');
            $table->longText('text');
            $table->timestamp('read_at')->nullable();
            $table->timestamps();
        });
        Schema::create('events', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('asset_id')->nullable()->constrained()->nullOnDelete();
            $table->unsignedInteger('delivery')->nullable();
            $table->foreignId('person_id')->nullable()->constrained('people')->nullOnDelete();
            $table->string('who');
            // The name of the token that did it, where it was a program.
            $table->string('via')->nullable();
            $table->text('words');
            $table->timestamp('created_at')->useCurrent()->index();
        });
        Schema::create('waivers', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('asset_id')->constrained()->cascadeOnDelete();
            $table->foreignId('delivery_id')->nullable()->constrained()->nullOnDelete();
            $table->string('code', 32);
            $table->json('subject');
            $table->json('measure')->nullable();
            $table->text('message');
            $table->text('reason');
            $table->date('until')->nullable();
            $table->foreignId('person_id')->nullable()->constrained('people')->nullOnDelete();
            $table->string('by');
            $table->timestamp('withdrawn_at')->nullable();
            $table->string('withdrawn_by')->nullable();
            // Its last day is over, and what it held was judged again.
            $table->timestamp('ended_at')->nullable();
            $table->timestamps();
        });
        Schema::create('fix_lists', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('asset_id')->constrained()->cascadeOnDelete();
            $table->foreignId('delivery_id')->constrained()->cascadeOnDelete();
            $table->foreignId('person_id')->nullable()->constrained('people')->nullOnDelete();
            $table->string('to');
            $table->string('by');
            $table->text('note')->nullable();
            $table->json('causes');
            $table->timestamps();
        });
        // What a delivery is held against; chosen when it is paired, so that one answer does not change under the other.
        Schema::table('deliveries', fn (Blueprint $table) => $table->foreignId('compared_to')->nullable()->constrained('deliveries')->nullOnDelete());
        Schema::table('uploads', fn (Blueprint $table) => $table->foreignId('person_id')->nullable()->constrained('people')->nullOnDelete());
    }

    public function down(): void
    {
        Schema::table('uploads', fn (Blueprint $table) => $table->dropConstrainedForeignId('person_id'));
        Schema::table('deliveries', fn (Blueprint $table) => $table->dropConstrainedForeignId('compared_to'));
        foreach (['fix_lists', 'waivers', 'events', 'letters', 'personal_access_tokens', 'invite_tokens', 'password_reset_tokens', 'sessions', 'people'] as $table) {
            Schema::dropIfExists($table);
        }
    }
};
