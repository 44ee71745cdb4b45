<?php

declare(strict_types=1);

namespace Anvil\Checks;

use Anvil\Standard\Severity;
use Anvil\Standard\Standard;

/**
 * How one check ended on one asset.
 */
final readonly class CheckResult
{
    /**
     * @param  list<Finding>  $findings
     */
    public function __construct(public About $about, public string $state, public ?string $reason, public array $findings, public float $seconds)
    {
    }

    /** A blocker that nobody waived, or a check that would block and could not run. */
    public function blocks(Standard $standard): bool
    {
        foreach ($this->findings as $finding) {
            if ($finding->blocks()) {
                return true;
            }
        }

        return $this->state === 'not-run' && $standard->severity($this->about->code, $this->about->severity) === Severity::Blocker;
    }

    /**
     * @return array{code: string, state: string, reason?: string, seconds: float}
     */
    public function toArray(): array
    {
        $out = ['code' => $this->about->code, 'state' => $this->state];
        if ($this->reason !== null) {
            $out['reason'] = $this->reason;
        }
        $out['seconds'] = round($this->seconds, 4);

        return $out;
    }
}
