<?php

declare(strict_types=1);

namespace Anvil\Formats\Gltf;

use Anvil\Formats\Source;
use Anvil\Geometry\Bytes;
use Anvil\Json;
use Anvil\Unreadable;

/**
 * Accessors to flat lists: every component type, normalised integers, strides, sparse values; bounds are checked before a byte is read.
 *
 * @internal
 */
final class Accessors
{
    /** component type → [bytes, unpack code, largest value for normalised integers] */
    private const TYPES = [5120 => [1, 'c', 127.0], 5121 => [1, 'C', 255.0], 5122 => [2, 'v', 32767.0], 5123 => [2, 'v', 65535.0], 5125 => [4, 'V', 4294967295.0], 5126 => [4, 'g', 1.0]];

    private const WIDTHS = ['SCALAR' => 1, 'VEC2' => 2, 'VEC3' => 3, 'VEC4' => 4, 'MAT2' => 4, 'MAT3' => 9, 'MAT4' => 16];

    /** @var list<Json> */
    private array $accessors;

    /** @var list<Json> */
    private array $views;

    /** @var list<Json> */
    private array $buffers;

    /** @var array<int, string> */
    private array $read = [];

    public function __construct(Json $root, private readonly ?string $bin, private readonly Source $source)
    {
        $this->accessors = $root->objects('accessors');
        $this->views = $root->objects('bufferViews');
        $this->buffers = $root->objects('buffers');
    }

    public function count(int $number, string $usedBy): int
    {
        return $this->accessor($number, $usedBy)->need('count');
    }

    /**
     * @param  list<int>  $widths  components an element that the use allows
     * @param  bool  $finite  whether NaN and infinity are errors
     * @return array{list<float>, int} values, components an element
     */
    public function floats(int $number, string $usedBy, array $widths, bool $finite = true): array
    {
        $accessor = $this->accessor($number, $usedBy);
        [$values, $width, $type] = $this->values($accessor);
        if (! in_array($width, $widths, true)) {
            throw Unreadable::because("$accessor->path.type does not fit $usedBy");
        }
        if ($type === 5126) {
            /** @var list<float> $values floats by their component type */
            // A sum is finite only where every number is.
            $suspects = ! $finite || is_finite(array_sum($values)) ? [] : $values;
            foreach ($suspects as $i => $value) {
                if ($value - $value !== 0.0) {
                    throw Unreadable::because("$accessor->path holds NaN or an infinite value at element ".intdiv($i, $width).", used by $usedBy");
                }
            }

            return [$values, $width];
        }
        $scale = $accessor->bool('normalized') ? (self::TYPES[$type][2] ?? 1.0) : 1.0;
        $out = [];
        foreach ($values as $value) {
            $out[] = max(-1.0 * $scale, (float) $value) / $scale;
        }

        return [$scale === 1.0 ? array_map(static fn (int|float $v): float => (float) $v, $values) : $out, $width];
    }

    /**
     * @return list<int>
     */
    public function ints(int $number, string $usedBy): array
    {
        $accessor = $this->accessor($number, $usedBy);
        [$values, $width, $type] = $this->values($accessor);
        if ($width !== 1 || ! in_array($type, [5121, 5123, 5125], true)) {
            throw Unreadable::because("$accessor->path does not hold unsigned whole numbers, as $usedBy needs");
        }

        /** @var list<int> */
        return $values;
    }

    private function accessor(int $number, string $usedBy): Json
    {
        return $this->accessors[$number] ?? throw Unreadable::because("$usedBy names accessor $number, and there are ".count($this->accessors));
    }

    /**
     * @return array{list<int|float>, int, int} values, components an element, component type
     */
    private function values(Json $accessor): array
    {
        $type = $accessor->need('componentType');
        if (! isset(self::TYPES[$type])) {
            throw Unreadable::because("$accessor->path.componentType $type is unknown");
        }
        $kind = $accessor->string('type') ?? '';
        $width = self::WIDTHS[$kind] ?? throw Unreadable::because("$accessor->path.type \"$kind\" is unknown");
        $count = $accessor->need('count');
        $view = $accessor->int('bufferView');
        if ($view !== null) {
            $values = $this->block($view, $accessor->int('byteOffset') ?? 0, $count, $width, $type, $accessor->path);
        } else {
            if ($count * $width > 50_000_000) {
                throw Unreadable::because("$accessor->path.count $count is too large for an accessor without data");
            }
            $values = array_fill(0, $count * $width, $type === 5126 ? 0.0 : 0);
        }
        $sparse = $accessor->object('sparse');
        if ($sparse !== null) {
            $changes = $sparse->need('count');
            $at = $sparse->object('indices') ?? throw Unreadable::because($sparse->at('indices').' is missing');
            $to = $sparse->object('values') ?? throw Unreadable::because($sparse->at('values').' is missing');
            $atType = $at->need('componentType');
            if (! in_array($atType, [5121, 5123, 5125], true)) {
                throw Unreadable::because($at->at('componentType').' is not an unsigned type');
            }
            $where = $this->block($at->need('bufferView'), $at->int('byteOffset') ?? 0, $changes, 1, $atType, $at->path);
            $what = $this->block($to->need('bufferView'), $to->int('byteOffset') ?? 0, $changes, $width, $type, $to->path);
            foreach ($where as $i => $element) {
                $element = (int) $element;
                if ($element >= $count) {
                    throw Unreadable::because("$at->path names element $element of $count");
                }
                for ($k = 0; $k < $width; $k++) {
                    $values[$element * $width + $k] = $what[$i * $width + $k];
                }
            }
        }

        return [array_values($values), $width, $type];
    }

