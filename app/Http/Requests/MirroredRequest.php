<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/**
 * A UV island that may lie on others, or no more.
 */
final class MirroredRequest extends FormRequest
{
    /**
     * @return array<string, list<string>>
     */
    public function rules(): array
    {
        return ['part' => ['required', 'string', 'max:255'], 'island' => ['required', 'string', 'regex:/^[0-9a-f]{8}$/'], 'mirrored' => ['required', 'boolean']];
    }

    public function part(): string
    {
        return $this->string('part')->toString();
    }

    public function island(): string
    {
        return $this->string('island')->toString();
    }
}
