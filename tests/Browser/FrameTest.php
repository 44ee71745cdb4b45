<?php

declare(strict_types=1);

namespace Tests\Browser;

use Anvil\Modelling\Shapes;
use Demo\SignalStation;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

/**
 * What all stations have in common: answers that come in steps, causes, the border, the search; and that all of it can be read by everybody.
 */
final class FrameTest extends BrowserTestCase
{
    public function test_findings_come_in_steps_and_a_name_is_mended_while_rays_are_shot(): void
    {
        $low = $high = [];
        for ($i = 0; $i < 80; $i++) {
            $low["dolphin {$i}_low"] = Shapes::box(1, 1, 1)->moved(3.0 * $i, 0, 0);
            $high[$i === 3 ? 'Dolphin 3_high' : "dolphin {$i}_high"] = Shapes::roundedBox(1, 1, 1, 0.05, 10)->moved(3.0 * $i, 0, 0);
        }
        $this->handInShapes(['dolphin_low.obj' => $low, 'dolphin_high.obj' => $high], true);
        // The low poly turns in the stand, and its own findings are told, while the high poly is still read.
        $this->waitFor('dolphin_high.obj is being read');
        $this->waitForStand();
        $this->press('1');
        $this->waitFor('80 parts of dolphin_low.obj have names that programs trip over');
        $this->waitFor('so far');
        // Names are judged before the rays are shot, and mended meanwhile.
        $this->press('2');
        $this->waitFor('would tie but for letter case');
        $this->waitFor('1 blocker so far');
        $this->waitFor('the verdict waits for the rays of');
        $this->click('Write mended files');
        $this->waitFor('delivery 2');
        $this->assertAccessible('Pairing while rays are shot');
        $this->waitFor('All 80 ties hold exactly');
        // That stopped the other one.
        $this->found(WebDriverBy::xpath("//button[contains(., 'delivery 2')]"))->click();
        $this->found(WebDriverBy::xpath("//li[starts-with(normalize-space(.), 'delivery 1')]"))->click();
        $this->waitFor('Checking was stopped. Stopped, since delivery 2 was made of it with its files mended.');
    }

    public function test_a_cause_is_opened_and_walked_by_keyboard(): void
    {
        $low = $high = [];
        for ($i = 0; $i < 5; $i++) {
            $low["slip {$i}_low"] = Shapes::box(1, 1, 1)->moved(3.0 * $i, 0, 0);
            $high["slip{$i}_high"] = Shapes::roundedBox(1, 1, 1, 0.05, 2)->moved(3.0 * $i, 0, 0);
        }
        $this->handInShapes(['slip_low.obj' => $low, 'slip_high.obj' => $high], true);
        $this->waitFor('blockers', 60);
        $this->waitForNot('so far', 60);
        $this->press('1');
        $this->waitFor('5 parts of slip_low.obj have names that programs trip over: slip 0_low, slip 1_low, slip 2_low, …');
        $this->waitFor('1 cause, 5 findings');
        self::assertSame('1 caution, 5 parts and sets in all', $this->found(WebDriverBy::cssSelector('nav .caution'))->getAttribute('title'));
        $this->press('j');
        self::assertMatchesRegularExpression('/cause=\d+/', $this->browser->getCurrentURL());
        $this->waitFor('and 1 more', 20);
        $this->waitFor('what mends it', 20);
        $this->type(WebDriverKeys::ARROW_RIGHT);
        $this->waitFor('"slip 4_low" has a blank inside');
        $this->press('j');
        self::assertMatchesRegularExpression('/finding=\d+/', $this->browser->getCurrentURL());
        $this->assertAccessible('an open cause');
        $this->press('k');
        self::assertDoesNotMatchRegularExpression('/finding=\d+/', $this->browser->getCurrentURL());
        $this->type(WebDriverKeys::ARROW_LEFT);
        $this->waitForNot('"slip 4_low" has a blank inside');
    }

