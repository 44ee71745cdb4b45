<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/**
 * A new password in the place of the present one.
 */
final class PasswordRequest extends FormRequest
{
    /**
     * @return array<string, list<mixed>>
     */
    public function rules(): array
    {
        return ['current' => ['required', 'string', 'max:200'], 'password' => GoodPassword::rules(), 'endTokens' => ['boolean']];
    }

    /**
     * @return array<string, string>
     */
    public function messages(): array
    {
        return ['current.required' => 'give your present password', 'password.required' => 'give a new password'];
    }
}
