<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Measures\Measures;
use Anvil\Standard\Waiver as Rule;
use App\Models\Delivery;
use App\Models\Finding;
use App\Models\State\DeliveryState;
use App\Models\Waiver;
use App\People\History;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Collection;

/**
 * What was accepted of an asset, under the names that its parts have in a delivery.
 */
final class Waivers
{
    /**
     * Those that hold today.
     *
     * @return Collection<int, Waiver>
     */
    public static function inForce(Delivery $delivery): Collection
    {
        return Waiver::query()->where('asset_id', $delivery->asset_id)->whereNull('withdrawn_at')->orderBy('id')
            ->where(static fn (Builder $until): Builder => $until->whereNull('until')->orWhere('until', '>=', now()->toDateString()))
            ->where(static fn (Builder $given): Builder => $given->whereNull('delivery_id')->orWhereIn('delivery_id', Delivery::query()->select('id')->where('asset_id', $delivery->asset_id)->where('number', '<=', $delivery->number)))->get();
    }

    /**
     * @return list<Rule>
     */
    public static function rules(Delivery $delivery, Measures $measures): array
    {
        $own = null;
        $out = [];
        foreach (self::inForce($delivery) as $waiver) {
            $out[] = $waiver->rule()->through($waiver->delivery_id === null || $waiver->delivery_id === $delivery->id ? [] : self::renames($waiver->delivery_id, $delivery, $own ??= Since::renamesOf($measures)));
        }

        return $out;
    }

    /** One under the names that its parts have in a delivery that is judged. */
    public static function on(Waiver $waiver, Delivery $delivery): Rule
    {
        return $waiver->rule()->through($waiver->delivery === null || $waiver->delivery_id === $delivery->id ? [] : Since::renames($waiver->delivery, $delivery));
    }

    /** Whether it was given for this finding, whatever it measures now. */
    public static function isOf(Rule $rule, Finding $row): bool
    {
        return $row->code === $rule->code && array_diff_assoc($rule->subject, self::subject($row->subject)) === [];
    }

    /**
     * @param  array<string, string>  $own  of the delivery itself, which may not be written down yet
     * @return array<string, string>
     */
    private static function renames(int $from, Delivery $to, array $own): array
    {
        $given = Delivery::query()->find($from);
        $before = Since::before($to);

        return $given === null || $before === null || $before->number < $given->number ? [] : Since::then(Since::renames($given, $before), $own);
    }

    /**
     * What a finding is known by over deliveries: not by its file where it has a part, a set or a page, for files are called otherwise.
     *
     * @param  array<string, string>  $subject
     * @return array<string, string>
     */
    public static function subject(array $subject): array
    {
        if (isset($subject['part']) || isset($subject['set']) || isset($subject['page'])) {
            unset($subject['file']);
        } elseif (isset($subject['file'])) {
            $subject['file'] = basename(str_replace('\\', '/', $subject['file']));
        }

        return $subject;
    }

    /** Judges anew what was held by waivers whose last day is over. */
    public static function end(): void
    {
        foreach (Waiver::query()->whereNull('ended_at')->whereNull('withdrawn_at')->where('until', '<', now()->toDateString())->get() as $waiver) {
            $newest = Delivery::query()->where('asset_id', $waiver->asset_id)->orderByDesc('number')->first();
            $waiver->update(['ended_at' => now()]);
            History::tell($newest?->asset, $newest, "ended the waiver of $waiver->code by $waiver->by: its last day was {$waiver->until?->toDateString()}");
            if ($newest !== null) {
                Turn::locked($newest->id, static function (Delivery $locked): void {
                    if ($locked->state === DeliveryState::Done) {
                        Steps::begin($locked);
                    }
                });
            }
        }
    }
}
