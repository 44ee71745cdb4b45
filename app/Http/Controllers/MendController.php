<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Anvil\Asset\Asset;
use Anvil\Asset\RenamePlan;
use Anvil\Explode\ExplodedFiles;
use Anvil\Formats\Changes;
use Anvil\Formats\FormatCatalogue;
use Anvil\Geometry\Matrix;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\SuffixGuess;
use Anvil\Pairing\TieKind;
use Anvil\Place\PlaceMend;
use Anvil\Standard\Role;
use App\Deliveries\Derived;
use App\Deliveries\StoredDelivery;
use App\Deliveries\Turn;
use App\Http\Data\DeliveredData;
use App\Http\Data\FormatData;
use App\Http\Data\FormatsData;
use App\Http\Data\RenamePlanData;
use App\Http\Data\RenameRowData;
use App\Http\Data\RolePreviewData;
use App\Http\Requests\RenamesRequest;
use App\Http\Requests\RoleRequest;
use App\Models\Delivery;
use App\Models\File;
use App\Models\Part;
use App\Models\Standard;
use App\Models\State\DeliveryState;
use Illuminate\Http\JsonResponse;
use Illuminate\Validation\ValidationException;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\Response;

#[OA\Schema(schema: 'RenameTool', description: 'A tool of the rename plan, applied to the names that the plan gives.', required: ['kind'], properties: [
    new OA\Property(property: 'kind', type: 'string', enum: ['suggested', 'replace', 'add-suffix', 'change-suffix', 'number', 'case', 'follow', 'copy']),
    new OA\Property(property: 'role', description: 'whose parts; of follow and copy: whose names lead', type: 'string', nullable: true, enum: ['low', 'high', 'id', 'cage', 'pose']),
    new OA\Property(property: 'find', type: 'string', nullable: true), new OA\Property(property: 'replace', type: 'string', nullable: true), new OA\Property(property: 'pattern', type: 'string', nullable: true),
    new OA\Property(property: 'first', type: 'integer', nullable: true), new OA\Property(property: 'upper', type: 'boolean', nullable: true), new OA\Property(property: 'to', description: 'of copy: whose parts are renamed', type: 'string', nullable: true, enum: ['low', 'high', 'id', 'cage', 'pose']),
])]
/**
 * What can be mended in the files themselves: names, scale, turn; and what it would do, before it is done.
 */