    /**
     * The bytes of the elements one after the other, as they stand in the file.
     *
     * @return array{string, int}|null with the bytes of an element; null where some are changed by sparse values or none are there
     */
    public function raw(int $number, string $usedBy): ?array
    {
        $accessor = $this->accessor($number, $usedBy);
        $view = $accessor->int('bufferView');
        if ($view === null || $accessor->has('sparse')) {
            return null;
        }
        $type = $accessor->need('componentType');
        $width = self::WIDTHS[$accessor->string('type') ?? ''] ?? throw Unreadable::because("$accessor->path.type is unknown");
        if (! isset(self::TYPES[$type])) {
            throw Unreadable::because("$accessor->path.componentType $type is unknown");
        }

        return [$this->bytes($view, $accessor->int('byteOffset') ?? 0, $accessor->need('count'), $width, $type, $accessor->path), self::TYPES[$type][0] * $width];
    }

    /**
     * @return list<int|float>
     */
    private function block(int $viewNumber, int $byteOffset, int $count, int $width, int $type, string $path): array
    {
        $code = self::TYPES[$type][1];
        $bytes = $this->bytes($viewNumber, $byteOffset, $count, $width, $type, $path);
        if ($bytes === '') {
            return [];
        }
        if ($code === 'g' || $code === 'V') {
            return $code === 'g' ? Bytes::floats($bytes) : Bytes::uints($bytes);
        }
        /** @var array<int, int|float> $read */
        $read = unpack("$code*", $bytes);
        if ($type === 5122) {
            foreach ($read as $i => $value) {
                if ($value > 32767) {
                    $read[$i] = $value - 65536;
                }
            }
        }

        return array_values($read);
    }

    private function bytes(int $viewNumber, int $byteOffset, int $count, int $width, int $type, string $path): string
    {
        $view = $this->views[$viewNumber] ?? throw Unreadable::because("$path names bufferView $viewNumber, and there are ".count($this->views));
        [$size] = self::TYPES[$type];
        $element = $size * $width;
        $stride = $view->int('byteStride') ?? $element;
        if ($stride < $element) {
            $stride = $element;
        }
        if ($count === 0) {
            return '';
        }
        $buffer = $this->buffer($view->need('buffer'), $view->path);
        $start = $view->int('byteOffset') ?? 0;
        $length = $view->need('byteLength');
        if ($start + $length > strlen($buffer)) {
            throw Unreadable::because("$view->path ends at byte ".($start + $length).' of a buffer of '.strlen($buffer));
        }
        // Divided, not multiplied: a lying count must not overflow.
        if ($byteOffset + $element > $length || $count - 1 > intdiv($length - $byteOffset - $element, $stride)) {
            throw Unreadable::because("$path.count $count needs more bytes than $view->path has ($length)");
        }
        $from = $start + $byteOffset;
        if ($stride === $element) {
            return substr($buffer, $from, $count * $element);
        }
        $bytes = '';
        for ($i = 0; $i < $count; $i++) {
            $bytes .= substr($buffer, $from + $i * $stride, $element);
        }

        return $bytes;
    }

    private function buffer(int $number, string $path): string
    {
        if (isset($this->read[$number])) {
            return $this->read[$number];
        }
        $buffer = $this->buffers[$number] ?? throw Unreadable::because("$path names buffer $number, and there are ".count($this->buffers));
        $length = $buffer->need('byteLength');
        $uri = $buffer->string('uri');
        if ($uri === null) {
            if ($this->bin === null || $number !== 0) {
                throw Unreadable::because("$buffer->path has no data");
            }
            $bytes = $this->bin;
        } elseif (str_starts_with($uri, 'data:')) {
            $comma = strpos($uri, ';base64,');
            $bytes = $comma === false ? false : base64_decode(substr($uri, $comma + 8), true);
            if ($bytes === false) {
                throw Unreadable::because("$buffer->path.uri is not valid base64 data");
            }
        } else {
            $name = rawurldecode($uri);
            $side = $this->source->side($name);
            if ($side === null) {
                throw Unreadable::because("$buffer->path needs the side file \"".mb_strimwidth(mb_scrub($name), 0, 80, '…').'", which was not handed in with it');
            }
            $stream = $side->open();
            $bytes = (string) stream_get_contents($stream, $length);
            fclose($stream);
        }
        if (strlen($bytes) < $length) {
            throw Unreadable::because("$buffer->path.byteLength says $length bytes and there are ".strlen($bytes).'; it is cut short');
        }

        return $this->read[$number] = $bytes;
    }
}
