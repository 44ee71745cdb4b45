<?php

declare(strict_types=1);

namespace Tests\Browser;

use Anvil\Modelling\Shapes;
use Demo\SignalStation;
use Facebook\WebDriver\WebDriverBy;
use Illuminate\Support\Facades\DB;
use ZipArchive;

/**
 * The whole path with real files, as a person walks it.
 */
final class WholePathTest extends BrowserTestCase
{
    public function test_from_an_empty_rack_over_mended_names_to_id_files(): void
    {
        DB::table('assets')->delete();
        $this->open('/');
        $this->waitFor('The rack is empty');
        $this->assertAccessible('the empty rack');

        $this->handInFile('model.fbx', 'x');
        $this->waitFor('.fbx is a format that is not read here');
        $this->waitFor('The rack is empty', 20);

        $this->handIn(SignalStation::tideGauge());
        $this->waitFor('9 of 12 parts tie exactly');
        $this->waitFor('6 blockers');
        $this->assertAccessible('Pairing');
        $this->assertNothingCutOff('Pairing');
        $this->waitFor('bracket_low has no high part', 20);
        self::assertStringContainsString('Dial_high', $this->found(WebDriverBy::cssSelector('[aria-label="rename plan"]'))->getText());

        // Keys: walk the findings, and the address holds what is chosen.
        $this->press('j');
        $this->press('j');
        self::assertMatchesRegularExpression('/finding=\d+/', $this->browser->getCurrentURL());
        self::assertCount(1, $this->browser->findElements(WebDriverBy::cssSelector('[aria-label=causes] button[aria-pressed=true]')));
        $this->waitFor('the part bakes flat', 20);

        $this->click('Write mended files');
        $this->waitFor('delivery 2');
        $this->waitFor('11 of 12 parts tie exactly');
        $this->waitFor('4 blockers');
        $this->click('Bake on itself');
        $this->waitFor('All 12 ties hold exactly');
        $this->waitFor('3 blockers');

        // The mended files, as they come out.
        $zip = $this->unzip($this->download($this->button('Download files')));
        self::assertStringContainsString("\no dial_high\n", (string) $zip->getFromName('gauge_high.obj'));

        $this->press('4');
        $this->waitFor('Two of 8 colors will be picked as one');
        $this->assertAccessible('Color ID');
        $this->click('to give');
        $this->waitFor('11 IDs to give', 60);
        $this->click('Write ID files');
        $this->waitFor('Download', 60);
        $zip = $this->unzip($this->download($this->found(WebDriverBy::linkText('Download'))));
        self::assertNotFalse($zip->locateName('gauge_id.obj'));

        $this->press('8');
        $this->waitFor('3 causes stand in the way');
        self::assertFalse($this->button('Seal package')->isEnabled());
        $this->assertAccessible('Hand-off');
        $this->press('1');
        $this->waitFor('Same thing, same place, same size');
        $this->assertAccessible('Intake');
        $this->assertNothingCutOff('Intake');
        $this->press('7');
        $this->waitFor('Maps that came back');
    }

    public function test_the_lantern_is_taken_apart_and_written(): void
    {
        $this->handIn(SignalStation::signalLantern());
        $this->waitFor('All 11 ties hold exactly');
        $this->press('5');
        $this->waitFor('Apart by moving 2 sets');
        $this->waitFor('proved by shooting again', 20);
        $this->assertAccessible('Clearance');
        $this->assertNothingCutOff('Clearance');
        self::assertSame('yes', $this->found(WebDriverBy::className('stand'))->getAttribute('data-drawn'));
        $slider = $this->found(WebDriverBy::cssSelector('input[type=range]'));
        $before = $this->shot();
        $slider->sendKeys("\u{E010}");
        self::until(static fn (): bool => $slider->getAttribute('value') === '100', 'the slider did not go to its end');
        self::assertNotSame($before, $this->shot(), 'the stand shows the sets apart');
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
        $this->click('Night');
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
        $this->waitFor('line 2', 20);
        $this->assertAccessible('Intake with a broken file');
        $this->click('delivery 1');
        // While the menu opens it moves.
        $this->waitForCount(WebDriverBy::xpath('//li[contains(., "Delete Float")]'), 1);
        $this->settle();
        $this->found(WebDriverBy::xpath('//li[contains(., "Delete Float")]'))->click();
        $this->waitFor('will be gone for good');
        self::assertFalse($this->found(WebDriverBy::cssSelector('button[type=submit]'))->isEnabled(), 'asked twice: its name is typed first');
        $this->assertAccessible('the question before an asset is deleted');
        $this->found(WebDriverBy::cssSelector('.MuiDialog-root input'))->sendKeys('Float');
        $this->click('Delete');
        $this->waitFor('Drop low- and high-poly files here');
        $this->waitForNot('Float');
    }

