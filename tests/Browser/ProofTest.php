<?php

declare(strict_types=1);

namespace Tests\Browser;

use Anvil\Formats\FolderSink;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Part;
use Anvil\Modelling\Shapes;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use Imagick;

/**
 * The trial appears by itself, the loupe stands over all maps at one texel, a map with its green inverted is told and shown, before and after are dragged under a divider.
 */
final class ProofTest extends BrowserTestCase
{
    public function test_the_trial_appears_and_a_map_that_came_back_wrong_is_told_and_shown(): void
    {
        $folder = sys_get_temp_dir().'/anvil-proof-files-'.bin2hex(random_bytes(4));
        $sink = new FolderSink($folder);
        $shape = static fn (array $p): float => 0.1 * max(0.0, 1 - (($p[0] - 0.4) ** 2 + ($p[2] + 0.3) ** 2) / 0.12) + 0.03 * sin(7 * $p[0] + 2 * $p[2]);
        ObjWriter::write([new Part('tablet_low', Shapes::sheet(2, 2)->placed(0.02, 0.05, 0.9)->mesh(180, [[0, 'tablet']]))], 'tablet_low.obj', $sink);
        ObjWriter::write([new Part('tablet_high', Shapes::sheet(2, 2, 50, 50)->mapped(static fn (array $p): array => [$p[0], $shape($p), $p[2]])->triangulated()->mesh(180))], 'tablet_high.obj', $sink);
        $sink->commit();
        $this->open('/');
        $this->waitFor('Rack');
        $field = $this->found(WebDriverBy::cssSelector('input[type=file]'));
        $field->sendKeys("$folder/tablet_low.obj\n$folder/tablet_high.obj");
        $this->waitForAddress('/pairing');
        $this->waitFor('tablet_low', 60);
        $this->waitForNot('so far', 120);
        $this->waitForStand();
        $this->press('7');
        $this->waitFor('Nothing is left to paint after the bake', 120);
        // All six are there once they are baked.
        $this->waitForCount(WebDriverBy::cssSelector('[data-map] canvas[role=img]'), 6);
        self::assertCount(6, $this->browser->findElements(WebDriverBy::cssSelector('[data-map] canvas[role=img]')));
        $this->assertAccessible('Proof');
        $this->assertNothingCutOff('Proof');
        // A place on one map is that place on all of them, and lies in the address.
        $this->clickAt($this->found(WebDriverBy::cssSelector('[data-map=normal]')), 0.5, 0.5);
        $this->waitFor('% of the sky', 20);
        $this->waitFor('% of the reach', 20);
        self::assertMatchesRegularExpression('/texel=tablet%3A10\d\d%2C10\d\d/', $this->browser->getCurrentURL());
        self::assertCount(12, $this->browser->findElements(WebDriverBy::cssSelector('[data-map] canvas')), 'a loupe over each');
        // A place on the model is one on the maps.
        $before = $this->browser->getCurrentURL();
        $this->clickAt($this->found(WebDriverBy::cssSelector('.stand canvas')), 0.45, 0.55);
        self::comes(fn (): bool => $this->browser->getCurrentURL() !== $before, 10);
        self::assertNotSame($before, $this->browser->getCurrentURL());

        // The map comes back from a baker with its green inverted.
        $url = (string) $this->browser->executeScript("return performance.getEntriesByType('resource').map((one) => one.name).find((name) => /proof\\/\\d+\\/normal$/.test(name))");
        $image = new Imagick;
        $image->readImageBlob($this->fetched($url));
        $image->negateImage(false, Imagick::CHANNEL_GREEN);
        $image->writeImage("png48:$folder/tablet_normal.png");
        $upload = $this->found(WebDriverBy::cssSelector('section[aria-label="maps that came back"] input[type=file]'));
        $upload->sendKeys("$folder/tablet_normal.png");
        $this->waitFor('tablet_normal.png did not come back right', 120);
        $this->waitFor('green inverted', 30);
        $this->waitFor('came back: normal', 60);
        $this->waitFor('map-green', 30);

        // Beside the trial under one divider, which is dragged and moved by keys.
        $this->choose('compared with', 'tablet_normal.png that came back');
        $this->waitFor('tablet_normal.png', 20);
        $divider = $this->found(WebDriverBy::cssSelector('.stand-divider'));
        self::assertSame('50', $divider->getAttribute('aria-valuenow'));
        $this->drag($divider, 90);
        $this->until(fn (): bool => (int) $this->found(WebDriverBy::cssSelector('.stand-divider'))->getAttribute('aria-valuenow') > 60, 'the divider was not dragged');
        $this->found(WebDriverBy::cssSelector('.stand-divider'))->sendKeys([WebDriverKeys::ARROW_LEFT, WebDriverKeys::ARROW_LEFT]);
        self::assertLessThan((int) $divider->getAttribute('aria-valuemax'), (int) $this->found(WebDriverBy::cssSelector('.stand-divider'))->getAttribute('aria-valuenow'));
        $this->assertAccessible('Proof with a map that came back');

        // Taken back, it is not judged any more.
        // By script: what was just done is still said over the foot of the page.
        $this->browser->executeScript('arguments[0].click()', [$this->found(WebDriverBy::cssSelector('button[aria-label="Take back tablet_normal.png"]'))]);
        $this->waitFor('Nothing is left to paint after the bake', 120);
        exec('rm -r '.escapeshellarg($folder));
    }
}
