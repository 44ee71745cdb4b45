<?php

declare(strict_types=1);

namespace Anvil\Measures;

use Anvil\Pairing\RoledPart;
use Anvil\Sets\BakeSet;
use LogicException;

/**
 * One part, set or asset that something is measured of.
 */
final readonly class Subject
{
    /**
     * @param  string  $key  the same for the same files, names and choices: the part's number among those of the asset, the set's name, nothing
     */
    private function __construct(public Scope $scope, public string $key, private ?RoledPart $part = null, private ?BakeSet $set = null)
    {
    }

    /** @param  int  $number  among the parts of the asset */
    public static function part(int $number, RoledPart $part): self
    {
        return new self(Scope::Part, (string) $number, $part);
    }

    public static function set(BakeSet $set): self
    {
        return new self(Scope::Set, $set->name, null, $set);
    }

    public static function asset(): self
    {
        return new self(Scope::Asset, '');
    }

    public function ofPart(): RoledPart
    {
        return $this->part ?? throw new LogicException("a {$this->scope->value} is no part");
    }

    public function ofSet(): BakeSet
    {
        return $this->set ?? throw new LogicException("a {$this->scope->value} is no set");
    }
}
