<?php

declare(strict_types=1);

namespace Tests\Browser;

use Demo\SignalStation;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

/**
 * An island is chosen on the UV page and found in the stand, and the other way round; one is declared to share texels.
 */
final class SurfaceTest extends BrowserTestCase
{
    public function test_an_island_is_chosen_on_the_page_and_found_in_the_stand_and_back(): void
    {
        $this->handIn(SignalStation::tideGauge());
        $this->waitFor('6 blockers', 120);
        $this->waitForNot('so far', 120);
        $this->waitForStand();
        $this->press('6');
        $this->waitFor('UV islands lie on each other on the page', 60);
        $this->waitFor('bracket_low');
        $this->assertAccessible('Surface');
        $this->assertNothingCutOff('Surface');
        $canvas = $this->found(WebDriverBy::cssSelector('canvas[role=application]'));
        self::assertStringContainsString('UV page gauge', (string) $canvas->getAttribute('aria-label'));
        // The middle of the large island at the lower left of the page.
        $this->clickAt($canvas, 0.28, 0.62);
        $this->waitFor('backplate_low ·', 20);
        self::assertMatchesRegularExpression('/island=\d+/', $this->browser->getCurrentURL());
        self::assertMatchesRegularExpression('/part=backplate_low/', $this->browser->getCurrentURL());
        $this->waitFor('nearest gap', 20);
        // By keyboard to the next one, and from the list.
        $before = $this->browser->getCurrentURL();
        $canvas->sendKeys(WebDriverKeys::ARROW_RIGHT);
        self::assertNotSame($before, $this->browser->getCurrentURL());
        $this->found(WebDriverBy::xpath("//button[contains(., 'bracket_low') and contains(., 'grow')]"))->click();
        $this->waitFor('bracket_low · 372 px/unit', 20);
        // A click in the stand, in the middle of the model, chooses what lies there on the page.
        $stand = $this->found(WebDriverBy::cssSelector('.stand canvas'));
        $this->clickAt($stand, 0.5, 0.55);
        $this->waitForNot('bracket_low · 372 px/unit', 20);
        self::assertMatchesRegularExpression('/island=\d+/', $this->browser->getCurrentURL());
        $chosen = $this->browser->getCurrentURL();
        $this->click('texels in the stand');
        // A link shows a colleague the same spot.
        $this->browser->navigate()->refresh();
        $this->waitFor('nearest gap', 60);
        self::assertSame($chosen, $this->browser->getCurrentURL());
        // The housing's side may lie on what is under it.
        $this->choose('which islands are listed', 'all islands');
        foreach (range(1, 60) as $_) {
            if (str_contains($this->text(), 'housing_low ·') && str_contains($this->text(), 'lies on others')) {
                break;
            }
            $before = $this->browser->getCurrentURL();
            $this->found(WebDriverBy::cssSelector('canvas[role=application]'))->sendKeys(WebDriverKeys::ARROW_RIGHT);
            // The next one is chosen, and told of.
            self::comes(fn (): bool => $this->browser->getCurrentURL() !== $before, 5);
        }
        $this->waitFor('lies on others', 10);
        $this->click('May lie on others');
        $this->waitForNot('UV islands lie on each other on the page', 120);
        $this->waitFor('Must lie apart', 60);
        $this->waitFor('declared to share texels', 60);
        $this->assertAccessible('Surface with a declared island');
    }
}
