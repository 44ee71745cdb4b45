<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\People\Owner;
use Illuminate\Foundation\Http\FormRequest;

/**
 * A new password, by a link.
 */
final class SetPasswordRequest extends FormRequest
{
    /**
     * @return array<string, list<mixed>>
     */
    public function rules(): array
    {
        return ['email' => ['required', 'string', 'max:191'], 'token' => ['required', 'string', 'max:200'], 'password' => GoodPassword::rules(), 'endTokens' => ['boolean'], 'invite' => ['boolean'], 'name' => ['nullable', 'string', 'max:80', 'regex:/^[^\p{C}]*$/u'], 'newEmail' => ['nullable', 'string', 'email:rfc', 'max:191', 'unique:people,email']];
    }

    /**
     * @return array<string, string>
     */
    public function messages(): array
    {
        return ['name.max' => 'a name has at most 80 letters', 'name.regex' => 'a name has no line breaks or other control characters', 'newEmail.email' => 'that is no e-mail address', 'newEmail.unique' => 'there is somebody with this e-mail already', 'password.required' => 'give a password'];
    }

    public function email(): string
    {
        return mb_strtolower(trim($this->string('email')->toString()));
    }

    /** Only the first person has none of their own yet. */
    public function newEmail(): ?string
    {
        $given = mb_strtolower(trim($this->string('newEmail')->toString()));

        return $given === '' || $this->email() !== Owner::EMAIL ? null : $given;
    }
}
