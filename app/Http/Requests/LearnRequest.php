<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/**
 * Assets that are known to be good.
 */
final class LearnRequest extends FormRequest
{
    /**
     * @return array<string, mixed>
     */
    public function rules(): array
    {
        return ['assets' => ['required', 'array', 'min:1', 'max:1000'], 'assets.*' => ['integer', 'distinct']];
    }

    /**
     * @return list<int>
     */
    public function assets(): array
    {
        return array_values(array_filter($this->array('assets'), is_int(...)));
    }
}
