<?php

declare(strict_types=1);

namespace App\Models;

use App\People\Leave;
use App\People\Letters;
use App\People\Standing;
use Database\Factories\PersonFactory;
use Illuminate\Database\Eloquent\Factories\HasFactory;
use Illuminate\Foundation\Auth\User;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Laravel\Sanctum\HasApiTokens;
use Laravel\Sanctum\PersonalAccessToken;

/**
 * Somebody who works here.
 *
 * @property int $id
 * @property string $name
 * @property string $email
 * @property string|null $password hashed; none until the link that was sent is followed
 * @property Standing $role
 * @property bool $is_demo of the made-up crew
 * @property Carbon|null $signed_in_at
 * @property Carbon|null $disabled_at
 * @property Carbon $created_at
 */
final class Person extends User
{
    /** @use HasApiTokens<PersonalAccessToken> */
    use HasApiTokens;

    /** @use HasFactory<PersonFactory> */
    use HasFactory;

    protected $guarded = [];

    protected $attributes = ['is_demo' => false];

    protected $hidden = ['password', 'remember_token'];

    /**
     * @return array<string, string>
     */
    protected function casts(): array
    {
        return ['password' => 'hashed', 'role' => Standing::class, 'is_demo' => 'boolean', 'signed_in_at' => 'datetime', 'disabled_at' => 'datetime'];
    }

    /** By what they are, and by what the token was made for where a program asks. */
    public function may(Leave $leave): bool
    {
        /** @var mixed $token */
        $token = $this->currentAccessToken();
        $scoped = ! $token instanceof PersonalAccessToken || ($leave->scope() !== null && $token->can($leave->scope()));

        return $this->disabled_at === null && $scoped && in_array($leave, $this->role->leaves(), true);
    }

    /** Ends all links that set a password of theirs, also those to an address that they had until now. */
    public function endLinks(string ...$addresses): void
    {
        foreach (['password_reset_tokens', 'invite_tokens'] as $table) {
            DB::table($table)->whereIn('email', [$this->email, ...$addresses])->delete();
        }
    }

    /** The name of the token that asks, where a program does. */
    public function via(): ?string
    {
        /** @var mixed $token */
        $token = $this->currentAccessToken();

        return $token instanceof PersonalAccessToken ? $token->name : null;
    }

    /**
     * @param  string  $token
     */
    public function sendPasswordResetNotification($token): void
    {
        Letters::reset($this, $token);
    }
}