    public function test_a_high_poly_in_another_unit_is_mended_on_intake_and_its_names_on_pairing(): void
    {
        $low = $high = [];
        foreach (['bollard', 'chain', 'plate'] as $i => $base) {
            $low["{$base}_low"] = Shapes::box(1, 1 + $i, 1)->moved(3 * $i, 0, 0);
            // The names of two are exchanged, and all is a hundred times too large.
            $name = ['bollard' => 'chain', 'chain' => 'bollard', 'plate' => 'plate'][$base];
            $high["{$name}_high"] = Shapes::roundedBox(100, 100 + 100 * $i, 100, 4, 2)->moved(300 * $i, 0, 0);
        }
        $this->handInShapes(['quay_low.obj' => $low, 'quay_high.obj' => $high]);
        $this->waitFor('Rename plan');
        $this->press('1');
        $this->waitFor('High and low poly differ in size');
        $this->waitFor('The high poly scaled by 1/100 fits the low poly');
        $this->assertAccessible('Intake with a wrong unit');
        $this->assertNothingCutOff('Intake with a wrong unit');
        $this->click('Write mended high poly');
        $this->waitFor('delivery 2');
        $this->waitFor('Same thing, same place, same size');

        // What another role would do is said before it is given, and it can be left.
        $this->choose('role of quay_high.obj', 'low poly');
        $this->waitFor('3 parts would contradict it');
        $this->click('Leave');

        $this->press('2');
        $this->waitFor('1 of 3 parts tie exactly');
        $this->waitFor('2 names lead to a part that stands elsewhere');
        $this->waitFor('1 pair now, 3 of 3 then');
        $this->assertAccessible('Pairing with crossed names');

        // A tool shows what it would do; nothing is kept until it is taken.
        $this->click('Find and replace');
        $this->found(WebDriverBy::cssSelector('[aria-label="find"]'))->sendKeys('plate');
        $this->found(WebDriverBy::cssSelector('[aria-label="replace by"]'))->sendKeys('fender');
        $this->waitFor('2 more');
        $this->assertAccessible('a rename tool');
        $this->click('Add to plan');
        $this->waitFor('Rename plan · 4 names');
        $this->click('Write mended files');
        $this->waitFor('delivery 3');
        $this->waitFor('All 3 ties hold exactly');
        $this->waitFor('fender', 20);
        $this->click('undo: back to it');
        $this->waitFor('delivery 2');

        // Keys walk the ledger, F2 renames the high part of the chosen tie.
        $list = $this->found(WebDriverBy::cssSelector('[aria-label="ties"]'));
        $list->sendKeys("\u{E015}");
        self::assertStringContainsString('part=', $this->browser->getCurrentURL());
        $list->sendKeys("\u{E032}");
        self::assertCount(1, $this->browser->findElements(WebDriverBy::cssSelector('input[aria-label^="new name of"]')));
    }

