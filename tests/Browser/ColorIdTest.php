<?php

declare(strict_types=1);

namespace Tests\Browser;

use Anvil\Modelling\Shapes;
use Facebook\WebDriver\Chrome\ChromeDevToolsDriver;
use Facebook\WebDriver\WebDriverBy;

/**
 * Regions of a model without IDs are given IDs by hand, spread, written, read back as a delivery and found good; fixed colors hold in it.
 */
final class ColorIdTest extends BrowserTestCase
{
    public function test_regions_are_given_ids_by_hand_spread_written_and_pass(): void
    {
        $low = $high = [];
        foreach (['bollard' => 0.0, 'plinth' => 3.0] as $name => $x) {
            $low["{$name}_low"] = Shapes::box(1, 1, 1)->placed($x / 6, 0, 0.5)->moved($x, 0, 0);
            $high["{$name}_high"] = Shapes::box(1, 1, 1, 6)->moved($x, 0, 0);
        }
        $this->handInShapes(['bollard_low.obj' => $low, 'bollard_high.obj' => $high], true);
        $this->waitFor('delivery 1', 60);
        $this->waitForNot('so far', 120);
        $this->waitForStand();
        $this->click('Color ID');
        $this->waitFor('The asset has no ID colors yet');
        // By parts at first; then by region.
        $this->waitForSwatches(2);
        $this->click('region');
        $this->waitForSwatches(12);
        $this->assertAccessible('Color ID by regions');
        // A click in the stand chooses one piece, a band with Shift all whose middle lies in it.
        $canvas = $this->found(WebDriverBy::cssSelector('.stand canvas'));
        $box = [$canvas->getLocation()->getX(), $canvas->getLocation()->getY(), $canvas->getSize()->getWidth(), $canvas->getSize()->getHeight()];
        $this->mouse([[0.5 * $box[2] + $box[0], 0.5 * $box[3] + $box[1]]], 0);
        $this->mouse([[0.04 * $box[2] + $box[0], 0.28 * $box[3] + $box[1]], [0.96 * $box[2] + $box[0], 0.97 * $box[3] + $box[1]]], 8);
        $this->waitFor('12 pieces of 12 IDs');
        $this->click('One ID for all 12');
        $this->waitForSwatches(1);
        $this->click('Undo');
        $this->waitForSwatches(12);
        $this->click('Clear selection');
        // All sides of one part under one ID, from the sheet.
        foreach (range(1, 6) as $n) {
            $this->swatch("plinth $n", $n > 1);
        }
        $this->click('One ID for all 6');
        $this->waitForSwatches(7);
        $this->fill('name of the ID', 'plinth');
        $this->fill('color of the ID', '#12AB34');
        $this->waitFor('#12AB34');
        $this->found(WebDriverBy::xpath("//label[contains(., 'fixed')]//input"))->click();
        $this->waitFor('fixed');
        $this->click('Spread');
        $this->waitFor('The closest two that touch are');
        $this->waitFor('#12AB34', 20);
        $this->assertAccessible('Color ID with a fixed color');
        $this->assertNothingCutOff('Color ID');
        $this->click('Hand in with IDs');
        $this->waitFor('delivery 2', 60);
        $this->waitFor('7 colors, all far apart', 120);
        $this->waitFor('IDs come from the ID file', 20);
        $this->waitFor('#12AB34', 20);
        $this->waitFor('No findings here', 20);
        // The colors hold in the next delivery.
        $this->click('to give');
        $this->waitForSwatches(7);
        $this->waitFor('#12AB34', 20);
        $this->click('Write ID files');
        $this->waitFor('Download', 60);
        self::assertStringStartsWith('PK', $this->download($this->button('Download')));
    }

    private function waitForSwatches(int $count): void
    {
        $this->waitForCount(WebDriverBy::cssSelector('.swatch-card'), $count);
    }

    /** Clicks a swatch, with Control held where it is to be chosen beside others. */
    private function swatch(string $name, bool $adds): void
    {
        $this->browser->executeScript('[...document.querySelectorAll(".swatch-card")].find((one) => one.querySelector("b").textContent === arguments[0]).dispatchEvent(new MouseEvent("click", { bubbles: true, ctrlKey: arguments[1] }))', [$name, $adds]);
    }

    private function fill(string $label, string $text): void
    {
        $field = $this->found(WebDriverBy::cssSelector("input[aria-label=\"$label\"]"));
        $this->browser->executeScript('arguments[0].select()', [$field]);
        $field->sendKeys("$text\n");
        // What was typed is kept, and the field is drawn anew with it.
        self::until(fn (): bool => $this->browser->executeScript('return document.querySelector(arguments[0])?.value === arguments[1] && document.querySelector("[aria-busy=true]") === null', ["input[aria-label=\"$label\"]", $text]) === true, "$label did not keep $text");
        $this->settle();
    }

    /**
     * The mouse goes down at the first place, over the others, and up at the last.
     *
     * @param  list<array{float, float}>  $places
     * @param  int  $modifiers  8: Shift
     */
    private function mouse(array $places, int $modifiers): void
    {
        $tools = new ChromeDevToolsDriver($this->browser);
        $send = static fn (string $type, array $at, int $buttons): mixed => $tools->execute('Input.dispatchMouseEvent', ['type' => $type, 'x' => (int) $at[0], 'y' => (int) $at[1], 'button' => 'left', 'buttons' => $buttons, 'clickCount' => 1, 'modifiers' => $modifiers]);
        $send('mousePressed', $places[0], 1);
        foreach (array_slice($places, 1) as $at) {
            $send('mouseMoved', $at, 1);
        }
        $send('mouseReleased', $places[count($places) - 1], 0);
    }
}