    public function test_the_border_is_moved_and_kept_and_the_stand_takes_the_window(): void
    {
        $this->handIn(SignalStation::signalLantern());
        $this->waitFor('All 11 ties hold exactly');
        $border = fn (): string => (string) $this->found(WebDriverBy::cssSelector('[role=separator]'))->getAttribute('aria-valuenow');
        self::assertSame('58', $border());
        $this->drag($this->found(WebDriverBy::cssSelector('[role=separator]')), -128);
        self::assertSame('48', $border());
        $this->assertNothingCutOff('Pairing with a narrow work area');
        $this->browser->navigate()->refresh();
        $this->waitFor('All 11 ties hold exactly');
        self::assertSame('48', $border());
        $wide = fn (): int => $this->found(WebDriverBy::className('stand'))->getSize()->getWidth();
        $narrow = $wide();
        $this->press('f');
        $this->waitForNot('All 11 ties hold exactly');
        self::assertGreaterThan(1270, $wide());
        $this->assertAccessible('the stand with the whole window');
        $this->press('f');
        $this->waitFor('All 11 ties hold exactly');
        self::assertSame($narrow, $wide());
        // What the stand can show: other colors, a cut with a slider, a distance.
        $before = $this->standShot();
        $this->choose('colors of the stand', 'color: sets');
        $colored = $this->standShot();
        self::assertNotSame($before, $colored);
        $this->click('cut');
        $this->found(WebDriverBy::cssSelector('[aria-label="how deep the cut goes"]'))->sendKeys(str_repeat(WebDriverKeys::ARROW_RIGHT, 9));
        self::assertNotSame($colored, $this->standShot());
        $this->assertAccessible('the stand with a cut');
        $this->click('measure');
        $this->waitFor('pick two points on the model');
    }

    public function test_a_symptom_is_searched_and_leads_to_its_cause(): void
    {
        $this->handIn(SignalStation::tideGauge());
        $this->waitFor('6 blockers');
        $this->openSearch();
        $this->type('bakes flat');
        $this->waitFor('suffix-case');
        $this->assertAccessible('the search');
        $this->type('leaning');
        $this->waitFor('no check is known by that');
        $this->type(WebDriverKeys::ESCAPE);
        $this->openSearch();
        $this->type('colors picked twice');
        $this->waitFor('id-close');
        $this->type(WebDriverKeys::ENTER);
        $this->waitFor('Two of 8 colors will be picked as one');
        self::assertMatchesRegularExpression('#/color-id\?finding=\d+#', $this->browser->getCurrentURL());
        // From the rack as well.
        $this->open('/');
        $this->waitFor('Gauge');
        $this->openSearch();
        $this->type('stilling');
        $this->waitFor('stilling_tube_a_high');
        $this->type(WebDriverKeys::ENTER);
        $this->waitFor('parts tie exactly');
        self::assertStringContainsString('part=stilling_tube_a_high', $this->browser->getCurrentURL());
    }

    public function test_every_screen_can_be_read_in_both_variants_and_at_every_width(): void
    {
        $this->handIn(SignalStation::tideGauge());
        $this->waitFor('6 blockers');
        $this->waitForNot('so far', 120);
        $base = (string) preg_replace('#/[^/]*$#', '', (string) parse_url($this->browser->getCurrentURL(), PHP_URL_PATH));
        foreach (['light' => 'Night', 'dark' => 'Paper'] as $variant => $other) {
            foreach (['intake', 'pairing', 'sets', 'color-id', 'clearance', 'surface', 'proof', 'hand-off'] as $station) {
                $this->open("$base/$station");
                $this->waitFor($other);
                $this->waitForNot('Fetching the');
                $this->assertAccessible("$station, $variant");
                foreach ([1024, 1280, 1920, 2560] as $width) {
                    $this->resize($width);
                    $this->assertNothingCutOff("$station at $width");
                }
                // 200 % of 1280: half as many CSS pixels.
                $this->resize(640, 400);
                // The stand takes its new width a moment later.
                self::assertTrue(self::comes(fn (): bool => $this->browser->executeScript('return document.documentElement.scrollWidth > innerWidth') === false, 5), "$station at 200 % scrolls sideways");
                $this->resize(1280);
            }
            foreach (['/', '/formats'] as $page) {
                $this->open($page);
                $this->waitFor($other);
                $this->assertAccessible("$page, $variant");
                foreach ([1024, 1920] as $width) {
                    $this->resize($width);
                    $this->assertNothingCutOff("$page at $width");
                }
                $this->resize(1280);
            }
            $this->click($other);
        }
    }

    private function standShot(): string
    {
        return $this->shot($this->found(WebDriverBy::className('stand')));
    }
}
