<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** What is looked for. */
final class SearchRequest extends FormRequest
{
    /**
     * @return array<string, mixed>
     */
    public function rules(): array
    {
        return ['find' => ['required', 'string', 'max:200'], 'delivery' => ['nullable', 'integer', 'min:0']];
    }
}
