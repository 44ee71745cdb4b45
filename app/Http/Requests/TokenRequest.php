<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/**
 * A token for a program.
 */
final class TokenRequest extends FormRequest
{
    /**
     * @return array<string, list<mixed>>
     */
    public function rules(): array
    {
        return ['name' => ['required', 'string', 'max:80', 'regex:/^\P{C}*[^\p{C}\p{Z}]\P{C}*$/u'], 'scopes' => ['required', 'array', 'min:1', 'max:3'], 'scopes.*' => ['required', 'string', 'distinct', 'in:read,hand-in,decide'], 'days' => ['nullable', 'integer', 'min:1', 'max:3650']];
    }

    /**
     * @return array<string, string>
     */
    public function messages(): array
    {
        return ['name.required' => 'give a name', 'name.max' => 'a name has at most 80 letters', 'name.regex' => 'a name has no line breaks or other control characters', 'scopes.required' => 'say what it is for', 'days.max' => 'at most ten years'];
    }

    public function name(): string
    {
        return trim($this->string('name')->toString());
    }

    /**
     * @return list<string>
     */
    public function scopes(): array
    {
        return array_values(array_filter($this->array('scopes'), is_string(...)));
    }

    public function days(): ?int
    {
        return $this->input('days') === null ? null : $this->integer('days');
    }
}
