<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** What is done with a base: baked on itself, left out, or neither. */
final class ChoiceRequest extends FormRequest
{
    /**
     * @return array<string, mixed>
     */
    public function rules(): array
    {
        return [
            'base' => ['required', 'string', 'max:500'],
            'choice' => ['required', 'in:self,out,none'],
        ];
    }
}
