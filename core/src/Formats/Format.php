<?php

declare(strict_types=1);

namespace Anvil\Formats;

use Anvil\Unreadable;

/**
 * A format of mesh files: what it is called, what it carries, how it is read and written. One class in a folder of its own; the catalogue finds it there.
 */
interface Format
{
    /** Where it stands among the formats, in tens: those that carry most come first. */
    public function row(): int;

    /**
     * @return array<string, string> file ending in lower case → what such a file is called
     */
    public function endings(): array;

    /**
     * @return list<string> of the endings, those that are told to people; the others are taken as well
     */
    public function told(): array;

    /**
     * @return list<string> of `FormatCatalogue::CARRIED`, what such a file cannot carry
     */
    public function lacks(): array;

    public function isWritten(): bool;

    /** What a file is by its first bytes, "a PLY"; null where they tell nothing. */
    public function recognised(string $head): ?string;

    /**
     * Whether a file may begin like this.
     *
     * @param  string|null  $is  what its first bytes tell that it is
     */
    public function mayBegin(string $ending, string $head, ?string $is): bool;

    /** Memory that reading takes to a byte of file, as measured (docs/reliability.md); 0 where it is no more than others. */
    public function memoryToAByte(): int;

    public function reader(): Reader;

    /**
     * @param  string  $name  of the written file
     * @return list<string> the side files that it names
     *
     * @throws Unreadable when the change cannot be made in such a file
     */
    public function write(Source $source, Changes $changes, string $name, Sink $sink): array;
}
