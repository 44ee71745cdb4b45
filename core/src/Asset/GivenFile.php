<?php

declare(strict_types=1);

namespace Anvil\Asset;

use Anvil\Formats\FileSource;
use Anvil\Formats\FormatCatalogue;
use Anvil\Formats\Source;
use Anvil\Formats\Zip\ZippedFiles;
use Anvil\Standard\Role;
use Anvil\Unreadable;

/**
 * A file handed in: as it was named, and the role that its prefix gives it.
 */
final readonly class GivenFile
{
    /**
     * @param  Unreadable|null  $error  why it is known already that it cannot be read
     */
    public function __construct(public string $path, public ?Role $role, public Source $source, public ?Unreadable $error = null)
    {
    }

    /**
     * The mesh files of a zip, unpacked below a folder; the zip itself, with what is wrong, where it cannot be unpacked.
     *
     * @param  string  $folder  an empty one
     * @return list<self>
     */
    public static function ofZip(string $path, ?Role $role, string $folder): array
    {
        try {
            $names = ZippedFiles::extract($path, $folder);
        } catch (Unreadable $error) {
            return [new self($path, $role, new FileSource($path), $error)];
        }
        $out = [];
        foreach ($names as $name) {
            if (FormatCatalogue::isMesh($name)) {
                $out[] = new self("$path/$name", $role, new FileSource("$folder/$name"));
            }
        }

        return $out;
    }
}
