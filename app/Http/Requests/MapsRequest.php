<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/**
 * Maps that came back from a baker, uploaded already; of what kind and page, where their names do not tell.
 */
final class MapsRequest extends FormRequest
{
    /**
     * @return array<string, list<string>>
     */
    public function rules(): array
    {
        return ['uploads' => ['required', 'array', 'min:1', 'max:200'], 'uploads.*' => ['required', 'string', 'max:64'], 'kind' => ['sometimes', 'in:normal,ao,id,height'], 'page' => ['sometimes', 'string', 'max:255']];
    }

    /**
     * @return list<string>
     */
    public function uploads(): array
    {
        return array_values(array_filter((array) $this->input('uploads'), is_string(...)));
    }

    public function kind(): ?string
    {
        return $this->has('kind') ? $this->string('kind')->toString() : null;
    }

    public function page(): ?string
    {
        return $this->has('page') ? $this->string('page')->toString() : null;
    }
}