    public function test_own_suffixes_are_proposed_and_a_closed_format_leads_to_the_page_on_formats(): void
    {
        $parts = [];
        foreach (['bell', 'yoke'] as $i => $base) {
            $parts["{$base}_lo"] = Shapes::box(1, 1, 1)->moved(3 * $i, 0, 0);
            $parts["{$base}_hi"] = Shapes::roundedBox(1, 1, 1, 0.05, 2)->moved(3 * $i, 0, 0);
        }
        $this->handInShapes(['bell.obj' => $parts]);
        $this->waitFor('With these suffixes 2 of 2 names would pair');
        $this->assertAccessible('Pairing without roles');
        $this->click('Use these suffixes');
        $this->waitFor('All 2 ties hold exactly');
        $this->open('/');
        $this->waitFor('what each carries');
        $this->click('what each carries');
        $this->waitFor('names of parts');
        $this->assertAccessible('the page on formats');
        self::assertFalse($this->browser->executeScript('return document.documentElement.scrollWidth > innerWidth'));
    }

    public function test_sets_are_put_together_on_the_board_and_a_reach_is_tried(): void
    {
        $low = $high = [];
        foreach (['cleat', 'ring', 'block'] as $i => $base) {
            $low["{$base}_low"] = Shapes::box(1, 1, 1)->moved(3 * $i, 0, 0);
            $high["{$base}_high"] = Shapes::roundedBox(1, 1, 1, 0.05, 2)->moved(3 * $i, 0, 0);
        }
        $this->handInShapes(['tackle_low.obj' => $low, 'tackle_high.obj' => $high]);
        $this->waitFor('All 3 ties hold exactly');
        $this->press('3');
        $this->waitFor('3 sets, none in another');
        $this->assertAccessible('Sets');
        $this->assertNothingCutOff('Sets');
        $this->waitFor('1 set would stay as clean as 3');
        // Who shades whom: marked in the matrix, it is a choice of the asset.
        $this->click('Who shades whom');
        $this->waitFor('Occlusion is baked with');
        $this->found(WebDriverBy::cssSelector('[title*="stands in"][title*="over ring"]'))->click();
        self::assertTrue($this->found(WebDriverBy::xpath("//label[contains(., 'those marked below')]//input"))->isSelected());
        $this->assertAccessible('Who shades whom');
        $this->assertNothingCutOff('Who shades whom');
        foreach (['cleat', 'ring'] as $base) {
            $this->found(WebDriverBy::xpath("//*[contains(@class,'MuiChip-root')][normalize-space(.)='$base']"))->click();
        }
        $this->found(WebDriverBy::cssSelector('[aria-label="set to move to"]'))->sendKeys('fittings');
        $this->assertAccessible('Sets with parts held');
        $this->click('Move');
        // The foot has another row of buttons once nothing is held.
        $this->waitFor('Split');
        $this->waitFor('Drag parts, click them');
        $this->click('Apply, check again');
        $this->waitFor('2 sets, none in another');
        $this->waitFor('fittings', 20);
        $this->press('5');
        $this->waitFor('All 2 sets have a distance that works');
        $this->found(WebDriverBy::xpath("//button[normalize-space(.)='fittings']"))->click();
        $this->waitFor('meets nothing');
        // The handle on the gauge is dragged toward the low surface: what is higher is missed; kept, it is the set's.
        $handle = $this->found(WebDriverBy::cssSelector('[aria-label="reach of fittings"]'));
        $this->drag($handle, -20);
        $this->waitFor('As it was');
        $this->assertAccessible('a reach that is tried');
        $tried = (float) $handle->getAttribute('aria-valuenow');
        $this->click('Keep');
        $this->waitFor('As recommended');
        $this->waitFor('reach set here');
        self::assertEqualsWithDelta($tried, (float) $this->found(WebDriverBy::cssSelector('[aria-label="reach of fittings"]'))->getAttribute('aria-valuenow'), 1e-9);
        $this->click('As recommended');
        $this->waitForNot('reach set here');
        $this->click('Fit cages');
        $this->waitFor('Download cages');
        $this->waitFor('Cages fit all 2 sets clean');
        $this->click('Show in the stand');
        $this->waitFor('what is not veiled stands out of the cage');
        self::assertSame('fitted', trim($this->found(WebDriverBy::cssSelector('[aria-label="which cage"] [aria-pressed=true]'))->getText()));
        $this->assertAccessible('Clearance with cages');
        $this->assertNothingCutOff('Clearance with cages');
        self::assertNotFalse($this->unzip($this->download($this->button('Download cages')))->locateName('tackle_cage.obj'));
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
