<?php

declare(strict_types=1);

namespace Tests\Browser;

use Anvil\Handoff\Verification;
use Demo\SignalStation;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

/**
 * A standard is changed with its effect shown before, and learned from a good asset; a package is sealed with what goes along, verified, and refused with one byte changed.
 */
final class StandardsTest extends BrowserTestCase
{
    public function test_a_standard_is_changed_with_its_effect_shown_and_one_is_learned(): void
    {
        $this->handIn(SignalStation::mooringWinch());
        $this->waitFor('ready to bake', 120);
        $this->open('/standards');
        $this->waitFor('built-in', 30);
        $this->assertAccessible('Standards');
        $this->found(WebDriverBy::linkText('built-in'))->click();
        $this->waitFor('in force for', 30);
        $this->assertAccessible('a standard');
        // A severity that would block: said before it is saved.
        $this->choose('severity of silhouette-loss', 'blocker');
        $this->waitFor('becomes blocked', 30);
        self::assertMatchesRegularExpression('/\d+ more blockers?, \d+ fewer notes?/', $this->text());
        $this->waitFor('would be blocked', 5);
        $this->assertAccessible('the effect of a standard');
        $this->click('Drop changes');
        $this->waitFor('in force for', 10);
        // A limit, saved with a reason: a version of its own, and the asset is checked again.
        $limit = $this->found(WebDriverBy::cssSelector('[aria-label="limit of uv-use"]'));
        $limit->sendKeys('60');
        $this->waitFor('Told of', 30);
        $this->found(WebDriverBy::cssSelector('[aria-label="what it is changed for"]'))->sendKeys('fuller pages');
        $this->click('Save as version 2');
        $this->waitFor('Version 2, in force for', 30);
        $this->click('Compare');
        $this->waitFor('fuller pages', 10);
        $this->compareWith('version 1,');
        $this->waitFor('uv-use limit', 10);
        $this->assertAccessible('comparing standards');
        // What good assets ask for.
        $this->choose('severity of silhouette-loss', 'caution');
        $this->click('Save as version 3');
        $this->waitFor('Version 3, in force for', 30);
        $this->open('/');
        $this->waitFor('Winch', 30);
        $this->waitForNot('checking', 60);
        $this->open('/standards');
        $this->waitFor('built-in', 30);
        $this->found(WebDriverBy::linkText('built-in'))->click();
        $this->waitFor('in force for', 30);
        $this->click('Learn');
        $this->waitFor('Tick assets', 10);
        $this->found(WebDriverBy::xpath("//label[contains(., 'Winch')]"))->click();
        $this->click('Propose limits from 1 asset');
        $this->waitFor('to move', 20);
        self::assertStringContainsString('silhouette-loss', $this->text());
        $this->assertAccessible('learning');
        $this->click('Take these limits');
        $this->waitFor('fewer caution', 30);
        $this->click('Save as version 4');
        $this->waitFor('Version 4, in force for', 30);
        // Back to how it began.
        $this->click('Compare');
        $this->compareWith('version 1,');
        $this->click('Take all from version 1');
        $this->click('Save as version 5');
        $this->waitFor('Version 5, in force for', 30);
    }

    public function test_a_package_is_sealed_with_what_goes_along_and_one_byte_changed_is_refused(): void
    {
        $this->handIn(SignalStation::mooringWinch());
        $this->waitFor('ready to bake', 120);
        $this->press('8');
        $this->waitFor('What goes along with the package', 60);
        $this->found(WebDriverBy::xpath("//label[contains(., 'cages')]"))->click();
        $this->found(WebDriverBy::xpath("//label[contains(., 'retouch masks')]"))->click();
        $this->assertAccessible('Hand-off, about to be sealed');
        $this->click('Seal package');
        $this->waitFor('with cages, retouch masks', 90);
        $this->assertNothingCutOff('Hand-off');
        $bytes = $this->download($this->found(WebDriverBy::linkText('Download package')));
        $path = sys_get_temp_dir().'/anvil-browser-'.bin2hex(random_bytes(4)).'.zip';
        file_put_contents($path, $bytes);
        self::assertSame([], Verification::of($path)->findings);
        // The page to print is there, and says the same.
        self::assertStringContainsString('Who shades whom', $this->fetched((string) $this->found(WebDriverBy::linkText('Page to print'))->getAttribute('href')));
        // Dropped on the rack it is its delivery; with one byte changed it is refused.
        $where = $this->browser->getCurrentURL();
        $this->give($path);
        $this->waitFor('already has these files, byte for byte', 60);
        self::assertStringContainsString((string) preg_replace('#/[^/]+$#', '', (string) parse_url($where, PHP_URL_PATH)), $this->browser->getCurrentURL());
        $bytes[500] = chr(ord($bytes[500]) ^ 1);
        file_put_contents($path, $bytes);
        $this->give($path);
        $this->waitFor('not as it was sealed', 60);
        unlink($path);
    }

    public function test_the_guide_is_reached_from_a_station_by_a_key_and_by_the_search(): void
    {
        $this->handIn(SignalStation::mooringWinch());
        $this->waitFor('ready to bake', 120);
        $this->press('5');
        $this->waitFor('have a distance that works', 60);
        $this->press('?');
        $this->waitFor('walks through a day', 10);
        $this->type(WebDriverKeys::ESCAPE);
        $this->waitForNot('walks through a day', 10);
        $this->found(WebDriverBy::linkText('Guide'))->click();
        $this->waitFor('The span gauge', 30);
        self::assertStringEndsWith('/guide/technical-artist#clearance', $this->browser->getCurrentURL());
        $this->assertAccessible('the guide');
        $this->openSearch();
        $this->type('watched folder');
        $this->waitFor('Watched folder', 20);
        $this->type(WebDriverKeys::ENTER);
        $this->waitFor('handed in once it has stopped changing', 20);
        self::assertStringEndsWith('/guide/pipeline#watched-folder', $this->browser->getCurrentURL());
        $this->openSearch();
        $this->type('floater-rim');
        $this->waitFor('floater-rim', 20);
        $this->type(WebDriverKeys::ENTER);
        $this->waitFor('Rim of floating detail', 20);
        $isShown = fn (): bool => $this->browser->executeScript("const i = document.querySelector('article img'); return i !== null && i.complete && i.naturalWidth > 100") === true;
        self::assertTrue(self::comes($isShown, 20), 'the drawing of the fault is shown');
    }

    private function compareWith(string $begin): void
    {
        $this->found(WebDriverBy::cssSelector('[aria-label="compare with"]'))->click();
        $option = WebDriverBy::xpath("//li[@role='option'][starts-with(normalize-space(.), '$begin')]");
        $this->waitForCount($option, 1);
        $this->settle();
        $this->browser->findElement($option)->click();
        $this->waitForCount(WebDriverBy::xpath("//li[@role='option']"), 0);
    }

    private function give(string $path): void
    {
        $this->open('/');
        $this->waitFor('Winch', 30);
        $this->found(WebDriverBy::cssSelector('input[type=file]'))->sendKeys($path);
    }
}
