<?php

declare(strict_types=1);

namespace Anvil\Standard;

use Anvil\Json;
use Anvil\Unreadable;

/**
 * What was decided for one asset. The file's form is CLI.md, "The choices of an asset".
 */
final readonly class Choices
{
    /**
     * @param  array<string, list<string>>  $sets  set → base patterns
     * @param  list<string>  $leftOut  base or part-name patterns
     * @param  list<string>  $bakedOnItself  base patterns; `*` for all
     * @param  list<string>  $detachable  sets
     * @param  array<string, list<string>>|string  $occlusion  `own`, `all`, or set → sets
     * @param  list<string>  $mirrored  part-name patterns
     * @param  list<string>  $cards  part-name patterns: parts whose rest is masked out
     * @param  array<string, list<string>>  $mirroredIslands  low part → keys of UV islands (`Surface\Islands::key`) that are meant to lie on others
     * @param  bool  $vertexColorsAreIds  whether the high poly's vertex colors are IDs even where they look painted or scanned
     */
    public function __construct(
        public array $sets = [],
        public array $leftOut = [],
        public array $bakedOnItself = [],
        public array $detachable = [],
        public array|string $occlusion = 'own',
        public array $mirrored = [],
        public array $cards = [],
        public array $mirroredIslands = [],
        public bool $vertexColorsAreIds = false,
    ) {
    }

    /**
     * @throws Unreadable that names the key
     */
    public static function ofJson(string $text): self
    {
        $json = Json::parse($text)->only(['sets', 'leftOut', 'bakedOnItself', 'detachable', 'occlusion', 'mirrored', 'cards', 'mirroredIslands', 'vertexColors']);
        $occlusion = $json->value('occlusion') ?? 'own';
        if (is_string($occlusion) && ! in_array($occlusion, ['own', 'all'], true)) {
            throw Unreadable::because('occlusion is neither "own", "all" nor an object of sets');
        }
        if (! in_array($json->value('vertexColors'), [null, 'auto', 'ids'], true)) {
            throw Unreadable::because('vertexColors is neither "auto" nor "ids"');
        }

        return new self(
            self::lists($json, 'sets'),
            $json->strings('leftOut'),
            $json->value('bakedOnItself') === true ? ['*'] : ($json->value('bakedOnItself') === false ? [] : $json->strings('bakedOnItself')),
            $json->strings('detachable'),
            is_string($occlusion) ? $occlusion : self::lists($json, 'occlusion'),
            $json->strings('mirrored'),
            $json->strings('cards'),
            self::lists($json, 'mirroredIslands'),
            $json->value('vertexColors') === 'ids',
        );
    }

    public function leavesOut(string $base, string $name): bool
    {
        return Pattern::anyFits($this->leftOut, $base) || Pattern::anyFits($this->leftOut, $name);
    }

    /** Whether a low part is declared to lie on others in UV. */
    public function isMirrored(string $base, string $name): bool
    {
        return Pattern::anyFits($this->mirrored, $base) || Pattern::anyFits($this->mirrored, $name);
    }

    /** Whether a set's occlusion is to take another set into account, where the choices name who does; where they do not, all stand around it. */
    public function mayShade(string $set, string $by): bool
    {
        return ! is_array($this->occlusion) || in_array($by, $this->occlusion[$set] ?? [], true);
    }

    /**
     * @return array<string, mixed> as the file has it
     */
    public function toArray(): array
    {
        return [
            'sets' => (object) $this->sets,
            'leftOut' => $this->leftOut,
            'bakedOnItself' => $this->bakedOnItself,
            'detachable' => $this->detachable,
            'occlusion' => is_string($this->occlusion) ? $this->occlusion : (object) $this->occlusion,
            'mirrored' => $this->mirrored,
            'cards' => $this->cards,
            ...($this->mirroredIslands === [] ? [] : ['mirroredIslands' => $this->mirroredIslands]),
            ...($this->vertexColorsAreIds ? ['vertexColors' => 'ids'] : []),
        ];
    }

    /**
     * @return array<string, list<string>>
     */
    private static function lists(Json $json, string $key): array
    {
        $out = [];
        $object = $json->object($key);
        foreach ($object?->keys() ?? [] as $name) {
            $out[$name] = $object?->strings($name) ?? [];
        }

        return $out;
    }
}
