<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/**
 * How somebody is called.
 */
final class AccountRequest extends FormRequest
{
    /**
     * @return array<string, list<mixed>>
     */
    public function rules(): array
    {
        return ['name' => ['required', 'string', 'max:80', 'regex:/^\P{C}*[^\p{C}\p{Z}]\P{C}*$/u']];
    }

    /**
     * @return array<string, string>
     */
    public function messages(): array
    {
        return ['name.required' => 'give a name', 'name.max' => 'a name has at most 80 letters', 'name.regex' => 'a name has no line breaks or other control characters'];
    }

    public function name(): string
    {
        return trim($this->string('name')->toString());
    }
}
