<?php

declare(strict_types=1);

namespace Tests\Browser;

use Anvil\Formats\FolderSink;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Part;
use Anvil\Modelling\Shapes;
use Anvil\Tests\Support\Assets;
use Facebook\WebDriver\Chrome\ChromeDevToolsDriver;
use Facebook\WebDriver\Exception\ElementClickInterceptedException;
use Facebook\WebDriver\Exception\NoSuchElementException;
use Facebook\WebDriver\Exception\StaleElementReferenceException;
use Facebook\WebDriver\WebDriverBy;

/** A studio at work: an artist, a technical artist and a lead, each as themselves. */
final class PeopleTest extends BrowserTestCase
{
    /** What somebody might type to see whether it runs. */
    private const MARKUP = '<img src=x onerror="document.title=1">';

    public function test_three_people_hand_in_send_back_mend_see_what_changed_waive_and_see_the_waiver_die(): void
    {
        // The artist hands in: one pair is off by 2 %, one by 0.3 %.
        $this->open('/');
        $this->workAs('Mara Lind, artist');
        $this->hand(['winder' => 0.02, 'pawl' => 0.003]);
        $this->waitForVerdict('1 blocker');
        $this->press('1');
        $this->waitFor('off-alignment');
        self::assertStringNotContainsString('Send back', $this->text(), 'an artist sends nothing back');
        self::assertStringNotContainsString('Waive', $this->text());

        // The technical artist sends it back.
        $this->workAs('Tomas Reed, technical artist');
        $this->waitFor('Send back…');
        $this->click('Send back…');
        $this->waitFor('What is ticked becomes one sheet');
        $this->assertAccessible('the question what is sent back');
        $this->found(WebDriverBy::cssSelector('[role=dialog] textarea'))->sendKeys('by Friday '.self::MARKUP);
        $this->found(WebDriverBy::xpath("//*[@role='dialog']//button[contains(., 'Send back')]"))->click();
        $this->waitFor('to mend');
        $this->waitFor('sent by Tomas Reed');
        $this->waitForPictures();
        $this->waitFor('by Friday <img');
        $this->assertAccessible('the fix list');
        $this->assertNothingCutOff('the fix list');
        $list = (string) parse_url($this->browser->getCurrentURL(), PHP_URL_PATH);
        $pictures = $this->browser->executeScript("return [...document.querySelectorAll('.picture img')].map((e) => e.naturalWidth > 300 && e.src.length > 3000)");
        self::assertSame([true], array_values(array_unique((array) $pictures)), 'each place is drawn');
        // On paper: A4 and Letter, without the bar and the buttons.
        foreach ([[8.27, 11.69], [8.5, 11.0]] as [$width, $height]) {
            $pdf = (new ChromeDevToolsDriver($this->browser))->execute('Page.printToPDF', ['paperWidth' => $width, 'paperHeight' => $height, 'printBackground' => true]);
            self::assertStringStartsWith('%PDF', (string) base64_decode(is_array($pdf) && is_string($pdf['data'] ?? null) ? $pdf['data'] : ''));
        }
        (new ChromeDevToolsDriver($this->browser))->execute('Emulation.setEmulatedMedia', ['media' => 'print']);
        self::assertSame([0, 'auto'], $this->browser->executeScript("return [document.querySelector('header').getBoundingClientRect().height, document.querySelector('.printable').style.height || getComputedStyle(document.querySelector('.printable')).height === 'auto' ? 'auto' : (document.querySelector('.printable').scrollHeight <= document.querySelector('.printable').clientHeight + 1 ? 'auto' : 'cut')]"));
        (new ChromeDevToolsDriver($this->browser))->execute('Emulation.setEmulatedMedia', ['media' => '']);
        $this->open('/');
        $this->waitFor('sent back to Mara Lind');

        // The artist finds it, and delivers again: what was 2 % off is mended, under another name.
        $this->workAs('Mara Lind, artist');
        $this->waitFor('1 to mend');
        $this->openMenu('Sent back to you');
        $this->waitFor('1 asset to mend');
        $this->assertAccessible('what was sent back to somebody');
        $this->openMenu('Inbox');
        $this->waitFor('to mend');
        $this->waitForButton("//ul[@aria-label='mail']//button");
        $this->found(WebDriverBy::cssSelector('ul[aria-label=mail] button'))->click();
        $this->waitFor('by Friday <img');
        $this->assertAccessible('the inbox');
        $this->waitForButton("//ul[@aria-label='mail']//a[starts-with(@href, '/fix-lists/')]");
        $this->found(WebDriverBy::cssSelector("ul[aria-label=mail] a[href^='/fix-lists/']"))->click();
        $this->waitFor('sent by Tomas Reed');
        $this->hand(['winder' => 0.0, 'ratchet' => 0.003]);
        $this->waitForVerdict('ready to bake');
        $this->openDeliveryMenu('delivery 2', 'What changed');
        $this->waitFor('changed since delivery 1');
        $this->waitFor('renamed, was pawl_low');
        $this->waitFor('Gone');
        $this->waitForStand();
        $this->assertAccessible('what changed');
        $this->assertNothingCutOff('what changed');
        $changes = (string) parse_url($this->browser->getCurrentURL(), PHP_URL_PATH);
        $this->open($list);
        $this->waitFor('mended in delivery 2');

        // The technical artist waives what is left.
        $this->workAs('Tomas Reed, technical artist');
        $this->open(str_replace('/changes', '/intake', $changes));
        $this->waitFor('off-alignment');
        $this->press('j');
        $this->waitFor('Waive…');
        $this->click('Waive…');
        $this->waitFor('goes along to the next deliveries');
        $this->assertAccessible('the question before a finding is waived');
        $this->found(WebDriverBy::cssSelector('[role=dialog] textarea'))->sendKeys('seen from afar '.self::MARKUP);
        $this->found(WebDriverBy::xpath("//*[@role='dialog']//button[normalize-space(.)='Waive']"))->click();
        $this->waitFor('(waived)');
        $this->waitForVerdict('ready to bake');
        $this->open(str_replace('/changes', '/hand-off', $changes));
        $this->waitFor('seen from afar <img');
        $this->waitFor('holds');
        $this->assertAccessible('Hand-off with a waiver');

        // The artist makes it worse, and the waiver dies.
        $this->workAs('Mara Lind, artist');
        $this->hand(['winder' => 0.0, 'ratchet' => 0.0045]);
        $this->waitForVerdict('ready to bake');
        $this->openDeliveryMenu('delivery 3', 'What changed');
        $this->waitFor('1 waiver died');
        $this->waitFor('0.3 % → 0.45 %');
        // All of it stands in the history, and nothing that was typed ran.
        $this->openDeliveryMenu('delivery 3', 'History of');
        $this->waitFor('waived 1 finding of off-alignment: seen from afar <img');
        $this->waitFor('back to Mara Lind');
        $this->assertAccessible('the history');
        self::assertStringStartsWith('History of', $this->browser->getTitle());
    }

