<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\People\Standing;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Rule;

/**
 * Somebody who is invited, or what somebody is from now on.
 */
final class PersonRequest extends FormRequest
{
    /**
     * @return array<string, list<mixed>>
     */
    public function rules(): array
    {
        return [...($this->isMethod('POST') ? ['name' => ['required', 'string', 'max:80', 'regex:/^\P{C}*[^\p{C}\p{Z}]\P{C}*$/u'], 'email' => ['required', 'string', 'email:rfc', 'max:191']] : ['lockedOut' => ['required', 'boolean']]), 'role' => ['required', Rule::enum(Standing::class)]];
    }

    /**
     * @return array<string, string>
     */
    public function messages(): array
    {
        return ['name.required' => 'give a name', 'name.max' => 'a name has at most 80 letters', 'name.regex' => 'a name has no line breaks or other control characters', 'email.required' => 'give an e-mail address', 'email.email' => 'that is no e-mail address', 'role.required' => 'say what they are'];
    }

    public function name(): string
    {
        return trim($this->string('name')->toString());
    }

    public function email(): string
    {
        return mb_strtolower(trim($this->string('email')->toString()));
    }

    public function role(): Standing
    {
        return Standing::from($this->string('role')->toString());
    }
}