final class MendController extends Controller
{
    /** What a plan of names would do: its rows, what stands in its way, and how many parts would pair. */
    #[OA\Post(path: '/api/deliveries/{delivery}/renames', operationId: 'renamePlan', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['renames'], properties: [
        new OA\Property(property: 'renames', type: 'array', items: new OA\Items(type: 'object', required: ['fileId', 'from', 'to'], properties: [new OA\Property(property: 'fileId', type: 'integer'), new OA\Property(property: 'from', type: 'string'), new OA\Property(property: 'to', type: 'string')])),
        new OA\Property(property: 'tool', nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/RenameTool')]),
    ])), responses: [new OA\Response(response: 200, description: 'The plan', content: new OA\JsonContent(ref: '#/components/schemas/RenamePlanData'))])]
    public function renames(RenamesRequest $request, Delivery $delivery): JsonResponse
    {
        $stored = new StoredDelivery($delivery);
        $asset = $this->light($stored);
        $plan = $this->plan($request, $stored, $asset);
        if ($request->hasTool()) {
            $plan = $this->withTool($request, $asset, $plan);
        }
        $files = $stored->meshFiles();
        $names = [];
        foreach (array_keys($files) as $i) {
            $names[$i] = $plan->namesIn($i);
        }
        $after = $plan->rows === [] ? $asset : $asset->supposing($names);

        return response()->json(new RenamePlanData(
            array_map(static fn (array $row): RenameRowData => new RenameRowData($files[$row['number']]->id, $row['file'], $row['from'], $row['to'], $row['reason']), $plan->rows),
            array_slice($plan->clashes, 0, 50), array_slice($plan->unsafe, 0, 50), $this->paired($asset), $this->paired($after), $this->bases($after),
        ));
    }

    /** Writes the files with these names changed, as a new delivery; the old one stays as it is. */
    #[OA\Post(path: '/api/deliveries/{delivery}/mend', operationId: 'mend', parameters: [new OA\Parameter(ref: '#/components/parameters/Version'), new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['renames'], properties: [new OA\Property(property: 'renames', type: 'array', items: new OA\Items(type: 'object', required: ['fileId', 'from', 'to'], properties: [new OA\Property(property: 'fileId', type: 'integer'), new OA\Property(property: 'from', type: 'string'), new OA\Property(property: 'to', type: 'string')]))])), responses: [new OA\Response(response: 409, ref: '#/components/responses/ChangedMeanwhile'), new OA\Response(response: 201, description: 'Mended', content: new OA\JsonContent(ref: '#/components/schemas/DeliveredData'))])]
    public function mend(RenamesRequest $request, Delivery $delivery): JsonResponse
    {
        $stored = new StoredDelivery($delivery);
        $plan = $this->plan($request, $stored, $this->light($stored));
        if ($plan->clashes !== [] || $plan->rows === []) {
            throw ValidationException::withMessages(['renames' => $plan->clashes[0] ?? 'no name would change']);
        }
        $changes = [];
        foreach (array_keys($stored->meshFiles()) as $i) {
            $changes[$i] = new Changes($plan->namesIn($i));
        }
        $count = count($plan->rows);

        return self::deliver($delivery, $changes, "$count ".($count === 1 ? 'name' : 'names')." mended from delivery $delivery->number");
    }

    /** Writes the high files scaled and turned to fit the low ones, as a new delivery. */
    #[OA\Post(path: '/api/deliveries/{delivery}/place', operationId: 'mendPlace', parameters: [new OA\Parameter(ref: '#/components/parameters/Version'), new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 409, ref: '#/components/responses/ChangedMeanwhile'), new OA\Response(response: 201, description: 'Mended', content: new OA\JsonContent(ref: '#/components/schemas/DeliveredData'))])]
    public function place(Delivery $delivery): JsonResponse
    {
        $stored = new StoredDelivery($delivery);
        // What was found when it was checked: no mesh is read, and nothing is measured, while somebody waits for the page.
        /** @var array{factor: float|int|null, turn: string|null, matrix: list<float|int>}|null $found */
        $found = self::judged($delivery)['place'] ?? null;
        $mend = $found === null ? null : PlaceMend::by($this->light($stored), $found['factor'] === null ? null : (float) $found['factor'], $found['turn'], Matrix::of(array_map(floatval(...), $found['matrix'])));
        if ($mend === null) {
            throw ValidationException::withMessages(['delivery' => 'high and low agree in size and axes; there is nothing to scale or turn']);
        }
        if ($mend->stuck !== []) {
            throw ValidationException::withMessages(['delivery' => $mend->stuck[0]]);
        }

        return self::deliver($delivery, array_map(static fn ($matrix): Changes => new Changes(placed: $matrix), $mend->ofFiles), "high poly {$mend->words()} from delivery $delivery->number");
    }

    /** Writes the files of an exploded layout with every part back where it was, as a new delivery. */
    #[OA\Post(path: '/api/deliveries/{delivery}/assemble', operationId: 'putBack', parameters: [new OA\Parameter(ref: '#/components/parameters/Version'), new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 409, ref: '#/components/responses/ChangedMeanwhile'), new OA\Response(response: 201, description: 'Put back', content: new OA\JsonContent(ref: '#/components/schemas/DeliveredData'))])]
    public function assemble(Delivery $delivery): JsonResponse
    {
        $measures = (new StoredDelivery($delivery))->alone();
        $changes = ExplodedFiles::back($measures->asset, $measures->assembled);
        if ($changes === []) {
            throw ValidationException::withMessages(['delivery' => $measures->assembled === null ? 'this delivery is no exploded layout' : 'no part of it was moved']);
        }

        return self::deliver($delivery, $changes, "put back together from delivery $delivery->number", false);
    }

    /** Takes the suffixes that were found in the files into the asset's standard. */
    #[OA\Post(path: '/api/deliveries/{delivery}/suffixes', operationId: 'takeSuffixes', parameters: [new OA\Parameter(ref: '#/components/parameters/Version'), new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 409, ref: '#/components/responses/ChangedMeanwhile'), new OA\Response(response: 204, description: 'Taken')])]
    public function suffixes(Delivery $delivery): Response
    {
        /** @var array{suffixes: array<string, list<string>>, pairs: int, bases: int, ofFiles: bool}|null $found */
        $found = self::judged($delivery)['suffixes'] ?? null;
        $guess = $found === null ? null : SuffixGuess::ofArray($found);
        if ($guess === null) {
            throw ValidationException::withMessages(['delivery' => 'no suffixes of your own were found in these files']);
        }
        $old = $delivery->asset->standard;
        $name = mb_strimwidth(preg_replace('/, suffixes .*$/', '', $old->name).", suffixes {$guess->words()}", 0, 190, '…');
        $rules = $old->parsed()->withSuffixes($guess->suffixes)->named($name);
        // A standard is shared; what is found in one asset's files is not put over all others'.
        $this->startOver($delivery, function (Delivery $delivery) use ($name, $rules): void {
            $standard = Standard::query()->firstOrCreate(['name' => $name], ['rules' => json_encode($rules->toArray(), JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR), 'changed_by' => $this->user()]);
            $delivery->asset->update(['standard_id' => $standard->id, 'changed_by' => $this->user()]);
        });

        return response()->noContent();
    }

    /** What giving a file another role would do. */
    #[OA\Get(path: '/api/deliveries/{delivery}/files/{file}/role', operationId: 'rolePreview', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer')), new OA\Parameter(name: 'file', in: 'path', required: true, schema: new OA\Schema(type: 'integer')), new OA\Parameter(name: 'role', in: 'query', schema: new OA\Schema(type: 'string'))], responses: [new OA\Response(response: 200, description: 'Before and after', content: new OA\JsonContent(ref: '#/components/schemas/RolePreviewData'))])]
    public function rolePreview(RoleRequest $request, Delivery $delivery, File $file): JsonResponse
    {
        abort_unless($file->delivery_id === $delivery->id, 404);
        $stored = new StoredDelivery($delivery);
        $before = $this->light($stored);
        $number = (int) array_search($file->id, array_map(static fn (File $one): int => $one->id, $stored->meshFiles()), true);
        $after = $before->supposing([], [$number => $request->role()]);
        $count = static fn (Asset $asset, \Closure $holds): int => count(array_filter($asset->parts, static fn (RoledPart $part): bool => $part->file === $number && $holds($part)));

        return response()->json(new RolePreviewData(
            $this->paired($before), $this->paired($after), $this->bases($before), $this->bases($after),
            $count($after, static fn (RoledPart $part): bool => $part->mixed), $count($after, static fn (RoledPart $part): bool => $part->role === null),
        ));
    }

    /** Which formats are read, what each carries, and which are not. */
    #[OA\Get(path: '/api/formats', operationId: 'formats', responses: [new OA\Response(response: 200, description: 'Formats', content: new OA\JsonContent(ref: '#/components/schemas/FormatsData'))])]
    public function formats(): JsonResponse
    {
        $rows = array_map(static fn (array $row): FormatData => new FormatData($row['ending'], $row['name'], array_values(array_diff(FormatCatalogue::CARRIED, $row['lacks'])), $row['isWritten']), FormatCatalogue::overview());

        return response()->json(new FormatsData(FormatCatalogue::CARRIED, $rows, FormatCatalogue::notRead()));
    }

    /**
     * @return array<string, mixed> what was found of a delivery that is checked to its end
     *
     * @throws ValidationException while it is not
     */
    private static function judged(Delivery $delivery): array
    {
        if ($delivery->state !== DeliveryState::Done) {
            throw ValidationException::withMessages(['delivery' => 'the delivery is not checked to its end; wait for it, or check it again']);
        }

        return $delivery->report ?? [];
    }

    private function light(StoredDelivery $stored): Asset
    {
        return $stored->alone()->asset;
    }

    private function plan(RenamesRequest $request, StoredDelivery $stored, Asset $asset): RenamePlan
    {
        $numbers = array_flip(array_map(static fn (File $file): int => $file->id, $stored->meshFiles()));

        return RenamePlan::byHand($asset, $request->renames($numbers));
    }

    /** The plan with a tool applied to the names that it gives. */
    private function withTool(RenamesRequest $request, Asset $asset, RenamePlan $plan): RenamePlan
    {
        $renames = $original = [];
        foreach (array_keys($asset->files) as $i) {
            foreach ($plan->namesIn($i) as $from => $to) {
                $renames[$i][$from] = $to;
                $original[$i][$to] = (string) $from;
            }
        }
        $supposed = $renames === [] ? $asset : $asset->supposing($renames);
        $role = Role::tryFrom($request->string('tool.role')->toString());
        $find = (string) $request->string('tool.find');
        $tool = match ($request->string('tool.kind')->toString()) {
            'replace' => RenamePlan::replacing($supposed, $find, (string) $request->string('tool.replace'), $role),
            'add-suffix' => $find === '' ? RenamePlan::addingSuffixes($supposed, $role) : RenamePlan::addingSuffix($supposed, $find),
            'change-suffix' => RenamePlan::changingSuffix($supposed, $find, (string) $request->string('tool.replace'), $role),
            'number' => RenamePlan::numbering($supposed, (string) $request->string('tool.pattern'), $request->integer('tool.first', 1), $find),
            'case' => RenamePlan::casing($supposed, $request->boolean('tool.upper'), $role),
            'follow' => RenamePlan::following($supposed, $role ?? Role::Low),
            'copy' => RenamePlan::copying($supposed, $role ?? Role::High, Role::tryFrom($request->string('tool.to')->toString()) ?? Role::Id),
            default => RenamePlan::suggested($supposed),
        };
        $merged = [];
        foreach ($plan->rows as $row) {
            $merged[$row['number']][$row['from']] = [$row['to'], $row['reason']];
        }
        foreach ($tool->rows as $row) {
            $merged[$row['number']][$original[$row['number']][$row['from']] ?? $row['from']] = [$row['to'], $row['reason']];
        }
        $all = RenamePlan::byHand($asset, $merged);

        return $tool->rows === [] && $tool->clashes !== [] ? $all->withClashes($tool->clashes) : $all;
    }

    /** Bases that have both sides under sound names. */
    private function paired(Asset $asset): int
    {
        $count = 0;
        foreach ($asset->pairing->ties as $tie) {
            $count += $tie->kind === TieKind::Self || ($tie->isSound() && ($tie->troubles === [] || $tie->kind === TieKind::OneAndOne)) ? 1 : 0;
        }

        return $count;
    }

    private function bases(Asset $asset): int
    {
        return count($asset->pairing->ties);
    }

    /**
     * @param  array<int, Changes>  $changes
     */
    private static function deliver(Delivery $delivery, array $changes, string $because, bool $exploded = true): JsonResponse
    {
        $new = Derived::deliver($delivery, $changes, $because, $exploded);
        // Of the names that it had nobody wants to know any more; what is measured by now, the new one takes over.
        Turn::locked($delivery->id, static function (Delivery $old) use ($new): void {
            if (! $old->isOver()) {
                Turn::to($old, DeliveryState::Cancelled, null, ['error' => "Stopped, since delivery $new->number was made of it with its files mended."]);
            }
        });

        return response()->json(new DeliveredData($new->asset_id, $new->id, $new->number, $new->wasKnown), 201);
    }
}
