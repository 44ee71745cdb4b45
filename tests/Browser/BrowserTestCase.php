<?php

declare(strict_types=1);

namespace Tests\Browser;

use Anvil\Formats\Folder;
use Anvil\Formats\FolderSink;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Part;
use Anvil\Modelling\Polygons;
use Anvil\Tests\Support\Assets;
use Demo\DemoAsset;
use Facebook\WebDriver\Chrome\ChromeDevToolsDriver;
use Facebook\WebDriver\Chrome\ChromeOptions;
use Facebook\WebDriver\Cookie;
use Facebook\WebDriver\Exception\NoSuchElementException;
use Facebook\WebDriver\Exception\StaleElementReferenceException;
use Facebook\WebDriver\Interactions\WebDriverActions;
use Facebook\WebDriver\Remote\DesiredCapabilities;
use Facebook\WebDriver\Remote\RemoteWebDriver;
use Facebook\WebDriver\Remote\RemoteWebElement;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverElement;
use Facebook\WebDriver\WebDriverKeys;
use Tests\Support\Waits;
use Tests\TestCase;

/**
 * Headless Chromium at 1280×800 against the test run's own server. Waits look at the page, never at a clock alone.
 */
abstract class BrowserTestCase extends TestCase
{
    use Waits;

    /** @var resource|null */
    private static $process = null;

    private static string $folder;

    private static string $driverAddress;

    protected RemoteWebDriver $browser;

    public static function setUpBeforeClass(): void
    {
        self::$folder = sys_get_temp_dir().'/anvil-browser-'.bin2hex(random_bytes(4));
        mkdir(self::$folder);
        $socket = stream_socket_server('tcp://127.0.0.1:0');
        self::assertNotFalse($socket);
        $port = (int) substr((string) strrchr((string) stream_socket_get_name($socket, false), ':'), 1);
        fclose($socket);
        self::$driverAddress = "http://127.0.0.1:$port";
        self::$process = proc_open(['chromedriver', "--port=$port"], [1 => ['file', self::$folder.'/driver.log', 'w'], 2 => ['file', self::$folder.'/driver.log', 'w']], $pipes) ?: null;
        self::assertNotNull(self::$process);
        // A connection that the driver took while it was starting is never answered, so each try is short.
        $short = stream_context_create(['http' => ['timeout' => 0.5]]);
        self::until(static fn (): bool => @file_get_contents(self::$driverAddress.'/status', false, $short) !== false, 'the driver of the browser did not answer', 60);
    }

    public static function tearDownAfterClass(): void
    {
        if (self::$process !== null) {
            proc_terminate(self::$process);
            proc_close(self::$process);
            self::$process = null;
        }
        Folder::remove(self::$folder);
    }

