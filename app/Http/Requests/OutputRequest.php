<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Deliveries\WrittenIds;
use Illuminate\Foundation\Http\FormRequest;

/** Files that are to be made of a delivery; of IDs, onto what and as what. */
final class OutputRequest extends FormRequest
{
    /**
     * @return array<string, mixed>
     */
    public function rules(): array
    {
        return [
            'kind' => ['required', 'in:exploded,ids,cage'],
            'onto' => ['sometimes', 'in:copy,high'],
            'as' => ['sometimes', 'in:materials,vertex-colors'],
        ];
    }

    public function ids(): WrittenIds
    {
        return WrittenIds::of($this->only(['onto', 'as']));
    }
}
