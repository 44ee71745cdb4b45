<?php

declare(strict_types=1);

namespace Tests\Browser;

use Demo\SignalStation;
use Facebook\WebDriver\WebDriverBy;
use ZipArchive;

/**
 * The whole path with real files, as a person walks it.
 */
final class WholePathTest extends BrowserTestCase
{
    public function test_from_an_empty_rack_over_mended_names_to_id_files(): void
    {
        $this->open('/');
        $this->waitFor('The rack is empty');
        $this->assertAccessible('the empty rack');

        $this->handInFile('model.fbx', 'x');
        $this->waitFor('.fbx is a format that is not read yet');
        self::assertStringContainsString('The rack is empty', $this->text());

        $this->handIn(SignalStation::tideGauge());
        $this->waitFor('9 of 12 parts tie exactly');
        $this->waitFor('4 blockers');
        $this->assertAccessible('Pairing');
        $this->assertNothingCutOff('Pairing');
        self::assertStringContainsString('bracket_low has no high part', $this->text());
        self::assertStringContainsString('Dial_high', $this->browser->findElement(WebDriverBy::cssSelector('[aria-label="rename plan"]'))->getText());

        // Keys: walk the findings, and the address holds what is chosen.
        $this->press('j');
        $this->press('j');
        self::assertMatchesRegularExpression('/finding=\d+/', $this->browser->getCurrentURL());
        self::assertCount(1, $this->browser->findElements(WebDriverBy::cssSelector('.finding.chosen')));

        $this->click('Write mended files');
        $this->waitFor('delivery 2');
        $this->waitFor('11 of 12 parts tie exactly');
        $this->waitFor('2 blockers');
        $this->click('Bake on itself');
        $this->waitFor('All 12 ties hold exactly');
        $this->waitFor('1 blocker');

        // The mended files, as they come out.
        $zip = $this->unzip($this->download($this->button('Download files')));
        self::assertStringContainsString("\no dial_high\n", (string) $zip->getFromName('gauge_high.obj'));

        $this->press('4');
        $this->waitFor('Two of 8 colours will be picked as one');
        $this->assertAccessible('Color ID');
        $this->click('Write ID files');
        $this->waitFor('Write again');
        $zip = $this->unzip($this->download($this->browser->findElement(WebDriverBy::linkText('Download'))));
        self::assertNotFalse($zip->locateName('gauge_id.obj'));

        $this->press('8');
        $this->waitFor('1 thing stands in the way');
        self::assertFalse($this->button('Seal package')->isEnabled());
        $this->assertAccessible('Hand-off');
        $this->press('1');
        $this->waitFor('All files are usable, at one size');
        $this->assertAccessible('Intake');
        $this->assertNothingCutOff('Intake');
        $this->press('7');
        $this->waitFor('Proof is not built yet');
        $this->assertAccessible('a station that is not built');
    }

    public function test_the_lantern_is_taken_apart_and_written(): void
    {
        $this->handIn(SignalStation::signalLantern());
        $this->waitFor('All 11 ties hold exactly');
        $this->press('5');
        $this->waitFor('Apart by moving 2 sets');
        self::assertStringContainsString('proved by shooting again', $this->text());
        $this->assertAccessible('Clearance');
        $this->assertNothingCutOff('Clearance');
        self::assertSame('yes', $this->browser->findElement(WebDriverBy::className('stand'))->getAttribute('data-drawn'));
        $slider = $this->browser->findElement(WebDriverBy::cssSelector('input[type=range]'));
        $before = $this->browser->takeScreenshot();
        $slider->sendKeys("\u{E010}");
        usleep(800_000);
        self::assertSame('100', $slider->getAttribute('value'));
        self::assertNotSame($before, $this->browser->takeScreenshot(), 'the stand shows the sets apart');
        $this->click('Write exploded files');
        $this->waitFor('Write again');
        $zip = $this->unzip($this->download($this->button('Download lantern_exploded.zip')));
        $plan = json_decode((string) $zip->getFromName('explode.json'), true);
        self::assertEquals(0, $plan['bleedAfter'] ?? null);
        self::assertNotFalse($zip->locateName('lantern_high.glb'));
    }

    public function test_the_winch_is_sealed_in_the_dark_and_downloaded(): void
    {
        $this->handIn(SignalStation::mooringWinch());
        $this->waitFor('ready to bake');
        $this->click('night');
        $this->press('8');
        $this->waitFor('Ready to hand off');
        $this->assertAccessible('Hand-off at night');
        $this->click('Seal package');
        $this->waitFor('read back and found as meant');
        $zip = $this->unzip($this->download($this->button('Download package')));
        $ticket = json_decode((string) $zip->getFromName('ticket.json'), true);
        self::assertSame(['Winch', 'ready'], [$ticket['asset'] ?? null, $ticket['verdict'] ?? null]);
        foreach (explode("\n", trim((string) $zip->getFromName('SHA256SUMS'))) as $line) {
            [$sum, $name] = explode('  ', $line);
            self::assertSame($sum, hash('sha256', (string) $zip->getFromName($name)), $name);
        }
        $this->open('/');
        $this->waitFor('SEALED');
        $this->assertAccessible('the rack at night');
    }

    public function test_a_broken_file_says_where_and_the_page_stays_usable(): void
    {
        $this->open('/');
        $this->waitFor('Drop low- and high-poly files here');
        $this->handInFile('float_low.obj', "v 0 0 0\nv 1 0 nan\n");
        $this->waitFor('There are no parts to pair');
        $this->waitFor('1 blocker');
        $this->press('1');
        $this->waitFor('1 file cannot be read');
        self::assertStringContainsString('line 2', $this->text());
        $this->assertAccessible('Intake with a broken file');
    }

    private function unzip(string $bytes): ZipArchive
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'anvil-zip');
        file_put_contents($path, $bytes);
        $zip = new ZipArchive;
        self::assertTrue($zip->open($path));

        return $zip;
    }
}
