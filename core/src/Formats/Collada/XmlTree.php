<?php

declare(strict_types=1);

namespace Anvil\Formats\Collada;

use Anvil\Unreadable;

/**
 * An XML file as a light tree, read in pieces. A document type is refused, since it could name entities.
 *
 * @internal
 */
final class XmlTree
{
    private const BLOCK = 1 << 20;

    private const DEEPEST = 200;

    private XmlNode $root;

    private XmlNode $at;

    private int $depth = 0;

    private ?Unreadable $trouble = null;

    /** How many start tags of each name came before. */
    private int $nodes = 0;

    private function __construct()
    {
        $this->root = $this->at = new XmlNode('', [], null, 1);
    }

    /**
     * @param  resource  $stream
     * @return XmlNode the document element
     *
     * @throws Unreadable
     */
    public static function read($stream): XmlNode
    {
        $tree = new self;
        $parser = xml_parser_create('UTF-8');
        xml_parser_set_option($parser, XML_OPTION_CASE_FOLDING, 0);
        xml_set_element_handler($parser, $tree->open(...), $tree->close(...));
        xml_set_character_data_handler($parser, $tree->text(...));
        try {
            $tail = '';
            $isFirst = true;
            while (! feof($stream)) {
                $block = (string) fread($stream, self::BLOCK);
                if ($isFirst) {
                    self::checkEncoding($block);
                    $isFirst = false;
                }
                if (str_contains($tail.$block, '<!DOCTYPE') || str_contains($tail.$block, '<!ENTITY')) {
                    throw Unreadable::onLine(max(1, xml_get_current_line_number($parser)), 'the XML has a document type, which no COLLADA file needs; export it again');
                }
                $tail = substr($block, -10);
                // Bytes that are no UTF-8 make the parser warn beside its error code, which is read below.
                $ok = @xml_parse($parser, $block, feof($stream));
                if ($tree->trouble !== null) {
                    throw $tree->trouble;
                }
                if ($ok !== 1) {
                    throw Unreadable::onLine(xml_get_current_line_number($parser), 'the XML is broken: '.(xml_error_string(xml_get_error_code($parser)) ?? 'unknown').'; the file is damaged or cut short');
                }
            }
        } finally {
            xml_parser_free($parser);
        }

        return $tree->root->children[0] ?? throw Unreadable::onLine(1, 'there is no XML in the file');
    }

    /**
     * In an encoding of other bytes, what is looked for here would be written otherwise.
     *
     * @throws Unreadable
     */
    private static function checkEncoding(string $start): void
    {
        $isWide = str_starts_with($start, "\xFE\xFF") || str_starts_with($start, "\xFF\xFE") || str_contains(substr($start, 0, 64), "\0");
        $named = preg_match('/^(?:\xEF\xBB\xBF)?\s*<\?xml[^>]*\sencoding\s*=\s*["\']([^"\']*)["\']/', substr($start, 0, 512), $found) === 1 ? strtolower($found[1]) : 'utf-8';
        if ($isWide || ! in_array($named, ['utf-8', 'us-ascii', 'ascii', 'iso-8859-1', 'latin1'], true)) {
            throw Unreadable::onLine(1, 'the XML is not in UTF-8'.($isWide ? '' : " but says $named").'; save or export it as UTF-8');
        }
    }

    /**
     * @param  array<string, string>  $attributes
     */
    private function open(\XMLParser $parser, string $name, array $attributes): void
    {
        $colon = strrpos($name, ':');
        $name = $colon === false ? $name : substr($name, $colon + 1);
        if (++$this->depth > self::DEEPEST) {
            $this->trouble ??= Unreadable::onLine(xml_get_current_line_number($parser), 'elements are nested over '.self::DEEPEST.' deep');

            return;
        }
        $node = new XmlNode($name, $attributes, $this->at, xml_get_current_line_number($parser), $name === 'node' ? $this->nodes++ : 0);
        $this->at->children[] = $node;
        $this->at = $node;
    }

    private function close(): void
    {
        if ($this->depth-- <= self::DEEPEST) {
            $this->at = $this->at->parent ?? $this->root;
        }
    }

    private function text(\XMLParser $parser, string $text): void
    {
        $this->at->text .= $text;
    }
}
