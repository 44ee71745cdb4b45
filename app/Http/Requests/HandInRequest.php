<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Models\Asset;
use Illuminate\Foundation\Http\FormRequest;

/** Files that are handed in. */
final class HandInRequest extends FormRequest
{
    /**
     * @return array<string, mixed>
     */
    public function rules(): array
    {
        return [
            'uploads' => ['required', 'array', 'min:1', 'max:'.config()->integer('anvil.most_files')],
            'uploads.*' => ['required', 'uuid', 'distinct'],
            'assetId' => ['nullable', 'integer', 'exists:assets,id'],
            'asNew' => ['nullable', 'boolean'],
            'once' => ['nullable', 'boolean'],
        ];
    }

    /**
     * @return list<string> ids of uploads, in the order in which they are handed in
     */
    public function uploads(): array
    {
        return array_values(array_filter($this->array('uploads'), is_string(...)));
    }

    /** The asset that they are for; null where their names tell. */
    public function asset(): ?Asset
    {
        return $this->filled('assetId') ? Asset::query()->find($this->integer('assetId')) : null;
    }
}
