<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Anvil\Handoff\Extra;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Rule;

/**
 * What goes along with a package.
 */
final class SealRequest extends FormRequest
{
    /**
     * @return array<string, mixed>
     */
    public function rules(): array
    {
        return ['with' => ['array', 'max:10'], 'with.*' => ['string', 'distinct', Rule::in(array_keys(Extra::KINDS))]];
    }

    /**
     * @return list<string> in a fixed order
     */
    public function kinds(): array
    {
        return array_values(array_intersect(array_keys(Extra::KINDS), array_filter($this->array('with'), is_string(...))));
    }
}
