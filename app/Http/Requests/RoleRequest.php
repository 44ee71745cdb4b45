<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Anvil\Standard\Role;
use Illuminate\Foundation\Http\FormRequest;

/** The role that a file is given; none where names are to tell. */
final class RoleRequest extends FormRequest
{
    /**
     * @return array<string, mixed>
     */
    public function rules(): array
    {
        return [
            'role' => ['nullable', 'string', 'in:low,high,id,cage,pose'],
        ];
    }

    public function role(): ?Role
    {
        return $this->filled('role') ? Role::from($this->string('role')->toString()) : null;
    }
}