    public function test_somebody_is_invited_signs_up_signs_in_and_makes_a_token(): void
    {
        $this->open('/');
        $this->openMenu('People');
        $this->waitFor('Invite somebody');
        $this->assertAccessible('the people');
        $this->assertNothingCutOff('the people');
        $email = 'olga'.bin2hex(random_bytes(3)).'@harbor.example';
        $this->fill('Name', 'Olga Brandt');
        $this->fill('E-mail', $email);
        $this->click('Invite');
        $this->waitFor('invited');
        $this->openMenu('Inbox');
        $this->waitFor('You are invited');
        $this->waitForButton("//ul[@aria-label='mail']//button");
        $this->found(WebDriverBy::cssSelector('ul[aria-label=mail] button'))->click();
        $this->waitFor('works once');
        $link = (string) $this->found(WebDriverBy::cssSelector("ul[aria-label=mail] a[href^='/password']"))->getAttribute('href');
        $this->openMenu('Sign out');
        $this->waitFor('needs no passwords');
        $this->assertAccessible('the way in');
        // She sets her password by the link; what it said is gone from the address.
        $this->open((string) parse_url($link, PHP_URL_PATH).'#'.parse_url($link, PHP_URL_FRAGMENT));
        $this->waitFor('Welcome to Yellow Anvil');
        self::assertSame('', (string) parse_url($this->browser->getCurrentURL(), PHP_URL_FRAGMENT));
        $this->assertAccessible('the page of a link');
        $this->fill('New password', 'short');
        $this->click('Set password and sign in');
        $this->waitFor('at least 12 characters; several words are good');
        $this->fill('New password', ' and longer than that');
        $this->click('Set password and sign in');
        $this->waitFor('Drop low- and high-poly files here');
        self::assertStringNotContainsString('People', $this->menu());
        $this->type("\u{e00c}");
        $this->openMenu('Sign out');
        $this->waitFor('Sign in');
        $this->fill('E-mail', $email);
        $this->fill('Password', 'not what she chose');
        $this->found(WebDriverBy::cssSelector('button[type=submit]'))->click();
        $this->waitFor('e-mail and password do not fit');
        $this->fill('Password', '');
        $this->browser->executeScript("const e = document.querySelector('input[type=password]'); e.select();");
        $this->fill('Password', 'short and longer than that');
        $this->found(WebDriverBy::cssSelector('button[type=submit]'))->click();
        $this->waitFor('Drop low- and high-poly files here');
        $this->openMenu('Account and tokens');
        $this->waitFor('Tokens for pipelines');
        $this->assertAccessible('the account');
        $this->assertNothingCutOff('the account');
        $this->fill('Name of the new token', 'build farm');
        $this->click('Make token');
        $this->waitFor('it is not shown again');
        $token = $this->found(WebDriverBy::tagName('code'))->getText();
        // A program reads with it, and no more; without it, or another's session cookie alone, nothing is changed.
        self::assertStringContainsString('"assets"', $this->ask('GET', '/api/rack', ["Authorization: Bearer $token"])[1]);
        self::assertSame(403, $this->ask('POST', '/api/uploads', ["Authorization: Bearer $token"], '{"name":"a_low.obj","bytes":3}')[0]);
        $cookies = implode('; ', array_map(static fn ($one): string => $one->getName().'='.$one->getValue(), $this->browser->manage()->getCookies()));
        self::assertSame(200, $this->ask('GET', '/api/rack', ["Cookie: $cookies"])[0]);
        self::assertSame(419, $this->ask('POST', '/api/uploads', ["Cookie: $cookies"], '{"name":"a_low.obj","bytes":3}')[0], 'a change without the token of its session');
        self::assertSame(401, $this->ask('GET', '/api/rack')[0]);
        $this->click('Revoke');
        $this->waitForNot('Revoke');
        self::assertSame(401, $this->ask('GET', '/api/rack', ["Authorization: Bearer $token"])[0]);
        $session = $this->browser->manage()->getCookieNamed(config()->string('session.cookie'));
        self::assertTrue($session->isHttpOnly());
        self::assertSame('Strict', $session->getSameSite());
        self::assertSame('', (string) $this->browser->executeScript("return document.cookie.includes('anvil_session') ? 'seen' : ''"));
        $this->openMenu('Sign out');
        $this->waitFor('Sign in');
        self::assertSame(401, $this->ask('GET', '/api/rack', ["Cookie: $cookies"])[0], 'a copy of the cookie leads nowhere');
    }

