<?php

declare(strict_types=1);

namespace Anvil\Formats\Gltf;

use Anvil\Formats\Source;
use Anvil\Unreadable;

/**
 * The outer layer of glTF 2.0: the JSON text and, in a .glb, the binary chunk (glTF 2.0 specification, "GLB File Format").
 *
 * @internal
 */
final readonly class Container
{
    private const LARGEST_JSON = 256 << 20;

    /**
     * @param  int  $jsonOffset  where the JSON starts in the file
     * @param  int  $jsonLength  its length, padding included
     */
    private function __construct(public string $json, public ?string $bin, public bool $isBinary, public int $jsonOffset, public int $jsonLength)
    {
    }

    /**
     * @throws Unreadable
     */
    public static function read(Source $source): self
    {
        $stream = $source->open();
        try {
            $head = (string) fread($stream, 4);
            if ($head !== 'glTF') {
                if ($source->size() > self::LARGEST_JSON) {
                    throw Unreadable::because('the JSON is over 256 MiB; keep the mesh data in a .bin file or export .glb');
                }
                $text = $head.stream_get_contents($stream);
                if (str_starts_with($text, "\xEF\xBB\xBF")) {
                    throw Unreadable::atByte(0, 'a byte order mark stands before the JSON, which glTF forbids; save it without');
                }

                return new self($text, null, false, 0, strlen($text));
            }
            $rest = (string) fread($stream, 8);
            if (strlen($rest) < 8) {
                throw Unreadable::atByte(4, 'the GLB header is cut short');
            }
            /** @var array{version: int, length: int} $header */
            $header = unpack('Vversion/Vlength', $rest);
            if ($header['version'] !== 2) {
                throw Unreadable::atByte(4, "GLB version {$header['version']} is not read; export glTF 2.0");
            }
            if ($header['length'] !== $source->size()) {
                throw Unreadable::atByte(8, "the header says {$header['length']} bytes, the file has {$source->size()}; it is cut short or was joined to another");
            }
            [$json, $offset] = [self::chunk($stream, 12, 0x4E4F534A, 'JSON'), 20];
            if ($json === null) {
                throw Unreadable::atByte(12, 'the first chunk of a GLB must be JSON');
            }
            $length = strlen($json);
            $bin = $offset + $length < $header['length'] ? self::chunk($stream, $offset + $length, 0x004E4942, 'binary') : null;

            return new self($json, $bin, true, $offset, $length);
        } finally {
            fclose($stream);
        }
    }

    public function withBin(?string $bin): self
    {
        return new self($this->json, $bin, $this->isBinary, $this->jsonOffset, $this->jsonLength);
    }

    /**
     * @param  resource  $stream
     */
    private static function chunk($stream, int $at, int $type, string $name): ?string
    {
        $head = (string) fread($stream, 8);
        if (strlen($head) < 8) {
            throw Unreadable::atByte($at, "the $name chunk's header is cut short");
        }
        /** @var array{length: int, type: int} $chunk */
        $chunk = unpack('Vlength/Vtype', $head);
        if ($chunk['type'] !== $type) {
            return null;
        }
        $left = (int) (fstat($stream)['size'] ?? 0) - $at - 8;
        if ($chunk['length'] > $left) {
            throw Unreadable::atByte($at, "the $name chunk says {$chunk['length']} bytes and only $left are left; the file is cut short");
        }
        $bytes = $chunk['length'] === 0 ? '' : stream_get_contents($stream, $chunk['length']);

        return $bytes === false ? null : $bytes;
    }
}
