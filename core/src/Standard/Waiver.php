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
     */
    public function __construct(public string $code, public array $subject, public ?float $value, public string $by, public string $reason)
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
            $one->only(['code', 'subject', 'value', 'by', 'reason']);
            $subject = [];
            $given = $one->object('subject')?->only(['file', 'part', 'set', 'other']);
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
            $out[] = new self($one->string('code') ?? '', $subject, $value === null ? null : (float) $value, $by, $reason);
        }

        return $out;
    }
}
