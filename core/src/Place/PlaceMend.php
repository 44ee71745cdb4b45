<?php

declare(strict_types=1);

namespace Anvil\Place;

use Anvil\Asset\Asset;
use Anvil\Geometry\Matrix;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;

/**
 * The scale and the turn that bring the high poly to the size and the axes of the low one, and the files that they are for.
 */
final readonly class PlaceMend
{
    /**
     * @param  float|null  $factor  what the high poly is multiplied by; null where the sizes agree
     * @param  string|null  $turn  in words; null where there is nothing to turn
     * @param  Matrix  $matrix  both together, in the frame that all parts are held in
     * @param  array<int, Matrix>  $ofFiles  file number → the same in that file's own frame: of every file with high parts, and of ID copies with them
     * @param  list<string>  $stuck  why it cannot be done in the files, in words
     */
    private function __construct(public ?float $factor, public ?string $turn, public Matrix $matrix, public array $ofFiles, public array $stuck)
    {
    }

    /** Null where high and low agree in both. */
    public static function of(Asset $asset, ?QuarterTurn $turn): ?self
    {
        $ratio = $asset->differsInSize() ? $asset->sizeRatio() : null;
        if ($ratio === null && $turn === null) {
            return null;
        }
        $factor = $ratio === null ? null : SizeFactor::mending($ratio);

        return self::by($asset, $factor, $turn?->words, ($turn->matrix ?? Matrix::identity())->times(Matrix::scaling($factor ?? 1.0)));
    }

    /**
     * What was found before, for these files: names, bounds and frames are enough.
     *
     * @param  string|null  $turn  in words
     * @param  Matrix  $matrix  scale and turn, in the frame that all parts are held in
     */
    public static function by(Asset $asset, ?float $factor, ?string $turn, Matrix $matrix): self
    {
        $files = $stuck = [];
        foreach ($asset->files as $i => $file) {
            $roles = [];
            foreach ($asset->parts as $part) {
                if ($part->file === $i) {
                    $roles[$part->role->value ?? ''] = true;
                }
            }
            $moves = isset($roles[Role::High->value]) || self::isCopyOfHigh($asset, $i, $roles);
            if (! $moves) {
                continue;
            }
            if (isset($roles[Role::Low->value]) || isset($roles[Role::Cage->value])) {
                $stuck[] = basename($file->path).' holds low and high parts together; mend it where it was made, or hand them in as two files';
            }
            if (in_array(strtolower(pathinfo($file->path, PATHINFO_EXTENSION)), ['usda', 'usd'], true)) {
                $stuck[] = basename($file->path).' is USD text, which is read here and not written';
            }
            $frame = $asset->frames[$i];
            $files[$i] = ($frame->inverse() ?? Matrix::identity())->times($matrix)->times($frame);
        }

        return new self($factor, $turn, $matrix, $files, $stuck);
    }

    public function words(): string
    {
        $scale = $this->factor === null ? null : 'scaled by '.($this->factor < 1.0 ? '1/'.self::shown(1 / $this->factor) : self::shown($this->factor));
        $turn = $this->turn === null ? null : "turned $this->turn";

        return implode(' and ', array_filter([$scale, $turn], is_string(...)));
    }

    /**
     * An ID file goes with the high poly where it has its size.
     *
     * @param  array<string, true>  $roles
     */
    private static function isCopyOfHigh(Asset $asset, int $file, array $roles): bool
    {
        if (array_keys($roles) !== [Role::Id->value]) {
            return false;
        }
        $own = RoledPart::boundsOf(array_values(array_filter($asset->parts, static fn (RoledPart $part): bool => $part->file === $file)));
        $high = $asset->boundsOf(Role::High);

        return $own !== null && $high !== null && $own->gapTo($high) === 0.0 && abs(log(max(1e-30, $own->diagonal()) / max(1e-30, $high->diagonal()))) < 0.1;
    }

    private static function shown(float $value): string
    {
        return (string) (float) sprintf('%.6g', $value);
    }
}
