<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** The reach of a set, in file units; none where the standard or the recommendation is to hold. */
final class ReachRequest extends FormRequest
{
    /**
     * @return array<string, mixed>
     */
    public function rules(): array
    {
        return [
            'set' => ['required', 'string', 'max:200'],
            'out' => ['present', 'nullable', 'numeric', 'gt:0', 'max:1e30'],
            'in' => ['present', 'nullable', 'numeric', 'gt:0', 'max:1e30'],
        ];
    }

    /**
     * @return array{out: float|null, in: float|null}|null
     */
    public function reach(): ?array
    {
        $length = fn (string $side): ?float => $this->filled($side) ? $this->float($side) : null;
        $reach = ['out' => $length('out'), 'in' => $length('in')];

        return $reach['out'] === null && $reach['in'] === null ? null : $reach;
    }
}
