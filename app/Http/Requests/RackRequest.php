<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** A page of the rack. */
final class RackRequest extends FormRequest
{
    /**
     * @return array<string, mixed>
     */
    public function rules(): array
    {
        return [
            'page' => ['nullable', 'integer', 'min:1', 'max:100000'],
            'find' => ['nullable', 'string', 'max:200'],
            'verdict' => ['nullable', 'in:all,blocked,ready'],
        ];
    }
}
