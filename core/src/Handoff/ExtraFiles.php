<?php

declare(strict_types=1);

namespace Anvil\Handoff;

use Anvil\Asset\GivenFile;
use Anvil\Cage\CageFiles;
use Anvil\Cage\CageFit;
use Anvil\Checks\Proof\ProofRetouch;
use Anvil\ColorId\By;
use Anvil\ColorId\IdFileWriter;
use Anvil\ColorId\IdPlan;
use Anvil\ColorId\IdSheet;
use Anvil\ColorId\Legend;
use Anvil\Explode\ExplodedFiles;
use Anvil\Formats\FolderSink;
use Anvil\Formats\Sink;
use Anvil\Measures\Kind\Layout;
use Anvil\Measures\Measures;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;
use Anvil\Unreadable;
use Throwable;

/**
 * Writes what goes along with a package, from what is sealed in it: nothing that was written before can slip in.
 */
final class ExtraFiles
{
    /** Kinds that are written here; trial maps are baked beforehand. */
    public const KINDS = ['exploded', 'cage', 'ids', 'retouch'];

    /**
     * @param  list<GivenFile>  $files  those of the measures, in their order
     * @param  string  $folder  a new one
     * @param  IdSheet|null  $sheet  of the color IDs; null: one a part
     *
     * @throws Unreadable where there is nothing of the kind to write, with the reason
     */
    public static function make(string $kind, Measures $measures, array $files, string $folder, ?IdSheet $sheet = null): Extra
    {
        $sink = new FolderSink($folder);
        try {
            match ($kind) {
                'exploded' => self::exploded($measures, $files, $sink),
                'cage' => self::cages($measures, $sink),
                'ids' => self::ids($measures, $files, $sink, $sheet ?? new IdSheet(By::Part, 30.0)),
                'retouch' => self::retouch($measures, $sink),
                default => throw Unreadable::because("there is no \"$kind\" to go along; it is one of ".implode(', ', self::KINDS)),
            };
            $sink->commit();
        } catch (Throwable $error) {
            $sink->discard();
            throw $error;
        }

        return new Extra($kind, $folder, MadeOf::of($measures->asset));
    }

    /**
     * @param  list<GivenFile>  $files
     */
    private static function exploded(Measures $measures, array $files, Sink $sink): void
    {
        $plan = $measures->ofAsset(Layout::class) ?? throw Unreadable::because('no set was measured: there is no exploded layout');
        ExplodedFiles::write($measures->asset, $files, $plan, $sink);
    }

    private static function cages(Measures $measures, Sink $sink): void
    {
        if ($measures->clearances() === []) {
            throw Unreadable::because('no set was measured: there is no cage to fit');
        }
        CageFiles::write($measures->asset, CageFit::ofAll($measures->asset, $measures->clearances()), $sink);
    }

    /**
     * @param  list<GivenFile>  $files
     */
    private static function ids(Measures $measures, array $files, Sink $sink, IdSheet $sheet): void
    {
        $numbers = array_values(array_unique(array_map(static fn (RoledPart $part): int => $part->file, $measures->asset->judged(Role::High))));
        if ($numbers === []) {
            throw Unreadable::because('there is no high part to give an ID to');
        }
        $plan = IdPlan::of($measures->asset, $sheet);
        $writer = new IdFileWriter($measures->asset, $plan, false, false);
        foreach ($numbers as $number) {
            $writer->write($number, $files[$number]->source, $sink);
        }
        Legend::ofPlan($plan, $measures->asset)->write($sink);
    }

    private static function retouch(Measures $measures, Sink $sink): void
    {
        $pages = $measures->common()->pages();
        foreach (ProofRetouch::pages($measures) as $number => [$mask]) {
            $stream = $sink->open($pages[$number]->file.'_retouch.png');
            fwrite($stream, $mask->png());
            fclose($stream);
        }
    }
}