    /**
     * @param  list<string>  $headers
     * @return array{int, string} status and body, as a program gets them
     */
    private function ask(string $method, string $path, array $headers = [], string $body = ''): array
    {
        $context = stream_context_create(['http' => ['method' => $method, 'ignore_errors' => true, 'content' => $body, 'header' => implode("\r\n", ['Accept: application/json', 'Content-Type: application/json', 'X-Anvil: 1', ...$headers])]]);
        $answer = (string) file_get_contents(getenv('ANVIL_TEST_ADDRESS').$path, false, $context);

        return [(int) (explode(' ', $http_response_header[0] ?? '')[1] ?? 0), $answer];
    }

    private function fill(string $label, string $text): void
    {
        $this->found(WebDriverBy::xpath("//input[@id=//label[normalize-space(.)='$label']/@for]"))->sendKeys($text);
    }

    private function menu(): string
    {
        $this->found(WebDriverBy::xpath("//header//button[@aria-haspopup='menu'][last()]"))->click();

        return $this->found(WebDriverBy::cssSelector('[role=menu]'))->getText();
    }

    /** An entry of the menu under one's own name. */
    private function openMenu(string $entry): void
    {
        $this->openFrom("//header//button[@aria-haspopup='menu'][last()]", $entry);
    }

    /** An entry of the menu under the delivery's number. */
    private function openDeliveryMenu(string $delivery, string $entry): void
    {
        $this->openFrom("//header//button[contains(., '$delivery')]", $entry);
    }

