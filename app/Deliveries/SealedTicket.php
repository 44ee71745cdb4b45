<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Checks\Runner;
use Anvil\Handoff\Ticket;
use Anvil\Measures\NotKnown;
use Anvil\Pairing\RoledPart;
use Anvil\Report\Report;
use App\Models\Delivery;
use App\Models\File;
use Illuminate\Validation\ValidationException;

/**
 * The ticket of a delivery, from what was measured of it.
 */
final class SealedTicket
{
    /** As a page, or as JSON. */
    public static function of(Delivery $delivery, bool $asPage): string
    {
        $measures = (new StoredDelivery($delivery))->measured();
        try {
            $waivers = Waivers::rules($delivery, $measures);
            $ticket = Ticket::of($delivery->asset->name, new Report($measures, Runner::run($measures, $waivers), ['read' => 0.0, 'pair' => 0.0, 'check' => 0.0, 'total' => 0.0], waivers: $waivers), null, $delivery->number);
            $files = array_values($delivery->files->whereIn('kind', ['mesh', 'side', 'plan'])->map(static fn (File $file): array => ['path' => "files/$file->name", 'role' => $file->kind === 'mesh' ? $file->role ?? RoledPart::roleOfFile($file->name, $measures->asset->standard)?->value : null, 'sha256' => $file->sha256 ?? hash('sha256', (string) Store::get($file->path)), 'bytes' => $file->bytes])->all());

            return $asPage ? $ticket->html($files) : json_encode($ticket->toArray($files), JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR)."\n";
        } catch (NotKnown) {
            throw ValidationException::withMessages(['delivery' => 'it was measured by an earlier version; check the delivery again first']);
        }
    }
}
