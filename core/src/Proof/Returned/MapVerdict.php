<?php

declare(strict_types=1);

namespace Anvil\Proof\Returned;

use Anvil\Asset\GivenMap;
use Anvil\Formats\Images\ImageHeader;
use Anvil\Unreadable;

/**
 * What was found of a map that came back.
 */
final readonly class MapVerdict
{
    /**
     * @param  string  $path  as it was named
     * @param  string|null  $kind  null where none is known
     * @param  string|null  $page  null where none is known
     * @param  array{message: string, offset: int|null}|null  $error  why it could not be read; then nothing else is known
     * @param  float|null  $median  distance in the way that fits best; null where nothing could be compared
     * @param  bool  $isAsked  whether the trial has relief, so that ways can be told apart
     * @param  bool  $isOther  it fits no way
     * @param  int  $compared  texels
     * @param  list<array{float, float, float}>  $differsWhere  low places, the furthest off first
     * @param  array{share: float, texels: int, where: list<array{float, float, float}>}|null  $holes  null where it was not looked for
     * @param  array{px: float, where: list<array{float, float, float}>}|null  $padding  null where no border shows it
     * @param  array{share: float, texels: int, where: list<array{float, float, float}>}|null  $blends
     * @param  int  $size  px of what follows
     * @param  string  $preview  the map at that size: red, green and blue bytes, from the top; packed with zlib
     * @param  string  $difference  how far each texel is off: 128 as far as it may, 255 twice as far; 0 where it was not compared; packed with zlib
     */
    public function __construct(
        public string $path,
        public string $sha256,
        public ?string $kind,
        public ?string $page,
        public ?array $error,
        public ?ImageHeader $header,
        public ?float $median = null,
        public Turning $turn = Turning::AsIs,
        public bool $greenInverted = false,
        public bool $srgb = false,
        public bool $isAsked = false,
        public bool $isOther = false,
        public float $differsShare = 0.0,
        public int $compared = 0,
        public array $differsWhere = [],
        public ?array $holes = null,
        public ?array $padding = null,
        public ?array $blends = null,
        public int $size = 0,
        public string $preview = '',
        public string $difference = '',
    ) {
    }

    public static function unreadable(GivenMap $map, Unreadable $error): self
    {
        return new self($map->path, $map->sha256, $map->kind, $map->isTold ? $map->page : null, ['message' => $error->getMessage(), 'offset' => $error->atOffset], null);
    }

    public function fitsAsIs(): bool
    {
        return $this->turn === Turning::AsIs && ! $this->greenInverted && ! $this->srgb && ! $this->isOther;
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        return [
            'path' => $this->path, 'sha256' => $this->sha256, 'kind' => $this->kind, 'page' => $this->page, 'error' => $this->error,
            'header' => $this->header === null ? null : ['format' => $this->header->format, 'width' => $this->header->width, 'height' => $this->header->height, 'bits' => $this->header->bits, 'tag' => $this->header->tag],
            'median' => $this->median, 'turn' => $this->turn->value, 'greenInverted' => $this->greenInverted, 'srgb' => $this->srgb, 'isAsked' => $this->isAsked, 'isOther' => $this->isOther,
            'differsShare' => $this->differsShare, 'compared' => $this->compared, 'differsWhere' => $this->differsWhere, 'holes' => $this->holes, 'padding' => $this->padding, 'blends' => $this->blends,
            'size' => $this->size, 'preview' => base64_encode($this->preview), 'difference' => base64_encode($this->difference),
        ];
    }

    /**
     * @param  array<mixed>  $stored  of `toArray`
     */
    public static function ofArray(array $stored): self
    {
        /** @var array{path: string, sha256: string, kind: string|null, page: string|null, error: array{message: string, offset: int|null}|null, header: array{format: string, width: int, height: int, bits: int, tag: string|null}|null, median: float|int|null, turn: string, greenInverted: bool, srgb: bool, isAsked: bool, isOther: bool, differsShare: float|int, compared: int, differsWhere: list<array{float, float, float}>, holes: array{share: float, texels: int, where: list<array{float, float, float}>}|null, padding: array{px: float, where: list<array{float, float, float}>}|null, blends: array{share: float, texels: int, where: list<array{float, float, float}>}|null, size: int, preview: string, difference: string} $stored */
        return new self(
            $stored['path'], $stored['sha256'], $stored['kind'], $stored['page'], $stored['error'], $stored['header'] === null ? null : ImageHeader::known($stored['header']),
            $stored['median'] === null ? null : (float) $stored['median'], Turning::from($stored['turn']), $stored['greenInverted'], $stored['srgb'], $stored['isAsked'], $stored['isOther'],
            (float) $stored['differsShare'], $stored['compared'], $stored['differsWhere'], $stored['holes'], $stored['padding'], $stored['blends'],
            $stored['size'], (string) base64_decode($stored['preview'], true), (string) base64_decode($stored['difference'], true),
        );
    }
}
