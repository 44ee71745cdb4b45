<?php

declare(strict_types=1);

namespace App\Guide;

use Anvil\Checks\Catalogue;
use Illuminate\Support\Str;

/**
 * The manual as it lies in `docs/`, as pages that the application shows: three walks, and a page a check.
 *
 * @phpstan-type Section array{title: string, anchor: string, text: string}
 */
final class Manual
{
    /** The walks, in order. */
    public const WALKS = ['technical-artist', 'artist', 'pipeline'];

    /** Whether there is such a page. */
    public static function has(string $page): bool
    {
        return in_array($page, self::WALKS, true) || isset(Catalogue::about()[$page]);
    }

    public static function title(string $page): string
    {
        return preg_match('/^# (.+)$/m', self::source($page), $parts) === 1 ? str_replace('`', '', $parts[1]) : $page;
    }

    /** A page as HTML; what its source holds of markup is shown as text. */
    public static function html(string $page): string
    {
        $html = (string) Str::markdown(self::source($page), ['html_input' => 'escape', 'allow_unsafe_links' => false]);
        $html = (string) preg_replace('/<h1>.*?<\/h1>\s*/s', '', $html, 1);
        // Pictures and pages lie under addresses of their own.
        $html = (string) preg_replace('#src="\.\./screenshots/([a-z-]+\.png)"#', 'src="/api/guide/pictures/$1" width="1280" height="800"', $html);
        $html = (string) preg_replace('#src="drawings/([a-z-]+\.svg)"#', 'src="/api/guide/pictures/$1" width="380" height="170"', $html);
        $html = (string) preg_replace('/href="(?:\.\.\/checks\/)?([a-z-]+)\.md(#[a-z-]+)?"/', 'href="/guide/$1$2"', $html);

        return (string) preg_replace_callback('/<h2>(.*?)<\/h2>/s', static fn (array $parts): string => '<h2 id="'.self::anchor(strip_tags($parts[1])).'">'.$parts[1].'</h2>', $html);
    }

    /**
     * @return list<Section>
     */
    public static function sections(string $page): array
    {
        $out = [];
        foreach (preg_split('/^## /m', self::source($page)) ?: [] as $number => $text) {
            if ($number > 0) {
                [$title, $body] = [...explode("\n", $text, 2), ''];
                $out[] = ['title' => trim($title), 'anchor' => self::anchor($title), 'text' => trim((string) preg_replace(['/!\[[^\]]*\]\([^)]*\)/', '/\[([^\]]*)\]\([^)]*\)/', '/```|`/', '/\s+/'], ['', '$1', '', ' '], $body))];
            }
        }

        return $out;
    }

    /**
     * Sections of the walks that hold every word, those with the words in their title first.
     *
     * @return list<array{page: string, title: string, anchor: string, told: string}>
     */
    public static function search(string $find, int $most): array
    {
        $words = preg_split('/\s+/', mb_strtolower(trim($find)), -1, PREG_SPLIT_NO_EMPTY) ?: [];
        $hits = [[], []];
        foreach ($words === [] ? [] : self::WALKS as $page) {
            foreach (self::sections($page) as $section) {
                $has = static fn (string $text): bool => array_filter($words, static fn (string $word): bool => ! str_contains(mb_strtolower($text), $word)) === [];
                if ($has("{$section['title']} {$section['text']}")) {
                    $hits[$has($section['title']) ? 0 : 1][] = ['page' => $page, 'title' => $section['title'], 'anchor' => $section['anchor'], 'told' => self::title($page)];
                }
            }
        }

        return array_slice([...$hits[0], ...$hits[1]], 0, $most);
    }

    /** Where a picture of the manual lies; null where there is none of that name. */
    public static function picture(string $name): ?string
    {
        $path = base_path('docs/'.(str_ends_with($name, '.svg') ? 'checks/drawings' : 'screenshots')."/$name");

        return preg_match('/^[a-z-]+\.(?:png|svg)$/D', $name) === 1 && is_file($path) ? $path : null;
    }

    private static function anchor(string $title): string
    {
        return trim((string) preg_replace('/[^a-z0-9]+/', '-', strtolower($title)), '-');
    }

    private static function source(string $page): string
    {
        return (string) file_get_contents(base_path('docs/'.(in_array($page, self::WALKS, true) ? 'guide' : 'checks')."/$page.md"));
    }
}
