<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/**
 * What signing in takes.
 */
final class SignInRequest extends FormRequest
{
    /**
     * @return array<string, list<mixed>>
     */
    public function rules(): array
    {
        return ['email' => ['required', 'string', 'max:191'], 'password' => ['required', 'string', 'max:200']];
    }

    /**
     * @return array<string, string>
     */
    public function messages(): array
    {
        return ['email.required' => 'give your e-mail', 'password.required' => 'give your password'];
    }

    public function email(): string
    {
        return mb_strtolower(trim($this->string('email')->toString()));
    }
}