    private function openFrom(string $button, string $entry): void
    {
        $this->waitForButton($button);
        $this->found(WebDriverBy::xpath($button))->click();
        $this->waitForButton("//li[@role='menuitem'][starts-with(normalize-space(.), '$entry')]");
        // While it opens it moves, and a click would go to the entry beside; while a delivery is measured it is drawn again, and a click may go nowhere.
        $item = WebDriverBy::xpath("//li[@role='menuitem'][starts-with(normalize-space(.), '$entry')]");
        self::until(function () use ($item): bool {
            if ($this->browser->findElements(WebDriverBy::xpath("//li[@role='menuitem']")) === []) {
                return true;
            }
            try {
                $this->settle();
                $this->browser->findElement($item)->click();
            } catch (ElementClickInterceptedException|NoSuchElementException|StaleElementReferenceException) {
                // It is looked at again.
            }

            return false;
        }, "the entry $entry could not be chosen");
        $this->waitForNoMenu();
    }

    private function workAs(string $person): void
    {
        $name = explode(',', $person)[0];
        $this->openMenu("Work as $person");
        $this->waitFor("You are $name now");
        $this->found(WebDriverBy::xpath("//*[contains(@class, 'MuiSnackbar-root')]//button[@aria-label='Close' or @title='Close']"))->click();
        $this->waitForNot("You are $name now");
    }

    private function waitForNoMenu(): void
    {
        $this->waitForCount(WebDriverBy::cssSelector('[role=menu]'), 0);
    }

    private function waitForButton(string $xpath): void
    {
        self::until(fn (): bool => $this->browser->findElements(WebDriverBy::xpath($xpath)) !== [], "$xpath is not there");
    }

    private function waitForVerdict(string $words): void
    {
        self::until(function () use ($words): bool {
            $found = $this->browser->executeScript("return document.querySelector('header .verdict')?.innerText ?? ''");

            return is_string($found) && trim($found) === $words;
        }, fn (): string => "the verdict \"$words\" did not come: ".mb_substr($this->text(), 0, 600), 180);
    }

    private function waitForPictures(): void
    {
        self::until(fn (): bool => $this->browser->findElements(WebDriverBy::cssSelector('[data-pictures=all]')) !== [], 'not all pictures were taken');
        self::assertNotSame([], $this->browser->findElements(WebDriverBy::cssSelector('[data-pictures=all]')), 'the places are drawn');
    }

    /**
     * Slabs whose low parts lie off their high parts by a share of their size; each base always in one place.
     *
     * @param  array<string, float>  $parts
     */
    private function hand(array $parts): void
    {
        $this->open('/');
        $this->waitFor('Drop low- and high-poly files here');
        $folder = sys_get_temp_dir().'/anvil-people-'.bin2hex(random_bytes(4));
        $sink = new FolderSink($folder);
        $low = $high = [];
        foreach (array_keys($parts) as $i => $base) {
            $low[] = new Part("{$base}_low", Assets::worn(Shapes::box(3, 2, 1)->moved(5.0 * $i, $parts[$base] * sqrt(14), 0)->placed(0.5 * $i, 0.02, 0.46)->mesh()));
            $high[] = new Part("{$base}_high", Assets::worn(Shapes::roundedBox(3, 2, 1, 0.06, 3, 2)->moved(5.0 * $i, 0, 0)->mesh()));
        }
        ObjWriter::write($low, 'windlass_low.obj', $sink);
        ObjWriter::write($high, 'windlass_high.obj', $sink);
        $sink->commit();
        $this->found(WebDriverBy::cssSelector('input[type=file]'))->sendKeys("$folder/windlass_low.obj\n$folder/windlass_high.obj");
        $this->waitForAddress('/deliveries/');
    }
}
