<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Anvil\Standard\Choices;
use Anvil\Unreadable;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\ValidationException;

/** The board of sets. */
final class BoardRequest extends FormRequest
{
    /**
     * @return array<string, mixed>
     */
    public function rules(): array
    {
        return [
            'sets' => ['present', 'array', 'max:5000'],
            'sets.*.name' => ['required', 'string', 'max:200', 'distinct'],
            'sets.*.patterns' => ['required', 'array', 'max:5000'],
            'sets.*.patterns.*' => ['required', 'string', 'max:300'],
            'leftOut' => ['present', 'array'],
            'leftOut.*' => ['string', 'max:300'],
            'bakedOnItself' => ['present', 'array'],
            'bakedOnItself.*' => ['string', 'max:300'],
            'detachable' => ['present', 'array'],
            'detachable.*' => ['string', 'max:200'],
            'occlusion' => ['required', 'in:own,all,named'],
            'shading' => ['present', 'array', 'max:5000'],
            'shading.*.name' => ['required', 'string', 'max:200', 'distinct'],
            'shading.*.patterns' => ['present', 'array', 'max:5000'],
            'shading.*.patterns.*' => ['string', 'max:200'],
        ];
    }

    /**
     * As the file of choices has them.
     *
     * @return array<string, mixed>
     *
     * @throws ValidationException where these are none
     */
    public function choices(): array
    {
        $occlusion = $this->string('occlusion')->toString();
        $choices = [
            'occlusion' => $occlusion === 'named' ? (object) $this->byName('shading') : $occlusion, 'sets' => (object) $this->byName('sets'),
            'leftOut' => $this->array('leftOut'), 'bakedOnItself' => $this->array('bakedOnItself'), 'detachable' => $this->array('detachable'),
        ];
        try {
            Choices::ofJson((string) json_encode($choices, JSON_THROW_ON_ERROR));
        } catch (Unreadable $error) {
            throw ValidationException::withMessages(['sets' => $error->getMessage()]);
        }

        return $choices;
    }

    /**
     * @return array<string, list<string>>
     */
    private function byName(string $key): array
    {
        /** @var list<array{name: string, patterns: list<string>}> $given */
        $given = $this->array($key);

        return array_map(array_values(...), array_column($given, 'patterns', 'name'));
    }
}
