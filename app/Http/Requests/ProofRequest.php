<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Anvil\Proof\Through;
use Illuminate\Foundation\Http\FormRequest;

/**
 * A trial bake of the pages of a delivery.
 */
final class ProofRequest extends FormRequest
{
    /**
     * @return array<string, list<string>>
     */
    public function rules(): array
    {
        return [
            'size' => ['sometimes', 'integer', 'min:64', 'max:2048'], 'samples' => ['sometimes', 'integer', 'in:1,4'], 'through' => ['sometimes', 'in:in-use,reach,fitted'],
            'exploded' => ['sometimes', 'boolean'], 'page' => ['sometimes', 'string', 'max:1024'],
        ];
    }

    public function through(): Through
    {
        return Through::from($this->string('through', 'in-use')->toString());
    }
}
