<?php

declare(strict_types=1);

namespace Anvil\Pairing;

use Anvil\Geometry\Bounds;
use Anvil\Geometry\Part;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;

/**
 * A part of a file with its role, from the role prefix, its own suffix, or the file's name, in this order.
 */
final readonly class RoledPart
{
    /**
     * @param  int  $file  number of its file among those handed in
     * @param  string  $path  the file as it was named
     * @param  bool  $mixed  its own suffix contradicts the role given to its file
     */
    private function __construct(
        public int $file,
        public string $path,
        public Part $part,
        public ?Role $role,
        public string $base,
        public NameReading $reading,
        public bool $mixed,
    ) {
    }

    /**
     * @param  Role|null  $given  the role prefix of the file
     */
    public static function of(int $file, string $path, Part $part, ?Role $given, Standard $standard): self
    {
        $reading = NameReading::of($part->name, $standard);
        $exact = $reading->state === SuffixState::Exact ? $reading->role : null;
        $role = $given ?? $exact ?? self::roleOfFile($path, $standard) ?? ($reading->state === SuffixState::None ? null : $reading->role);
        $mixed = $given !== null && $reading->role !== null && $reading->state !== SuffixState::OtherSeparator
            && $reading->role !== $given && ! self::mayKeepName($given, $reading->role);
        // A suffix of another role that the file's own name overrules is part of the base.
        $ownSuffix = $reading->role !== null && ($reading->role === $role || ($role !== null && self::mayKeepName($role, $reading->role)) || $mixed);

        return new self($file, $path, $part, $role, $ownSuffix ? $reading->base : $part->name, $reading, $mixed);
    }

    /** The role that a file's name tells, letter case aside: names of files are no names of parts. */
    public static function roleOfFile(string $path, Standard $standard): ?Role
    {
        $reading = NameReading::of(pathinfo($path, PATHINFO_FILENAME), $standard);

        return $reading->role;
    }

    /**
     * @param  list<self>  $parts
     * @return list<string>
     */
    public static function names(array $parts): array
    {
        return array_map(static fn (self $part): string => $part->part->name, $parts);
    }

    /**
     * @param  list<self>  $parts
     */
    public static function boundsOf(array $parts): ?Bounds
    {
        return Bounds::union(array_map(static fn (self $part): ?Bounds => $part->part->bounds(), $parts));
    }

    /**
     * @param  list<self>  $parts
     */
    public static function triangles(array $parts): int
    {
        return array_sum(array_map(static fn (self $part): int => $part->part->triangleCount(), $parts));
    }

    public function suffixState(): SuffixState
    {
        return $this->reading->role === $this->role ? $this->reading->state : SuffixState::None;
    }

    /** An ID copy may keep its high names, a cage and the low that ships their low names. */
    private static function mayKeepName(Role $given, Role $own): bool
    {
        return match ($given) {
            Role::Id => $own === Role::High,
            Role::Cage, Role::Pose => $own === Role::Low,
            default => false,
        };
    }
}
