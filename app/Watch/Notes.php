<?php

declare(strict_types=1);

namespace App\Watch;

/**
 * The report of an asset that could not be judged.
 */
final class Notes
{
    public static function page(string $asset, string $why): string
    {
        $e = static fn (string $text): string => htmlspecialchars($text, ENT_QUOTES | ENT_SUBSTITUTE, 'UTF-8');

        return '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>'.$e($asset).'</title><style>body{font:15px/1.5 system-ui,sans-serif;color:#22303a;background:#f6f3ec;max-width:60rem;margin:2rem auto;padding:0 1rem}</style></head><body><h1>'.$e($asset).'</h1><p><b>Not judged.</b> '.$e($why)."</p></body></html>\n";
    }

    public static function json(string $asset, string $why): string
    {
        return json_encode(['tool' => 'yellow-anvil', 'schema' => 1, 'asset' => $asset, 'error' => ['code' => 'not-judged', 'message' => $why, 'file' => null]], JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE | JSON_THROW_ON_ERROR)."\n";
    }
}