    protected function setUp(): void
    {
        parent::setUp();
        $options = new ChromeOptions;
        $options->addArguments(['--headless=new', '--no-sandbox', '--disable-dev-shm-usage', '--hide-scrollbars', '--force-device-scale-factor=1', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--no-first-run', '--enable-unsafe-swiftshader', '--user-data-dir='.self::$folder.'/profile-'.bin2hex(random_bytes(3))]);
        $capabilities = DesiredCapabilities::chrome();
        $capabilities->setCapability(ChromeOptions::CAPABILITY, $options);
        $this->browser = RemoteWebDriver::create(self::$driverAddress, $capabilities, 30_000, 120_000);
        (new ChromeDevToolsDriver($this->browser))->execute('Emulation.setDeviceMetricsOverride', ['width' => 1280, 'height' => 800, 'deviceScaleFactor' => 1, 'mobile' => false]);
    }

    protected function tearDown(): void
    {
        if (! $this->status()->isSuccess()) {
            // What the page showed, for whoever mends it.
            $this->browser->takeScreenshot(base_path('var/log/browser-failure.png'));
        }
        $this->browser->quit();
        parent::tearDown();
    }

    protected function open(string $path): void
    {
        $this->browser->get(getenv('ANVIL_TEST_ADDRESS').$path);
    }

    /** Waits until a text stands on the page. */
    protected function waitFor(string $text, int $seconds = 180): void
    {
        self::until(fn (): bool => str_contains($this->text(), $text), fn (): string => "\"$text\" did not appear; the page says: ".mb_substr($this->text(), 0, 1500), $seconds);
    }

    protected function waitForNot(string $text, int $seconds = 180): void
    {
        self::until(fn (): bool => ! str_contains($this->text(), $text), "\"$text\" stayed", $seconds);
    }

    /** Opens the search, and waits until it takes what is typed. */
    protected function openSearch(): void
    {
        $this->press('/');
        self::until(fn (): bool => $this->browser->executeScript("return document.activeElement !== null && document.activeElement.matches('[role=dialog] input')") === true, 'the search did not open');
    }

    protected function waitForStand(): void
    {
        $this->waitForNot('Each file is shown as soon as it is read', 60);
        self::assertSame('yes', $this->browser->findElement(WebDriverBy::className('stand'))->getAttribute('data-drawn'));
    }

    /** Waits until a new page stands in the address. */
    protected function waitForAddress(string $part): void
    {
        self::until(fn (): bool => str_contains($this->browser->getCurrentURL(), $part), fn (): string => "no $part in {$this->browser->getCurrentURL()}");
    }

    /** Waits until so many elements are there. */
    protected function waitForCount(WebDriverBy $by, int $count, int $seconds = 60): void
    {
        self::until(fn (): bool => count($this->browser->findElements($by)) === $count, fn (): string => "{$by->getValue()}: ".count($this->browser->findElements($by))." for $count", $seconds);
    }

    /** Waits until what moves on the page has come to rest. */
    protected function settle(): void
    {
        self::until(fn (): bool => $this->browser->executeScript("return document.getAnimations().every((a) => a.playState !== 'running' || a.effect?.getComputedTiming().endTime === Infinity)") === true, 'something moves on and on');
    }

    /** A picture of an element once it changes no more; of the whole page without one. */
    protected function shot(?RemoteWebElement $element = null): string
    {
        $take = fn (): string => (string) ($element === null ? $this->browser->takeScreenshot() : $element->takeElementScreenshot());
        $last = $take();
        self::until(static function () use (&$last, $take): bool {
            [$before, $last] = [$last, $take()];

            return $before === $last;
        }, 'the picture changes on and on');

        return $last;
    }

    /** Drags from the middle of an element sideways, by the mouse. */
    protected function drag(WebDriverElement $from, int $pixels): void
    {
        $tools = new ChromeDevToolsDriver($this->browser);
        // A menu that is still closing lies over it.
        self::until(fn (): bool => $this->browser->executeScript('const box = arguments[0].getBoundingClientRect(); return arguments[0].contains(document.elementFromPoint(box.x + box.width / 2, box.y + box.height / 2))', [$from]) === true, 'what is to be dragged lies under something');
        $x = $from->getLocation()->getX() + intdiv($from->getSize()->getWidth(), 2);
        $y = $from->getLocation()->getY() + intdiv($from->getSize()->getHeight(), 2);
        foreach ([['mouseMoved', 0, 0], ['mousePressed', 0, 1], ['mouseMoved', intdiv($pixels, 2), 1], ['mouseMoved', $pixels, 1], ['mouseReleased', $pixels, 0]] as [$type, $by, $buttons]) {
            $tools->execute('Input.dispatchMouseEvent', ['type' => $type, 'x' => $x + $by, 'y' => $y, 'button' => 'left', 'buttons' => $buttons, 'clickCount' => 1]);
        }
    }

    /** The window, in CSS pixels. */
    protected function resize(int $width, int $height = 800): void
    {
        (new ChromeDevToolsDriver($this->browser))->execute('Emulation.setDeviceMetricsOverride', ['width' => $width, 'height' => $height, 'deviceScaleFactor' => 1, 'mobile' => false]);
    }

    /** Chooses one of the options of a field. */
    protected function choose(string $label, string $option): void
    {
        $this->found(WebDriverBy::cssSelector("[role=combobox][aria-label=\"$label\"]"))->click();
        $this->found(WebDriverBy::xpath("//li[@role='option'][normalize-space(.)='$option']"))->click();
    }

    /** Presses a key where the focus is, or on the page. */
    protected function type(string $keys): void
    {
        $this->browser->getKeyboard()->sendKeys($keys);
    }

    protected function text(): string
    {
        $text = $this->browser->executeScript('return document.body.innerText');

        return is_string($text) ? $text : '';
    }

    /** An element, once it is there. */
    protected function found(WebDriverBy $by): RemoteWebElement
    {
        self::until(fn (): bool => $this->browser->findElements($by) !== [], fn (): string => "{$by->getValue()} is not there; the page says: ".mb_substr($this->text(), 0, 1500));

        return $this->browser->findElement($by);
    }

    protected function button(string $label): RemoteWebElement
    {
        return $this->found(WebDriverBy::xpath("//*[self::button or self::a][contains(normalize-space(.), \"$label\")]"));
    }

    /** Clicks a button once it may be clicked. */
    protected function click(string $label): void
    {
        self::until(function () use ($label): bool {
            try {
                return $this->button($label)->isEnabled();
            } catch (NoSuchElementException|StaleElementReferenceException) {
                // It was drawn anew in between.
                return false;
            }
        }, "$label cannot be clicked");
        $this->button($label)->click();
    }

    protected function press(string $key): void
    {
        $this->browser->findElement(WebDriverBy::tagName('body'))->sendKeys($key === 'Enter' ? WebDriverKeys::ENTER : $key);
    }

    /** Hands files in through the rack's file chooser. */
    protected function handIn(DemoAsset $asset): void
    {
        $this->open('/');
        $this->waitFor('Drop low- and high-poly files here');
        $paths = array_values(self::demoFiles($asset, self::$folder.'/'.$asset->file));
        $this->browser->findElement(WebDriverBy::cssSelector('input[type=file]'))->sendKeys(implode("\n", $paths));
        // The rack tells of other deliveries what is waited for next.
        $this->waitForAddress('/deliveries/');
    }

    /**
     * @param  array<string, array<string, Polygons>>  $files  file → part → shape
     * @param  bool  $worn  each with a material
     */
    protected function handInShapes(array $files, bool $worn = false): void
    {
        $this->open('/');
        $this->waitFor('Drop low- and high-poly files here');
        $folder = self::$folder.'/shapes-'.bin2hex(random_bytes(4));
        $sink = new FolderSink($folder);
        $paths = [];
        foreach ($files as $name => $parts) {
            ObjWriter::write(array_map(static fn (string $part, Polygons $shape): Part => new Part($part, $worn ? Assets::worn($shape->mesh()) : $shape->mesh()), array_keys($parts), array_values($parts)), $name, $sink);
            $paths[] = "$folder/$name";
        }
        $sink->commit();
        $this->browser->findElement(WebDriverBy::cssSelector('input[type=file]'))->sendKeys(implode("\n", $paths));
    }

    protected function handInFile(string $name, string $content): void
    {
        file_put_contents(self::$folder."/$name", $content);
        $this->browser->findElement(WebDriverBy::cssSelector('input[type=file]'))->sendKeys(self::$folder."/$name");
    }

    /** Fetches what a link leads to. */
    protected function download(RemoteWebElement $link): string
    {
        return $this->fetched((string) $link->getAttribute('href'));
    }

    /** What an address leads to, as who is signed in on the page. */
    protected function fetched(string $href): string
    {
        $cookies = implode('; ', array_map(static fn (Cookie $one): string => $one->getName().'='.$one->getValue(), $this->browser->manage()->getCookies()));
        $bytes = file_get_contents(str_starts_with($href, 'http') ? $href : getenv('ANVIL_TEST_ADDRESS').$href, false, stream_context_create(['http' => ['header' => "Cookie: $cookies"]]));
        self::assertNotFalse($bytes);

        return $bytes;
    }

    /** axe-core (npm) on the page once what moves in it has come to rest: WCAG 2.2 A and AA. */
    protected function assertAccessible(string $where): void
    {
        $this->browser->executeScript((string) file_get_contents(base_path('node_modules/axe-core/axe.min.js')));
        $this->browser->manage()->timeouts()->setScriptTimeout(30);
        $violations = $this->browser->executeAsyncScript("const done = arguments[arguments.length - 1]; const still = Promise.allSettled(document.getAnimations().filter((a) => a.effect?.getComputedTiming().endTime !== Infinity).map((a) => a.finished)); still.then(() => axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] }).then((r) => done(r.violations.map((v) => v.id + ': ' + v.nodes.slice(0, 3).map((n) => n.html.slice(0, 160) + ' ' + (n.any[0]?.message ?? '')).join(' | ')))));");
        self::assertSame([], $violations, "accessibility of $where");
    }

    /** Nothing sticks out of the page, which does not scroll sideways. */
    protected function assertNothingCutOff(string $where): void
    {
        self::assertSame([], $this->browser->executeScript("return [...document.querySelectorAll('header *, nav *, main button, main input, main h1, main h2, main p, main a, [role=combobox]')].filter((e) => e.getBoundingClientRect().right > innerWidth + 1 && !e.closest('[role=region][aria-label$=matrix]')).map((e) => e.outerHTML.slice(0, 120))"), "cut off in $where");
        self::assertFalse($this->browser->executeScript('return document.documentElement.scrollWidth > innerWidth'), "$where scrolls sideways");
    }

    protected function clickAt(RemoteWebElement $element, float $x, float $y): void
    {
        $size = $element->getSize();
        (new WebDriverActions($this->browser))->moveToElement($element, (int) (($x - 0.5) * $size->getWidth()), (int) (($y - 0.5) * $size->getHeight()))->click()->perform();
    }
}
