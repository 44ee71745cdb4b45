<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Anvil\Checks\Catalogue;
use Anvil\Standard\Standard as Rules;
use Anvil\Unreadable;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\ValidationException;

/**
 * Rules, as the standard's file has them.
 */
final class StandardRequest extends FormRequest
{
    /**
     * @return array<string, mixed>
     */
    public function rules(): array
    {
        return [
            'rules' => ['required', 'string', 'max:200000'],
            'version' => ['integer', 'min:1'],
            'reason' => ['nullable', 'string', 'max:500'],
            'recheck' => ['boolean'],
            'after' => ['integer', 'min:0'],
        ];
    }

    /**
     * @throws ValidationException that names the key where these are none
     */
    public function standard(): Rules
    {
        try {
            $rules = Catalogue::standard($this->string('rules')->toString());
        } catch (Unreadable $error) {
            throw ValidationException::withMessages(['rules' => 'this is no standard: '.$error->getMessage()]);
        }
        if (trim($rules->name) === '' || mb_strlen($rules->name) > 190) {
            throw ValidationException::withMessages(['rules' => 'give the standard a name of at most 190 letters']);
        }

        return $rules;
    }

    public function reason(): ?string
    {
        $reason = trim($this->string('reason')->toString());

        return $reason === '' ? null : $reason;
    }
}
