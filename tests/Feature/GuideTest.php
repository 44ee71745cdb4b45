<?php

declare(strict_types=1);

namespace Tests\Feature;

use Anvil\Checks\Catalogue;
use App\Guide\Manual;
use Tests\Support\HandsIn;
use Tests\TestCase;

/** The manual: every page is shown, every link and picture in it leads somewhere, and the search finds its sections. */
final class GuideTest extends TestCase
{
    use HandsIn;

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied();
    }

    public function test_every_page_is_shown_and_nothing_in_it_leads_nowhere(): void
    {
        self::assertSame(Manual::WALKS, $this->getJson('/api/guide')->assertOk()->collect()->pluck('page')->all());
        $anchors = [];
        foreach (Manual::WALKS as $page) {
            $anchors[$page] = array_column(Manual::sections($page), 'anchor');
        }
        foreach ([...Manual::WALKS, ...array_keys(Catalogue::about())] as $page) {
            $html = (string) $this->getJson("/api/guide/$page")->assertOk()->assertJsonPath('isCheck', ! in_array($page, Manual::WALKS, true))->json('html');
            self::assertStringNotContainsString('<script', $html);
            preg_match_all('/(?:src|href)="([^"]+)"/', $html, $links);
            self::assertNotSame([], $links[1], "$page has a picture");
            foreach ($links[1] as $link) {
                if (str_starts_with($link, '/api/guide/pictures/')) {
                    $this->get($link)->assertOk();

                    continue;
                }
                [$path, $anchor] = [...explode('#', $link, 2), null];
                self::assertMatchesRegularExpression('#^/guide/[a-z-]+$#', (string) $path, "$page: $link");
                self::assertTrue(Manual::has(substr((string) $path, 7)), "$page: $link");
                self::assertTrue($anchor === null || in_array($anchor, $anchors[substr((string) $path, 7)] ?? [], true), "$page: $link");
            }
        }
        // Every station has a section that its headline leads to.
        foreach (['intake', 'pairing', 'sets', 'color-id', 'clearance', 'surface', 'proof', 'hand-off'] as $station) {
            self::assertContains($station, $anchors['technical-artist']);
        }
        foreach (['nowhere', '..', 'README'] as $wrong) {
            $this->getJson("/api/guide/$wrong")->assertNotFound();
        }
        foreach (['nothing.png', '..%2frack.png', 'rack.php', '../../.env'] as $wrong) {
            self::assertContains($this->get("/api/guide/pictures/$wrong")->baseResponse->getStatusCode(), [404, 200], $wrong);
            self::assertNull(Manual::picture($wrong));
        }
    }

    public function test_the_search_finds_sections(): void
    {
        $found = $this->getJson('/api/search?find=watched%20folder')->assertOk()->collect('guide');
        self::assertSame(['pipeline', 'watched-folder'], [$found[0]['page'] ?? null, $found[0]['anchor'] ?? null]);
        self::assertSame([], $this->getJson('/api/search?find=zzzz')->collect('guide')->all());
        // A word of the text finds its section, too, after those that are called so.
        self::assertContains('tokens', array_column(Manual::search('revoked', 9), 'anchor'));
        self::assertCount(2, Manual::search('the', 2));
    }
}
