<?php

declare(strict_types=1);

namespace Anvil\Formats\Obj;

use Anvil\Formats\Reader;
use Anvil\Formats\Source;
use Anvil\Geometry\Scene;
use Anvil\Unreadable;

/**
 * Wavefront OBJ: polygons, objects and groups, UVs, normals, materials, vertex colours behind the position.
 *
 * Parts are named by `o`, in a file without any by `g`, else by the file. Free-form curves and surfaces are passed over.
 *
 * Most lines of a large file stand in runs of one form. A regular expression checks a whole run and cuts it out, and one `explode` takes
 * it apart; what is not in such a run is read line by line.
 */
final class ObjReader implements Reader
{
    /** Runs of vertex lines of the usual forms, by their second character: checked and cut out at once. */
    private const RUNS = [
        ' ' => '/\G(?:v(?: '.ObjLines::NUMBER.'){3}\n)++/',
        't' => '/\G(?:vt(?: '.ObjLines::NUMBER.'){2}\n)++/',
        'n' => '/\G(?:vn(?: '.ObjLines::NUMBER.'){3}\n)++/',
    ];

    /** Runs of faces, by how many slashes the first one has: of places alone, and triangles with UVs and normals. */
    private const FACES = [
        0 => '/\G(?:f(?: \d++){3,}+\n)++/',
        6 => '/\G(?:f(?: \d+\/\d+\/\d+){3}\n)++/',
    ];

    private ObjVertices $vertices;

    private ObjFaces $faces;

    /** @var list<ObjGroup> */
    private array $groups = [];

    /** @var array<string, ObjGroup> */
    private array $openGroups = [];

    private bool $byObject = false;

    /** @var array<string, true> */
    private array $libraries = [];

    /** @var array<string, true> */
    private array $passedOver = [];

    public function read(Source $source): Scene
    {
        $reader = new self;

        return $reader->run($source);
    }

    private function run(Source $source): Scene
    {
        $group = new ObjGroup(pathinfo($source->name(), PATHINFO_FILENAME));
        $this->groups = [$group];
        $this->vertices = new ObjVertices;
        $this->faces = new ObjFaces($this->vertices, $group);
        $stream = $source->open();
        try {
            foreach (ObjLines::blocks($stream) as [$lines, $before]) {
                $this->lines($lines, $before);
            }
        } finally {
            fclose($stream);
        }
        $this->faces->check();
        $this->vertices->round();
        $colors = $cutOut = $pictures = [];
        $remarks = [];
        foreach (array_keys($this->libraries) as $library) {
            $side = $source->side((string) $library);
            if ($side === null) {
                $remarks[] = "the material file $library is not there";
            } else {
                [$ofSide, $cut, $pictured] = MtlReader::read($side);
                $colors += $ofSide;
                $pictures += $pictured;
                array_push($cutOut, ...$cut);
            }
        }
        foreach (array_keys($this->passedOver) as $keyword) {
            $remarks[] = "$keyword statements are passed over";
        }
        if ($this->groups[0]->triangles !== []) {
            $remarks[] = 'named by the file';
        }
        $parts = (new ObjParts($this->vertices->positions, $this->vertices->uvs, $this->vertices->normals, $this->vertices->colors, $this->faces->smoothing !== null))->of($this->groups, $colors, $cutOut, $pictures);

        return new Scene('obj', $parts, null, null, $remarks);
    }

    /**
     * @param  string  $block  lines in one form, the last one ended
     * @param  int  $line  how many stand before them
     */
    private function lines(string $block, int $line): void
    {
        $at = 0;
        $length = strlen($block);
        // Where a run is too much for a pattern, what is left of the block is read line by line: it would be too much again at each line.
        $isTooMuch = false;
        while ($at < $length) {
            $first = $block[$at];
            if ($first === "\n") {
                $at++;
                $line++;

                continue;
            }
            $pattern = match ($first) {
                'v' => self::RUNS[$block[$at + 1]] ?? null,
                // A pattern that asks for a slash looks for one through all that is left where there is none.
                'f' => self::FACES[substr_count($block, '/', $at, (int) strpos($block, "\n", $at) - $at)] ?? null,
                default => null,
            };
            $isRun = $pattern === null || $isTooMuch ? 0 : preg_match($pattern, $block, $found, 0, $at);
            $isTooMuch = $isTooMuch || $isRun === false;
            if ($isRun === 1) {
                $run = $found[0];
                $lines = substr_count($run, "\n");
                match (true) {
                    $pattern === self::FACES[0] => $this->faces->plainRun($run, $line + 1),
                    $first === 'f' => $this->faces->triangleRun($run, $line + 1, $line + $lines),
                    $block[$at + 1] === 't' => $this->vertices->uvRun($run),
                    $block[$at + 1] === 'n' => $this->vertices->normalRun($run),
                    default => $this->vertices->positionRun($run),
                };
                $at += strlen($run);
                $line += $lines;

                continue;
            }
            $end = (int) strpos($block, "\n", $at);
            $text = substr($block, $at, $end - $at);
            $line++;
            $at = $end + 1;
            if ($first === 'v' || $first === 'f') {
                ObjLines::check($text, $line - 1);
            }
            if ($first === 'f') {
                $this->faces->face($text, $line);
            } elseif ($first === 'v') {
                str_starts_with($text, 'vp') ? $this->passedOver['free-form (vp)'] = true : $this->vertices->vertex($text);
            } else {
                $this->statement($text, $line);
            }
        }
    }

    private function statement(string $text, int $line): void
    {
        $blank = strpos($text, ' ');
        $keyword = $blank === false ? $text : substr($text, 0, $blank);
        $rest = $blank === false ? '' : mb_scrub(trim(substr($text, $blank + 1)));
        switch ($keyword) {
            case 'o':
                $this->byObject = true;
                $this->start(new ObjGroup($rest !== '' ? $rest : 'unnamed', $this->vertices->positionCount()));
                break;
            case 'g':
                if (! $this->byObject) {
                    $name = $rest !== '' ? $rest : 'default';
                    if (isset($this->openGroups[$name])) {
                        $this->faces->group = $this->openGroups[$name];
                    } else {
                        $this->start(new ObjGroup($name, $this->vertices->positionCount()));
                        $this->openGroups[$name] = $this->faces->group;
                    }
                }
                break;
            case 'usemtl':
                $this->faces->material = $rest;
                break;
            case 'mtllib':
                // One library or several; a name may hold blanks, so the whole is tried where it ends in .mtl only once.
                $names = substr_count(strtolower($rest), '.mtl') > 1 ? explode(' ', $rest) : [$rest];
                foreach ($names as $name) {
                    $this->libraries[$name] = true;
                }
                break;
            case 's':
                $this->faces->smoothing = $rest === 'off' ? 0 : max(0, (int) $rest);
                break;
            case 'l':
            case 'p':
            case 'curv':
            case 'surf':
            case 'cstype':
                $this->passedOver[$keyword] = true;
                break;
            default:
                if (preg_match('/[^\x20-\x7e]/', $keyword) === 1 || strlen($keyword) > 32) {
                    throw Unreadable::onLine($line, 'is not OBJ text');
                }
                $this->passedOver[$keyword] = true;
        }
        if (count($this->passedOver) > 200) {
            throw Unreadable::onLine($line, 'the file is full of words that OBJ does not know; it is another format');
        }
    }

    private function start(ObjGroup $group): void
    {
        $this->faces->group = $group;
        $this->groups[] = $group;
    }
}
