<?php

declare(strict_types=1);

namespace Anvil\Checks;

use Anvil\Pairing\RoledPart;
use Anvil\Standard\Severity;
use Anvil\Standard\Waiver;

/**
 * What a check found: what is wrong, how badly, where, and what mends it.
 */
final readonly class Finding
{
    /**
     * @param  array{file?: string, part?: string, set?: string, other?: string, page?: string}  $subject
     * @param  list<array{float, float, float}>  $where
     */
    public function __construct(
        public string $code,
        public Severity $severity,
        public string $message,
        public string $remedy,
        public array $subject,
        public ?Measured $measure = null,
        public ?int $texels = null,
        public ?int $count = null,
        public array $where = [],
        public bool $waived = false,
    ) {
    }

    /**
     * On a part.
     *
     * @param  list<array{float, float, float}>  $where
     */
    public static function onPart(string $code, Severity $severity, RoledPart $part, string $message, string $remedy, ?Measured $measure = null, ?int $count = null, array $where = []): self
    {
        return new self($code, $severity, $message, $remedy, ['part' => $part->part->name, 'file' => $part->path], $measure, null, $count, $where);
    }

    /**
     * On a tie: the low part, and the high one as the other.
     *
     * @param  list<array{float, float, float}>  $where
     */
    public static function onTie(string $code, Severity $severity, RoledPart $low, string $high, string $message, string $remedy, ?Measured $measure = null, array $where = [], ?int $texels = null): self
    {
        return new self($code, $severity, $message, $remedy, ['part' => $low->part->name, 'other' => $high, 'file' => $low->path], $measure, $texels, null, $where);
    }

    /**
     * On a part of a set: a finding of rays that goes to the file in which it is mended.
     *
     * @param  list<array{float, float, float}>  $where
     */
    public static function inSet(string $code, Severity $severity, string $set, RoledPart $part, string $message, string $remedy, ?Measured $measure = null, array $where = [], ?int $texels = null): self
    {
        return new self($code, $severity, $message, $remedy, ['set' => $set, 'part' => $part->part->name, 'file' => $part->path], $measure, $texels, null, $where);
    }

    public function withSeverity(Severity $severity): self
    {
        return new self($this->code, $severity, $this->message, $this->remedy, $this->subject, $this->measure, $this->texels, $this->count, $this->where, $this->waived);
    }

    public function withRemedy(string $remedy): self
    {
        return new self($this->code, $this->severity, $this->message, $remedy, $this->subject, $this->measure, $this->texels, $this->count, $this->where, $this->waived);
    }

    /**
     * @param  list<Waiver>  $waivers
     */
    public function heldBy(array $waivers): self
    {
        return $this->waiver($waivers) === null ? $this : new self($this->code, $this->severity, $this->message, $this->remedy, $this->subject, $this->measure, $this->texels, $this->count, $this->where, true);
    }

    /**
     * The first waiver that holds it.
     *
     * @param  list<Waiver>  $waivers
     */
    public function waiver(array $waivers): ?Waiver
    {
        foreach ($waivers as $waiver) {
            if ($this->isMeantBy($waiver) && ! $this->isWorseThan($waiver)) {
                return $waiver;
            }
        }

        return null;
    }

    /**
     * The waiver that was given for this finding and holds no more, because it is worse now; null where another one holds, or none was given.
     *
     * @param  list<Waiver>  $waivers
     */
    public function outgrown(array $waivers): ?Waiver
    {
        foreach ($this->waived ? [] : $waivers as $waiver) {
            if ($this->isMeantBy($waiver) && $this->isWorseThan($waiver)) {
                return $waiver;
            }
        }

        return null;
    }

    private function isMeantBy(Waiver $waiver): bool
    {
        return $waiver->code === $this->code && array_diff_assoc(self::comparable($waiver->subject), self::comparable($this->subject)) === [];
    }

    private function isWorseThan(Waiver $waiver): bool
    {
        return $waiver->value !== null && $this->measure !== null && $this->measure->isWorseThan($waiver->value);
    }

    /**
     * Files go by their base names: a waiver holds wherever the files lie.
     *
     * @param  array<string, string>  $subject
     * @return array<string, string>
     */
    private static function comparable(array $subject): array
    {
        return isset($subject['file']) ? [...$subject, 'file' => basename(str_replace('\\', '/', $subject['file']))] : $subject;
    }

    public function blocks(): bool
    {
        return $this->severity === Severity::Blocker && ! $this->waived;
    }

    /**
     * @return array<string, mixed> as `anvil:inspect --json` prints it
     */
    public function toArray(): array
    {
        $out = ['code' => $this->code, 'severity' => $this->severity->value, 'message' => $this->message, 'remedy' => $this->remedy, 'subject' => (object) $this->subject];
        if ($this->measure !== null) {
            $out['measure'] = $this->measure->toArray();
        }
        if ($this->texels !== null) {
            $out['texels'] = $this->texels;
        }
        if ($this->count !== null) {
            $out['count'] = $this->count;
        }
        if ($this->where !== []) {
            $out['where'] = $this->where;
        }
        if ($this->waived) {
            $out['waived'] = true;
        }

        return $out;
    }
}
