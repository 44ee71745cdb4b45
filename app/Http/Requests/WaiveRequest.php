<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/**
 * Findings that are accepted.
 */
final class WaiveRequest extends FormRequest
{
    /**
     * @return array<string, list<mixed>>
     */
    public function rules(): array
    {
        return ['findings' => ['required', 'array', 'min:1', 'max:2000'], 'findings.*' => ['required', 'integer', 'distinct', 'min:1'], 'reason' => ['required', 'string', 'max:1000', 'regex:/\S/u'], 'until' => ['bail', 'nullable', 'string', 'date_format:Y-m-d', 'after_or_equal:today', 'before:2100-01-01']];
    }

    /**
     * @return array<string, string>
     */
    public function messages(): array
    {
        return ['findings.required' => 'choose a finding', 'reason.required' => 'say why it is accepted', 'reason.regex' => 'say why it is accepted', 'reason.max' => 'a reason has at most 1,000 letters', 'until.string' => 'give a day such as 2026-12-24', 'until.date_format' => 'give a day such as 2026-12-24', 'until.after_or_equal' => 'the last day is over already'];
    }

    /**
     * @return list<int>
     */
    public function findings(): array
    {
        return array_map(intval(...), array_values(array_filter($this->array('findings'), is_numeric(...))));
    }

    public function reason(): string
    {
        return trim($this->string('reason')->toString());
    }

    public function until(): ?string
    {
        $until = $this->input('until');

        return is_string($until) && $until !== '' ? $until : null;
    }
}
