<?php

declare(strict_types=1);

namespace Anvil\Standard;

use Anvil\Json;
use Anvil\Unreadable;

/**
 * A person's written acceptance of one finding. It holds while the measure is no worse than `value`.
 */
final readonly class Waiver
{
    /**
     * @param  array<string, string>  $subject  matches a finding that agrees in every key given
     * @param  string|null  $until  the last day on which it holds, `2026-12-24`; null: for good
     */
    public function __construct(public string $code, public array $subject, public ?float $value, public string $by, public string $reason, public ?string $until = null)
    {
    }

    /**
     * @return list<self>
     *
     * @throws Unreadable that names the key
     */
    public static function listOfJson(string $text): array
    {
        $out = [];
        foreach (Json::parse('{"waivers":'.$text.'}')->objects('waivers') as $one) {
            $one->only(['code', 'subject', 'value', 'by', 'reason', 'until']);
            $subject = [];
            $given = $one->object('subject')?->only(['file', 'part', 'set', 'other', 'page']);
            foreach ($given?->keys() ?? [] as $key) {
                $subject[$key] = $given?->string($key) ?? '';
            }
            $value = $one->value('value');
            $by = $one->string('by') ?? '';
            $reason = $one->string('reason') ?? '';
            if ($by === '' || $reason === '') {
                throw Unreadable::because("$one->path needs \"by\" and \"reason\": a waiver is signed and says why");
            }
            if ($value !== null && ! is_int($value) && ! is_float($value)) {
                throw Unreadable::because($one->at('value').' is not a number');
            }
            $until = $one->string('until');
            if ($until !== null && preg_match('/^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/D', $until) !== 1) {
                throw Unreadable::because($one->at('until').' is not a day such as 2026-12-24');
            }
            $out[] = new self($one->string('code') ?? '', $subject, $value === null ? null : (float) $value, $by, $reason, $until);
        }

        return $out;
    }

    /** Whether it holds on a day, `2026-12-24`. */
    public function holdsOn(string $day): bool
    {
        return $this->until === null || $day <= $this->until;
    }

    /**
     * The same under the names that parts have since.
     *
     * @param  array<string, string>  $renames  name then → name now
     */
    public function through(array $renames): self
    {
        $subject = $this->subject;
        foreach (['part', 'other', 'set'] as $key) {
            if (isset($subject[$key])) {
                $subject[$key] = $renames[$subject[$key]] ?? $subject[$key];
            }
        }

        return new self($this->code, $subject, $this->value, $this->by, $this->reason, $this->until);
    }
}
