<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/**
 * Whose password is forgotten.
 */
final class ForgotRequest extends FormRequest
{
    /**
     * @return array<string, list<mixed>>
     */
    public function rules(): array
    {
        return ['email' => ['required', 'string', 'max:191']];
    }

    /**
     * @return array<string, string>
     */
    public function messages(): array
    {
        return ['email.required' => 'give your e-mail'];
    }

    public function email(): string
    {
        return mb_strtolower(trim($this->string('email')->toString()));
    }
}
