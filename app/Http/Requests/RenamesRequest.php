<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** A plan of names, and a tool on top of it. */
final class RenamesRequest extends FormRequest
{
    private const TOOLS = ['suggested', 'replace', 'add-suffix', 'change-suffix', 'number', 'case', 'follow', 'copy'];

    /**
     * @return array<string, mixed>
     */
    public function rules(): array
    {
        return [
            'renames' => ['present', 'array', 'max:20000'],
            'renames.*.fileId' => ['required', 'integer'],
            'renames.*.from' => ['required', 'string'],
            'renames.*.to' => ['required', 'string', 'max:255'],
            'tool' => ['nullable', 'array'],
            'tool.kind' => ['required_with:tool', 'in:'.implode(',', self::TOOLS)],
            'tool.role' => ['nullable', 'in:low,high,id,cage,pose'],
            'tool.to' => ['nullable', 'in:low,high,id,cage,pose'],
            'tool.find' => ['nullable', 'string', 'max:255'],
            'tool.replace' => ['nullable', 'string', 'max:255'],
            'tool.pattern' => ['nullable', 'string', 'max:255'],
            'tool.first' => ['nullable', 'integer', 'min:0', 'max:1000000'],
            'tool.upper' => ['nullable', 'boolean'],
        ];
    }

    /**
     * @param  array<int, int>  $numbers  file → its number among the mesh files
     * @return array<int, array<string, array{string, string}>> file number → part → new name, reason
     */
    public function renames(array $numbers): array
    {
        $out = [];
        /** @var list<array{fileId: int, from: string, to: string, reason?: mixed}> $rows */
        $rows = $this->array('renames');
        foreach ($rows as $row) {
            if (isset($numbers[$row['fileId']])) {
                $out[$numbers[$row['fileId']]][$row['from']] = [$row['to'], is_string($row['reason'] ?? null) ? $row['reason'] : ''];
            }
        }

        return $out;
    }

    public function hasTool(): bool
    {
        return is_array($this->input('tool'));
    }
}
