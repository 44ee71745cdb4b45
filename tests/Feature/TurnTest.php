<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Deliveries\Turn;
use App\Models\Delivery;
use App\Models\State\DeliveryState;
use App\Models\State\Step;
use Illuminate\Support\Facades\DB;
use LogicException;
use PHPUnit\Framework\Attributes\DataProvider;
use Symfony\Component\Finder\Finder;
use Tests\Support\HandsIn;
use Tests\TestCase;

/** A delivery comes into another state in one place, and only where that follows. */
final class TurnTest extends TestCase
{
    use HandsIn;

    private Delivery $delivery;

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied(measures: true);
        $this->delivery = Delivery::query()->findOrFail($this->handIn(['post_low.obj' => "o post_low\nv 0 0 0\nv 1 0 0\nv 1 1 0\nf 1 2 3\n"]));
    }

    /**
     * @return iterable<string, array{DeliveryState, DeliveryState, bool}>
     */
    public static function ways(): iterable
    {
        $on = ['writing' => ['reading'], 'reading' => ['reading', 'measuring'], 'measuring' => ['reading', 'measuring', 'checking'], 'checking' => ['reading', 'measuring', 'done']];
        foreach (DeliveryState::cases() as $from) {
            foreach (DeliveryState::cases() as $to) {
                $may = $from->isOver() ? ['writing', 'reading', 'measuring'] : [...$on[$from->value] ?? [], 'failed', 'cancelled'];
                yield "$from->value to $to->value" => [$from, $to, in_array($to->value, $may, true)];
            }
        }
    }

    #[DataProvider('ways')]
    public function test_what_follows_what(DeliveryState $from, DeliveryState $to, bool $may): void
    {
        self::assertSame($may, $from->mayBecome($to));
    }

    public function test_it_turns_with_its_row_locked_alone(): void
    {
        Turn::locked($this->delivery->id, static function (Delivery $delivery): void {
            Turn::to($delivery, DeliveryState::Failed, null, ['error' => 'the disk is full']);
        });
        self::assertSame([DeliveryState::Failed, null, 'the disk is full'], [$this->delivery->refresh()->state, $this->delivery->step, $this->delivery->error]);
        self::assertNull(Turn::locked(999_999, static fn (): string => 'gone'));
        $this->expectExceptionMessage('with its row locked');
        Turn::to($this->delivery, DeliveryState::Reading, Step::Read);
    }

    public function test_it_does_not_turn_where_nothing_leads(): void
    {
        foreach ([[DeliveryState::Done, null, 'a delivery that is reading does not become done'], [DeliveryState::Measuring, null, 'a delivery that is measuring has a step'], [DeliveryState::Failed, Step::Read, 'a delivery that is failed has no step']] as [$to, $step, $words]) {
            try {
                DB::transaction(fn () => Turn::to($this->delivery, $to, $step));
                self::fail($words);
            } catch (LogicException $e) {
                self::assertSame($words, $e->getMessage());
            }
        }
        self::assertSame(DeliveryState::Reading, $this->delivery->refresh()->state);
    }

    /** Nothing else writes the state of a delivery, but where one is made. */
    public function test_nothing_else_turns_it(): void
    {
        $found = [];
        foreach (Finder::create()->files()->in(app_path())->name('*.php')->contains("/'state' => DeliveryState::[A-Z]/") as $file) {
            $found[] = $file->getRelativePathname();
        }
        sort($found);
        self::assertSame(['Deliveries/Derived.php', 'Deliveries/HandIn.php'], $found);
    }
}
