<?php

declare(strict_types=1);

namespace Anvil\Checks;

/**
 * How a check ended: findings (none: passed), nothing of its kind there, or not run, with the reason; while measuring goes on, that it waits.
 */
final readonly class Outcome
{
    /**
     * @param  list<Finding>  $findings
     */
    private function __construct(public string $state, public ?string $reason, public array $findings)
    {
    }

    /**
     * @param  list<Finding>  $findings
     * @param  string|null  $notRun  what could not be looked at beside
     */
    public static function of(array $findings, ?string $notRun = null): self
    {
        if ($notRun !== null) {
            return new self('not-run', $notRun, $findings);
        }

        return new self($findings === [] ? 'passed' : 'found', null, $findings);
    }

    public static function notApplicable(string $reason): self
    {
        return new self('not-applicable', $reason, []);
    }

    /**
     * @param  list<Finding>  $findings  of what could be looked at by now
     */
    public static function waiting(string $reason, array $findings = []): self
    {
        return new self('waiting', $reason, $findings);
    }

    public static function notRun(string $reason): self
    {
        return new self('not-run', $reason, []);
    }
}
