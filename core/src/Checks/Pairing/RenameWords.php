<?php

declare(strict_types=1);

namespace Anvil\Checks\Pairing;

use Anvil\Measures\Measures;
use Anvil\Pairing\Tie;

/**
 * The renames suggested for a tie, as a remedy.
 */
final class RenameWords
{
    public static function of(Measures $measures, Tie $tie): string
    {
        $words = [];
        foreach ($measures->asset->pairing->suggestions as $suggestion) {
            if (in_array($suggestion->part, [...$tie->low, ...$tie->high], true)) {
                $words[] = "{$suggestion->part->part->name} to $suggestion->rename";
            }
        }

        return 'rename '.implode(' and ', $words);
    }
}
