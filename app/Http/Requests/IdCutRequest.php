<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Anvil\ColorId\By;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Rule;

/** How the high poly is cut into pieces that IDs are given to. */
final class IdCutRequest extends FormRequest
{
    /**
     * @return array<string, mixed>
     */
    public function rules(): array
    {
        return [
            'by' => ['required', Rule::enum(By::class)],
            'angle' => ['required', 'numeric', 'gt:0', 'lt:180'],
        ];
    }

    /**
     * @return array{by: string, angle: float}
     */
    public function cut(): array
    {
        return ['by' => $this->string('by')->toString(), 'angle' => $this->float('angle')];
    }
}
