<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Models\Standard;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\ValidationException;

/**
 * The standard that an asset is to be held to.
 */
final class AssetStandardRequest extends FormRequest
{
    /**
     * @return array<string, mixed>
     */
    public function rules(): array
    {
        return ['standard' => ['required', 'integer']];
    }

    public function standard(): Standard
    {
        return Standard::query()->find($this->integer('standard')) ?? throw ValidationException::withMessages(['standard' => 'there is no such standard any more']);
    }
}
