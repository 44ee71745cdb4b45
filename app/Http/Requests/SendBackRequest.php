<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/**
 * Causes that go back to an artist.
 */
final class SendBackRequest extends FormRequest
{
    /**
     * @return array<string, list<mixed>>
     */
    public function rules(): array
    {
        return ['causes' => ['required', 'array', 'min:1', 'max:500'], 'causes.*' => ['required', 'integer', 'distinct', 'min:0'], 'to' => ['required', 'integer', 'min:1'], 'note' => ['nullable', 'string', 'max:2000']];
    }

    /**
     * @return array<string, string>
     */
    public function messages(): array
    {
        return ['causes.required' => 'tick what is to be mended', 'to.required' => 'say who is to mend it', 'note.max' => 'a note has at most 2,000 letters'];
    }

    /**
     * @return list<int>
     */
    public function causes(): array
    {
        return array_map(intval(...), array_values(array_filter($this->array('causes'), is_numeric(...))));
    }

    public function note(): ?string
    {
        $note = trim($this->string('note')->toString());

        return $note === '' ? null : $note;
    }
}
