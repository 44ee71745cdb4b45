<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Anvil\ColorId\IdSheet;
use Anvil\Unreadable;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\ValidationException;

/** What was decided about IDs: to be kept as it is, or with its colors spread anew. */
final class IdSheetRequest extends FormRequest
{
    /**
     * @return array<string, mixed>
     */
    public function rules(): array
    {
        return [
            'cut' => ['required', 'integer'],
            'act' => ['required', 'in:spread,keep'],
            'allEyes' => ['required', 'boolean'],
            'pins' => ['present', 'array', 'max:200'],
            'pins.*' => ['string', 'max:7'],
            'ids' => ['present', 'array', 'max:500'],
            'ids.*.name' => ['required', 'string', 'max:500'],
            'ids.*.hex' => ['present', 'nullable', 'string', 'max:7'],
            'ids.*.pinned' => ['required', 'boolean'],
            'ids.*.pieces' => ['present', 'array', 'max:20000'],
            'ids.*.pieces.*' => ['string', 'max:600'],
        ];
    }

    /** @throws ValidationException that names what is wrong */
    public function sheet(): IdSheet
    {
        /** @var array{allEyes: bool, pins: array<string, string>, ids: list<array<string, mixed>>} $given */
        $given = $this->safe(['allEyes', 'pins', 'ids']);
        try {
            $sheet = IdSheet::ofJson(json_encode([...$given, 'pins' => (object) $given['pins']], JSON_THROW_ON_ERROR));
        } catch (Unreadable $error) {
            throw ValidationException::withMessages(['ids' => $error->getMessage()]);
        }

        return $this->string('act')->toString() === 'spread' ? $sheet->spread() : $sheet;
    }
}
