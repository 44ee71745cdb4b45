<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Anvil\Asset\LastDelivery;
use Anvil\Changes\PartChange;
use Anvil\Changes\PartChanges;
use Anvil\Checks\Finding;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\Changed;
use Anvil\Report\FindingChanges;
use Anvil\Report\Report;
use App\Deliveries\ChangesPage;
use Symfony\Component\Console\Input\ArgvInput;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/**
 * What changed between two sets of files, their findings included.
 */
final class ChangesCommand extends AnvilCommand
{
    /** Options that take a value, as those of `INPUT` do. */
    private const VALUED = ['--standard', '--choices', '--waivers', '--workers', '--rays'];

    protected $signature = 'anvil:changes '.self::INPUT.'
        {--with=* : the files of the later delivery; all that follow it}
        {--rays= : samples, instead of the standard\'s}';

    protected $description = 'Say what changed between two sets of files: their parts, and their findings';

    public function run(InputInterface $input, OutputInterface $output): int
    {
        return parent::run($input instanceof ArgvInput ? self::spread($input) : $input, $output);
    }

    /** `--with a b` means both; each gets its own `--with=`. */
    private static function spread(ArgvInput $input): ArgvInput
    {
        $out = [];
        $after = $value = false;
        foreach ($input->getRawTokens() as $token) {
            if ($value || $token === '--') {
                $out[] = $token;
                $value = false;
            } elseif ($token === '--with') {
                $after = true;
            } elseif (str_starts_with($token, '--with=')) {
                $after = true;
                $out[] = $token;
            } elseif (str_starts_with($token, '-')) {
                $out[] = $token;
                $value = in_array($token, self::VALUED, true);
            } else {
                // The command's own name comes first.
                $out[] = $after ? "--with=$token" : $token;
            }
        }

        return new ArgvInput(['artisan', ...$out]);
    }

    protected function perform(): int
    {
        /** @var list<string> $with */
        $with = $this->option('with');
        if ($with === []) {
            throw new UnusableInput('file-missing', 'name the files of the later delivery after --with');
        }
        $before = $this->inspectFiles($this->givenFiles());
        $after = $this->inspectFiles($this->filesOf($with), LastDelivery::of($before->measures->asset));
        $parts = $after->measures->ofAsset(Changed::class);
        $findings = FindingChanges::of($before->findings(), $after->findings(), PartChanges::renames($parts, $after->measures->asset->standard));
        if ($this->wantsJson()) {
            $this->printJson(['parts' => array_map(static fn (PartChange $change): array => $change->toArray(), $parts), 'findings' => $findings->toArray()]);
        } else {
            $this->printText($after, $parts, $findings);
        }

        return $after->isReady() ? self::SUCCESS : self::BLOCKED;
    }

    /**
     * @param  list<PartChange>  $parts
     */
    private function printText(Report $after, array $parts, FindingChanges $findings): void
    {
        $same = 0;
        foreach ($parts as $change) {
            if ($change->states === ['same']) {
                $same++;

                continue;
            }
            $this->line(sprintf('%-32s %s', $change->name, implode('; ', array_map(fn (string $state): string => $this->words($change, $state, $after), $change->states))));
        }
        $this->line($same === 1 ? '1 part is the same' : "$same parts are the same");
        $this->newLine();
        foreach (['gone' => $findings->gone, 'new' => $findings->new] as $title => $list) {
            foreach ($list as $finding) {
                $this->line(sprintf('%-7s %s', $title, self::told($finding)));
            }
        }
        foreach (['better' => $findings->better, 'worse' => $findings->worse] as $title => $list) {
            foreach ($list as [$then, $now]) {
                $this->line(sprintf('%-7s %s', $title, self::told($now)));
                $this->line('        before: '.$then->message);
            }
        }
        $count = count($findings->same);
        $this->line('same    '.($count === 1 ? '1 finding' : "$count findings"));
        $this->newLine();
        $this->line($after->isReady() ? 'READY' : 'NOT READY');
    }

    private static function told(Finding $finding): string
    {
        return "{$finding->severity->value} $finding->code: $finding->message".($finding->waived ? ' (waived)' : '');
    }

    private function words(PartChange $change, string $state, Report $after): string
    {
        return ChangesPage::words($change, $state, static fn (float $value): string => Words::length($value, $after->measures->asset));
    }
}
