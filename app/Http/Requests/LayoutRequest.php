<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** How sets are moved apart. */
final class LayoutRequest extends FormRequest
{
    /**
     * @return array<string, mixed>
     */
    public function rules(): array
    {
        return [
            'clearance' => ['present', 'nullable', 'numeric', 'min:0', 'max:1e30'],
            'all' => ['required', 'boolean'],
        ];
    }

    /**
     * @return array{clearance: float|null, all: bool} gap between boxes in file units; null: the usual one
     */
    public function layout(): array
    {
        return ['clearance' => $this->filled('clearance') ? $this->float('clearance') : null, 'all' => $this->boolean('all')];
    }
}
