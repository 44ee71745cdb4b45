<?php

declare(strict_types=1);

/*
 * A drawing of the fault for the page of every check, as SVG: code → markup. The low poly is slate, the high poly clay, a cage brass, what is wrong plum;
 * each is named by a word beside it. Drawn by hand, no sizes are measured.
 */

const PAPER = '#F6F3EC';
const INK = '#22303A';
const SOFT = '#5A6670';
const LOW = '#3A5A8C';
const HIGH = '#B8623B';
const CAGE = '#9A7B1E';
const BAD = '#8E2A7B';

$svg = static fn (string $title, string ...$parts): string => '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 380 170" width="380" height="170" role="img"><title>'.htmlspecialchars($title).'</title>'
    .'<defs><pattern id="h" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><rect width="6" height="6" fill="'.BAD.'" fill-opacity=".12"/><path d="M0 0V6" stroke="'.BAD.'" stroke-width="2"/></pattern>'
    .'<marker id="a" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="7" markerHeight="7" orient="auto-start-reverse"><path d="M0 0L8 4L0 8z" fill="context-stroke"/></marker></defs>'
    .'<rect width="380" height="170" fill="'.PAPER.'"/><g font-family="Archivo,system-ui,sans-serif" font-size="12" fill="'.INK.'" stroke-linejoin="round" stroke-linecap="round">'.implode('', $parts).'</g></svg>'."\n";
$line = static fn (string $color, string $path, float $width = 2.5, string $fill = 'none', string $dash = ''): string => "<path d=\"$path\" fill=\"$fill\" stroke=\"$color\" stroke-width=\"$width\"".($dash === '' ? '' : " stroke-dasharray=\"$dash\"").'/>';
$low = static fn (string $path, string $fill = 'none'): string => $line(LOW, $path, 2.5, $fill);
$high = static fn (string $path, string $fill = 'none'): string => $line(HIGH, $path, 2.5, $fill);
$cage = static fn (string $path): string => $line(CAGE, $path, 1.5, 'none', '5 3');
$bad = static fn (string $path): string => $line(BAD, $path, 1.5, 'url(#h)');
$ray = static fn (string $path, bool $isBad = false): string => "<path d=\"$path\" fill=\"none\" stroke=\"".($isBad ? BAD : SOFT).'" stroke-width="1.5" marker-end="url(#a)"/>';
$say = static fn (float $x, float $y, string $words, string $color = INK, string $anchor = 'start'): string => "<text x=\"$x\" y=\"$y\" fill=\"$color\" text-anchor=\"$anchor\">".htmlspecialchars($words).'</text>';
$mono = static fn (float $x, float $y, string $words, string $color = INK, string $anchor = 'start'): string => "<text x=\"$x\" y=\"$y\" fill=\"$color\" text-anchor=\"$anchor\" xml:space=\"preserve\" font-family=\"IBM Plex Mono,monospace\">".htmlspecialchars($words).'</text>';
$dot = static fn (float $x, float $y, float $r = 4): string => "<circle cx=\"$x\" cy=\"$y\" r=\"$r\" fill=\"".BAD.'"/>';
$names = $say(14, 158, 'low poly', LOW).$say(72, 158, 'high poly', HIGH);
// Names in two columns, and what is between them: ties whole, broken, none.
$ledger = static function (array $rows, string $words) use ($mono, $say): string {
    $out = $say(20, 24, 'low', LOW).$say(215, 24, 'high', HIGH);
    foreach ($rows as $i => [$left, $right, $kind]) {
        $y = 50 + 26 * $i;
        $color = $kind === 'ok' ? SOFT : BAD;
        $out .= $mono(20, $y, $left, $kind === 'left' || $kind === 'both' ? BAD : INK).$mono(215, $y, $right, $kind === 'right' || $kind === 'both' ? BAD : INK);
        $out .= $left !== '' && $right !== '' ? '<path d="M135 '.($y - 4).'H205" stroke="'.$color.'" stroke-width="2"'.($kind === 'ok' ? '' : ' stroke-dasharray="5 4"').'/>' : '<circle cx="'.($left === '' ? 198 : 142).'" cy="'.($y - 4).'" r="5" fill="none" stroke="'.BAD.'" stroke-width="2"/>';
    }

    return $out.$say(20, 152, $words, BAD);
};
// A list of files, parts or materials, with a mark at what is wrong.
$list = static function (array $rows, string $words) use ($mono, $say): string {
    $out = '';
    foreach ($rows as $i => $row) {
        $isBad = $row[0] === '!';
        $y = 36 + 25 * $i;
        $out .= '<path d="M20 '.($y + 8).'H360" stroke="#CFC8B8"/>'.($isBad ? '<circle cx="27" cy="'.($y - 4).'" r="5" fill="'.BAD.'"/>' : '').$mono(42, $y, ltrim($row, '!'), $isBad ? BAD : INK);
    }

    return $out.$say(20, 152, $words, BAD);
};
// A UV page.
$page = '<rect x="20" y="14" width="130" height="130" fill="#FDFCF9" stroke="'.INK.'"/>'.$say(20, 160, 'UV page', SOFT);
$island = static fn (float $x, float $y, float $w, float $h, string $fill = '#C9D4E4', float $turn = 0): string => "<rect x=\"$x\" y=\"$y\" width=\"$w\" height=\"$h\" fill=\"$fill\" fill-opacity=\".8\" stroke=\"".LOW.'" stroke-width="2"'.($turn === 0.0 ? '' : ' transform="rotate('.$turn.' '.($x + $w / 2).' '.($y + $h / 2).')"').'/>';
$note = static fn (string ...$words): string => implode('', array_map(static fn (int $i, string $one): string => $say(176, 50 + 20 * $i, $one, $i === 0 ? BAD : INK), array_keys($words), array_values($words)));
$swatch = static fn (float $x, string $hex, string $words = ''): string => "<rect x=\"$x\" y=\"34\" width=\"72\" height=\"60\" fill=\"$hex\" stroke=\"".INK.'"/>'.$mono($x + 36, 112, $words === '' ? $hex : $words, INK, 'middle');
// A map as it came back beside what was expected.
$maps = static fn (string $one, string $two, string $words): string => '<g transform="translate(30 24)">'.$one.'</g><g transform="translate(200 24)">'.$two.'</g>'.$say(30, 140, 'as it came back', BAD).$say(200, 140, 'the trial', SOFT).$say(30, 160, $words, BAD);
$tile = '<rect width="96" height="96" fill="#8080FF" stroke="'.INK.'"/>';
$bump = '<circle cx="36" cy="36" r="20" fill="#8080FF" stroke="#5BC8F0" stroke-width="6"/><path d="M66 84h22v-22" fill="none" stroke="#E87FD0" stroke-width="6"/>';

return array_map(static fn (array $drawing): string => $svg(...$drawing), [
    'file-unreadable' => ['A file that breaks off in a line', $list(['v 0.5 1.0 0.5', 'v 0.5 1.0 −0.5', 'f 1/1 2/2 3/3', '!f 1/1 2/'], 'it ends in the middle of a face: line 4')],
    'file-empty' => ['A file with points and no faces', $list(['o float_low', 'v 0 0 0', 'v 1 0 0', '!no f line'], 'points, and not one face')],
    'file-extras' => ['Cameras and lights beside the meshes', $list(['mast_low', '!Camera', '!Key light', '!hidden backup'], 'more than meshes is in the file')],
    'role-unknown' => ['A part whose name says neither low nor high', $list(['drum_low', 'crank_low', '!handle', 'base_low'], 'low or high? neither its name nor its file says')],
    'role-mixed' => ['A high part in the low file', $list(['winch_low.obj', '   drum_low', '   crank_low', '!   pawl_high'], 'a high part in the low file')],
    'unit-mismatch' => ['A high poly a hundred times as large', $low('M40 100h18v18h-18z'), $high('M120 20h120v120h-120z'), $say(250, 85, '100 times as large', BAD), $names],
    'axis-mismatch' => ['A high poly that lies on its side', $low('M50 30h40v100h-40z'), $high('M160 70h100v40h-100z'), $ray('M110 50C150 20 200 30 210 60', true), $say(220, 40, 'turned by 90°', BAD), $names],
    'off-alignment' => ['A high poly beside its low', $low('M90 50h140v70h-140z'), $high('M112 42h140v70h-140z'), $ray('M90 134H112', true), $say(120, 139, 'shifted', BAD), $names],
    'transform-unfrozen' => ['A node with a rotation and a scale left on it', $low('M60 60h70v60h-70z'), '<g transform="rotate(20 250 90)">'.$low('M205 70h110v40h-110z').'</g>', $ray('M145 88h45', true), $mono(60, 40, 'mesh'), $mono(210, 40, 'rotate 20°, scale 1.6', BAD)],
    'transform-mirrored' => ['A part mirrored by a scale of minus one', $low('M60 120l40-70 40 70z'), $line(SOFT, 'M185 30v110', 1.5, 'none', '4 4'), $line(LOW, 'M310 120l-40-70-40 70z', 2.5, 'url(#h)'), $mono(235, 145, 'scale −1', BAD)],
    'pivot-differs' => ['Origins of a pair apart', $low('M80 60h120v60h-120z'), $high('M84 56h120v60h-120z'), $dot(140, 90), $dot(290, 40), $line(BAD, 'M140 90L290 40', 1.5, 'none', '4 3'), $say(250, 70, 'origins apart', BAD), $names],
    'name-duplicate' => ['Two parts of one name', $list(['base_low', '!drum_low', '!drum_low', 'pawl_low'], 'which of the two is meant?')],
    'high-doubled' => ['Two high parts in one place', $high('M80 50h150v70h-150z'), $line(BAD, 'M84 53h150v70h-150z', 2, 'none', '6 4'), $mono(80, 40, 'drum_high_old', HIGH), $mono(150, 142, 'drum_high_new', BAD)],
    'name-unsafe' => ['Blanks and letters that programs trip over', $list(['drum_low', '!drum  ring_low ', '!öse_low', 'base_low'], 'blanks and letters that other programs write otherwise')],
    'mesh-degenerate' => ['A triangle without area', $low('M60 130L130 40L200 130z'), $low('M200 130L270 40L330 130z'), $line(BAD, 'M130 40L270 40', 4), $say(160, 30, 'three corners on one line', BAD)],
    'mesh-nonmanifold' => ['An edge with three faces', $low('M60 60L170 40v70L60 130z', '#C9D4E4'), $low('M170 40L290 60v70L170 110z', '#C9D4E4'), $low('M170 40L230 14v60L170 110z', '#C9D4E4'), $line(BAD, 'M170 40v70', 4), $say(180, 152, 'three faces on one edge', BAD)],
    'mesh-flipped' => ['Faces turned the other way', $low('M50 120h70v-60h-70z'), $bad('M120 120h70v-60h-70z'), $low('M190 120h70v-60h-70z'), $ray('M85 90V30'), $ray('M155 90V150', true), $ray('M225 90V30'), $say(270, 100, 'faces in', BAD)],
    'mesh-doubled' => ['Two faces in one place', $low('M70 120L150 40L230 120z', '#C9D4E4'), $line(BAD, 'M74 124L154 44L234 124z', 2, 'none', '6 4'), $say(250, 90, 'the same face twice', BAD)],
    'mesh-loose' => ['Points that no face uses', $low('M60 120h90v-70h-90z', '#C9D4E4'), $dot(210, 60), $dot(260, 110), $dot(310, 50), $say(200, 145, 'points of no face', BAD)],
    'mesh-ngon' => ['A face of many corners, cut in two ways', $low('M50 90l35-50h50l30 50-30 45h-50z', '#C9D4E4'), $line(BAD, 'M50 90L165 90M85 40L135 135', 1.5, 'none', '4 3'), $low('M220 90l35-50h50l30 50-30 45h-50z', '#C9D4E4'), $line(BAD, 'M255 40L305 135M220 90L305 40', 1.5, 'none', '4 3'), $say(110, 160, 'the baker and the engine cut it otherwise', BAD)],
    'normals-missing' => ['Faces without normals', $low('M50 120Q190 20 330 120'), ...array_map(static fn (int $x): string => $say($x, 50 + abs(190 - $x) * .28, '?', BAD, 'middle'), [90, 140, 190, 240, 290]), $say(110, 150, 'nothing says where rays start to', BAD)],
    'normals-invalid' => ['Normals of no length', $low('M60 110h260'), $ray('M100 110V60'), $dot(160, 110), $ray('M220 110V60'), $ray('M280 110V14', true), $say(130, 136, 'zero', BAD), $say(290, 40, 'too long', BAD)],
    'normals-inverted' => ['Normals that point into the part', $low('M70 110Q190 30 310 110'), $ray('M130 82V130', true), $ray('M190 70V130', true), $ray('M250 82V130', true), $say(150, 152, 'rays start the wrong way', BAD)],
    'triangle-budget' => ['More triangles than the budget', '<rect x="40" y="60" width="300" height="26" fill="none" stroke="'.INK.'"/><rect x="40" y="60" width="220" height="26" fill="'.LOW.'" fill-opacity=".5"/><rect x="260" y="60" width="80" height="26" fill="url(#h)"/>', $line(INK, 'M260 46v54', 2), $say(260, 40, 'budget', INK, 'middle'), $say(300, 112, 'over', BAD, 'middle')],
    'material-count' => ['More materials than pages', $list(['steel', 'rope', '!glass', '!lambert1'], 'two pages in the standard, four materials')],
    'material-stray' => ['A material on a sliver of the low poly', $low('M60 40h200v90h-200z', '#C9D4E4'), $bad('M240 40h20v14h-20z'), $mono(280, 52, 'lambert1', BAD), $say(120, 90, 'steel')],
    'material-missing' => ['Faces without a material', $low('M60 40h120v90h-120z', '#C9D4E4'), $bad('M180 40h80v90h-80z'), $say(100, 90, 'steel'), $say(272, 90, 'none', BAD)],
    'high-not-denser' => ['A high poly as coarse as its low', $low('M50 120L80 60L150 40L180 120z', '#C9D4E4'), $high('M220 120L250 60L320 40L350 120z', '#EBD3C6'), $say(95, 145, '12 triangles', LOW, 'middle'), $say(285, 145, '12 triangles', BAD, 'middle')],
    'pair-self' => ['A low poly that is its own high', $low('M110 40h140v80h-140z'), $line(HIGH, 'M110 40h140v80h-140z', 2, 'none', '7 6'), $say(110, 142, 'one surface: it bakes on itself', BAD)],
    'high-faceted' => ['Facets on the high poly', $high('M60 120L80 70L120 40L180 32L240 40L280 70L300 120'), $low('M60 126L180 20L300 126'), $dot(80, 70), $dot(120, 40), $dot(240, 40), $dot(280, 70), $say(120, 152, 'edges that will show in the map', BAD)],
    'high-covers-detail' => ['A copy of the low over the detail', $high('M50 120h90v-30h70v30h120'), $line(BAD, 'M50 84h280', 2.5), $low('M50 76h280'), $ray('M110 40V80', true), $say(150, 66, 'rays stop at the copy', BAD), $say(190, 140, 'detail', HIGH)],
    'pair-no-high' => ['A low part alone', $ledger([['drum_low', 'drum_high', 'ok'], ['crank_low', '', 'left'], ['base_low', 'base_high', 'ok']], 'nothing to bake from')],
    'pair-no-low' => ['A high part alone', $ledger([['drum_low', 'drum_high', 'ok'], ['', 'rivet_high', 'right'], ['base_low', 'base_high', 'ok']], 'nothing to bake onto')],
    'suffix-case' => ['A suffix in another letter case', $ledger([['drum_low', 'drum_High', 'right'], ['base_low', 'base_high', 'ok']], '_High is not _high')],
    'name-case' => ['A name in another letter case', $ledger([['drum_low', 'Drum_high', 'right'], ['base_low', 'base_high', 'ok']], 'Drum is not drum')],
    'suffix-missing' => ['A part without its suffix', $ledger([['drum_low', 'drum', 'right'], ['base_low', 'base_high', 'ok']], 'drum_high would pair')],
    'name-near' => ['Two names that differ by a letter', $ledger([['shutter_low', 'shuter_high', 'right'], ['base_low', 'base_high', 'ok']], 'one letter is missing')],
    'pair-crossed' => ['Two pairs that cross', $mono(30, 50, 'left_low', LOW), $mono(30, 110, 'right_low', LOW), $mono(230, 50, 'left_high', HIGH), $mono(230, 110, 'right_high', HIGH), $line(SOFT, 'M110 46H220M110 106H220', 2), $line(BAD, 'M110 46L220 106M110 106L220 46', 2, 'none', '5 4'), $say(30, 150, 'place and size say the other way round', BAD)],
    'pair-apart' => ['A pair whose parts do not meet', $low('M40 50h90v70h-90z'), $high('M250 50h90v70h-90z'), $ray('M140 85H240', true), $say(150, 75, 'far apart', BAD), $names],
    'set-incomplete' => ['A bake set with one side only', '<rect x="40" y="30" width="300" height="100" fill="none" stroke="'.INK.'" stroke-dasharray="6 4"/>', $low('M70 60h70v44h-70z'), $bad('M220 60h70v44h-70z'), $say(50, 50, 'set: handle'), $say(222, 122, 'no high poly', BAD)],
    'ray-miss' => ['Rays that meet nothing', $low('M50 110h280'), $high('M50 70h100M230 70h100'), $ray('M90 110V72'), $ray('M190 110V20', true), $ray('M290 110V72'), $say(200, 30, 'meets nothing', BAD), $names],
    'ray-grazing' => ['Rays that run along the surface', $low('M60 130V60h110v70M210 130V60h110v70'), $high('M54 134V54h122v80M204 134V54h122v80'), $ray('M115 60V40'), $ray('M150 62L40 58', true), $ray('M228 62L338 58', true), $say(120, 30, 'normals of opposite faces cancel', BAD), $names],
    'low-margin' => ['A low poly that reaches past its high', $low('M50 110h280'), $high('M50 76h200'), $bad('M252 76h78v34h-78z'), $say(250, 66, 'stays empty', BAD), $names],
    'floater-unbacked' => ['Floating detail with nothing under it', $low('M50 120h280'), $high('M50 100h90M240 100h90'), $high('M160 60h60v16h-60z'), $ray('M150 120V20', true), $ray('M230 120V20', true), $say(240, 40, 'a hole around the float', BAD), $names],
    'floater-rim' => ['The rim of floating detail', $low('M50 120h280'), $high('M50 104h280'), $high('M140 60h100M140 60l-14 20M240 60l14 20'), $dot(126, 80), $dot(254, 80), $say(264, 76, 'its rim will show', BAD), $names],
    'high-unseen' => ['A high shell that no ray meets', $low('M50 60h280'), $high('M50 80h280'), $bad('M150 104h80v30h-80z'), $ray('M120 60V78'), $ray('M190 60V78'), $say(240, 124, 'never met', BAD), $names],
    'overhang' => ['High poly past an open border', $low('M50 110h200'), $high('M50 76h280'), $bad('M252 70h78v12h-78z'), $say(262, 100, 'nothing takes it', BAD), $names],
    'reach-short' => ['A reach that ends before the high poly', $low('M50 130h280'), $high('M50 100Q190 20 330 100'), $cage('M50 84h280'), $ray('M190 130V86', true), $bad('M100 82Q190 32 280 82z'), $say(210, 40, 'beyond the reach', BAD), $say(14, 158, 'low poly', LOW), $say(72, 158, 'high poly', HIGH), $say(136, 158, 'reach', CAGE)],
    'reach-long' => ['A reach that goes on to another surface', $low('M50 130h280'), $high('M50 112h280'), $high('M160 40h90'), $cage('M50 20h280'), $ray('M200 22V40', true), $say(256, 44, 'starts beyond it', BAD), $say(14, 158, 'low poly', LOW), $say(72, 158, 'high poly', HIGH), $say(136, 158, 'reach', CAGE)],
    'span-closed' => ['No single distance works', $low('M50 130h110v-40h60v40h110'), $high('M50 100Q100 60 160 84h60Q280 60 330 100'), $ray('M110 130V78'), $ray('M160 110H220', true), $say(120, 40, 'what one side needs, the other forbids', BAD), $names],
    'cage-topology' => ['A cage of other faces than its low', $low('M60 120h110v-70h-110z'), $line(LOW, 'M60 120L170 50', 1.5), $cage('M230 125h120v-80h-120z'), $line(BAD, 'M230 45L350 125M290 45v80', 1.5), $say(90, 145, '2 faces', LOW), $say(260, 145, '6 faces', BAD)],
    'cage-pierced' => ['High poly outside the cage', $low('M60 130h260'), $cage('M60 70h260'), $high('M60 110Q120 90 160 90Q190 20 230 90Q280 90 320 110'), $bad('M172 68Q193 34 215 68z'), $say(230, 50, 'outside the cage', BAD), $say(14, 158, 'low poly', LOW), $say(72, 158, 'high poly', HIGH), $say(136, 158, 'cage', CAGE)],
    'cage-inverted' => ['A cage face turned against its low face', $low('M60 120h260'), $cage('M60 60h70L220 90L180 60h140'), $line(BAD, 'M130 60L220 90L180 60', 3), $say(200, 44, 'folded over', BAD), $say(14, 158, 'low poly', LOW), $say(136, 158, 'cage', CAGE)],
    'explode-clash' => ['An exploded layout that still bleeds', $low('M50 60h100v60h-100z'), $low('M166 60h100v60h-100z'), $high('M46 56h108v68h-108z'), $high('M162 56h108v68h-108z'), $ray('M150 90H165', true), $say(100, 150, 'too near: rays reach the other set', BAD)],
    'explode-drift' => ['Low and high moved by other vectors', $low('M40 90h70v50h-70z'), $low('M200 30h70v50h-70z'), $high('M230 50h70v50h-70z'), $ray('M112 100L196 60'), $ray('M112 124L226 84', true), $say(240, 124, 'not the same move', BAD), $names],
    'sets-bleed' => ['Rays that meet another set first', $low('M40 130h140'), $high('M40 60h140'), $high('M100 90h180', 'none'), $low('M200 130h140'), $ray('M70 130V62'), $ray('M140 130V92', true), $say(200, 82, 'another set is met first', BAD), $names],
    'surfaces-cross' => ['Low parts that cross', $low('M60 130L250 40'), $low('M60 50L250 130'), $dot(155, 87, 6), $say(170, 84, 'they cross', BAD)],
    'surface-gap' => ['High poly far from its low', $low('M50 130h280'), $high('M50 118h80L150 40h80L250 118h80'), $bad('M152 44h76v82h-76z'), $say(240, 60, 'too far apart', BAD), $names],
    'buried' => ['Low area that nobody sees', $low('M60 120h130v-80h-130z', '#C9D4E4'), $low('M150 100h150v-40h-150z', '#C9D4E4'), $bad('M150 100h40v-40h-40z'), $say(120, 150, 'inside the other: texels for nothing', BAD)],
    'ray-lean' => ['Details that come out leaning', $low('M60 130L320 130L320 60'), $high('M150 118v-24h30v24'), $ray('M150 130L120 60', true), $ray('M210 130L190 60', true), $say(110, 30, 'rays lean, and so does the screw', BAD), $names],
    'id-missing' => ['A part without an ID', $swatch(30, '#E8112D'), $swatch(120, '#0AA64F'), '<rect x="210" y="34" width="72" height="60" fill="url(#h)" stroke="'.INK.'"/>', $mono(246, 112, 'none', BAD, 'middle')],
    'id-close' => ['Two IDs that a picker takes for one', $swatch(60, '#D83A2E'), $swatch(132, '#DD4233'), $say(60, 140, 'picked as one', BAD)],
    'id-mix' => ['An ID that is the blend of two others', $swatch(40, '#E81123'), $swatch(112, '#8A0F8F'), $swatch(184, '#2C0DFB'), $say(40, 140, 'where the outer two meet, the middle one is picked', BAD)],
    'id-dull' => ['Gray IDs', $swatch(50, '#8C867C'), $swatch(140, '#9A9A8E'), $swatch(230, '#7E8A84'), $say(50, 140, 'hard to tell apart', BAD)],
    'id-reused' => ['One ID on parts of two materials', $swatch(40, '#0AA64F', 'steel'), $swatch(130, '#0AA64F', 'rope'), $say(40, 140, 'one mask picks both', BAD)],
    'id-gradient' => ['IDs that run into each other', '<defs><linearGradient id="g"><stop offset=".25" stop-color="#E81123"/><stop offset=".75" stop-color="#2C0DFB"/></linearGradient></defs><rect x="50" y="34" width="240" height="60" fill="url(#g)" stroke="'.INK.'"/>', $say(100, 120, 'the mesh is too coarse for a hard border', BAD)],
    'id-drift' => ['An ID mesh that is not the high mesh', $high('M50 120Q110 20 170 120z'), $line(BAD, 'M220 120L250 60L310 60L340 120z', 2.5), $say(76, 145, 'high poly', HIGH), $say(250, 145, 'ID copy', BAD)],
    'uv-missing' => ['A part that has no place on the page', $page, $island(34, 28, 46, 40), $note('no UVs', 'a part of the low poly has no', 'place to bake to')],
    'uv-outside' => ['An island over the border of the page', $page, $island(110, 60, 70, 44, 'url(#h)'), $note('', '', '', '', 'over the border')],
    'uv-overlap' => ['Islands that lie on each other', $page, $island(34, 34, 70, 60), $island(66, 62, 70, 60), '<rect x="66" y="62" width="38" height="32" fill="url(#h)"/>', $note('covered twice', 'two places share their texels')],
    'uv-degenerate' => ['A triangle with no area on the page', $page, $island(34, 34, 60, 50), $line(BAD, 'M110 110L140 130', 4), $note('no area in UV', 'it gets no texels')],
    'uv-mirrored' => ['An island turned over', $page, '<text x="44" y="80" font-size="40" fill="'.LOW.'">R</text><text x="-140" y="80" font-size="40" fill="'.BAD.'" transform="scale(-1 1)">R</text>', $note('turned over', 'fine where it is meant')],
    'uv-padding' => ['Islands too near to each other', $page, $island(34, 34, 48, 80), $island(86, 34, 48, 80), '<rect x="82" y="34" width="4" height="80" fill="'.BAD.'"/>', $note('2 px apart', 'they run into each other on', 'smaller copies of the map')],
    'uv-border' => ['An island too near to the edge', $page, $island(23, 50, 60, 50), '<rect x="20" y="50" width="3" height="50" fill="'.BAD.'"/>', $note('1 px from the edge')],
    'uv-stretch' => ['Texels that are stretched', $page, $island(34, 40, 100, 30), $line(BAD, 'M54 40v30M74 40v30M94 40v30M114 40v30', 1), $low('M230 90h60v60h-60z'), $line(BAD, 'M242 90v60M254 90v60M266 90v60M278 90v60', 1), $note('stretched', 'texels are no squares there')],
    'texel-density' => ['Islands of uneven density', $page, $island(30, 24, 74, 74), $island(114, 60, 24, 24, 'url(#h)'), $note('coarser than the rest', 'the same size on the asset')],
    'texel-coarse' => ['Details finer than the texels', $page, $line(SOFT, 'M20 46h130M20 78h130M20 111h130M52 14v130M85 14v130M117 14v130', 1), $line(BAD, 'M60 60q6 8 0 16M72 58q6 8 0 16', 2), $note('finer than two texels', 'it comes out jagged')],
    'uv-use' => ['Little of the page used', $page, $island(26, 20, 50, 40), $island(26, 70, 36, 30), $note('53 % of the page used', 'the rest is map for nothing')],
    'uv-turned' => ['Islands turned from upright', $page, $island(54, 44, 60, 44, 'url(#h)', 24), $note('turned by 24°', 'straight lines become stairs')],
    'uv-pose' => ['Other UVs than those that ship', $page, $island(34, 40, 50, 40), $line(BAD, 'M64 66h50v40h-50z', 2, 'none', '5 4'), $note('ships with other UVs', 'than it is baked with')],
    'page-hidden' => ['Area hidden behind another part of its page', $page, $island(34, 34, 90, 80), '<rect x="74" y="34" width="50" height="80" fill="url(#h)"/>', $note('hidden behind another part', 'it deserves its own page')],
    'hard-no-seam' => ['A hard edge inside an island', $page, $island(34, 34, 100, 80), $line(BAD, 'M84 34v80', 4), $note('a hard edge, no seam', 'a line will show')],
    'seam-not-hard' => ['A sharp seam left smooth', $low('M80 130V60H260v70'), $ray('M80 60L50 30'), $ray('M260 60L290 30'), $dot(80, 60), $dot(260, 60), $say(110, 40, 'a seam at a sharp edge, smooth', BAD)],
    'soft-over-sharp' => ['Smooth shading over a sharp edge', $low('M80 130V60H260v70'), $high('M86 130V66H254v64'), $ray('M80 60L46 26', true), $ray('M120 60L108 22', true), $ray('M170 60V20'), $say(190, 44, 'shading bends over a flat face', BAD), $names],
    'rim-wave' => ['Waves along a round rim', $low('M90 90L130 40L210 40L250 90L210 140L130 140z'), '<circle cx="170" cy="90" r="76" fill="none" stroke="'.HIGH.'" stroke-width="2.5"/>', $bad('M130 40Q170 2 210 40z'), $say(262, 60, 'bows out between', BAD), $say(262, 76, 'the sides', BAD), $names],
    'silhouette-loss' => ['An outline that the map cannot save', $low('M90 120L170 40L250 120'), $high('M86 124Q120 40 170 32Q220 40 254 124'), $bad('M92 114Q110 62 165 42z'), $say(250, 70, 'the outline shows', BAD), $names],
    'proof-retouch' => ['Texels to paint by hand', $page, $island(34, 30, 100, 90), '<path d="M70 60q20-16 34 4q8 18-14 22q-26 2-20-26z" fill="url(#h)" stroke="'.BAD.'"/>', $note('to paint by hand', 'rays miss or go wrong there')],
    'map-unreadable' => ['A map that breaks off', $maps($tile.'<path d="M0 60h96v36H0z" fill="url(#h)"/>', $tile.$bump, 'cut short, or no image')],
    'map-turned' => ['A map that is mirrored', $maps('<g transform="translate(96 0) scale(-1 1)">'.$tile.$bump.'</g>', $tile.$bump, 'mirrored: another UV origin')],
    'map-green' => ['A normal map with green inverted', $maps('<rect width="96" height="96" fill="#8080FF" stroke="'.INK.'"/><circle cx="48" cy="48" r="24" fill="none" stroke="#80FFB0" stroke-width="7" stroke-dasharray="75 76"/>', '<rect width="96" height="96" fill="#8080FF" stroke="'.INK.'"/><circle cx="48" cy="48" r="24" fill="none" stroke="#80FFB0" stroke-width="7" stroke-dasharray="75 76" stroke-dashoffset="75"/>', 'bumps become dents')],
    'map-space' => ['A data map in another color space', $maps('<rect width="96" height="96" fill="#BCBCFF" stroke="'.INK.'"/>'.$bump, $tile.$bump, 'lighter all over: saved as sRGB')],
    'map-other' => ['A map of something else', $maps('<rect width="96" height="96" fill="#8080FF" stroke="'.INK.'"/><path d="M14 14h60M14 34h40M14 54h66" stroke="#E87FD0" stroke-width="6"/>', $tile.$bump, 'fits no way: of another asset or page')],
    'map-size' => ['A map of another size', $maps('<rect width="48" height="48" fill="#8080FF" stroke="'.BAD.'" stroke-width="2"/>', $tile, 'half the size that the standard asks for')],
    'map-bits' => ['A map of few bits', $maps('<g>'.implode('', array_map(static fn (int $i): string => '<rect x="'.($i * 16).'" width="16" height="96" fill="rgb('.(40 * $i + 30).','.(40 * $i + 30).','.(40 * $i + 30).')"/>', range(0, 5))).'</g>', '<defs><linearGradient id="k"><stop stop-color="#1E1E1E"/><stop offset="1" stop-color="#E6E6E6"/></linearGradient></defs><rect width="96" height="96" fill="url(#k)"/>', 'bands: 8 bits where 16 are wanted')],
    'map-hole' => ['Texels that were never written', $maps($tile.'<path d="M30 30h30v26H30z" fill="url(#h)" stroke="'.BAD.'"/>', $tile.$bump, 'never written')],
    'map-padding' => ['Colors that end at the border of an island', $maps('<rect width="96" height="96" fill="#222" stroke="'.INK.'"/><rect x="24" y="24" width="48" height="48" fill="#8080FF" stroke="'.BAD.'" stroke-width="2"/>', '<rect width="96" height="96" fill="#8080FF" stroke="'.INK.'"/><rect x="24" y="24" width="48" height="48" fill="none" stroke="'.LOW.'"/>', 'nothing goes on outside the island')],
    'map-blend' => ['An ID map with blended borders', $maps('<defs><linearGradient id="b"><stop offset=".42" stop-color="#E81123"/><stop offset=".58" stop-color="#2C0DFB"/></linearGradient></defs><rect width="96" height="96" fill="url(#b)" stroke="'.INK.'"/>', '<rect width="48" height="96" fill="#E81123"/><rect x="48" width="48" height="96" fill="#2C0DFB"/>', 'colors that are no ID\'s')],
    'map-differs' => ['A map that differs from the trial', $maps($tile.$bump.'<path d="M60 60h36v36H60z" fill="url(#h)"/>', $tile.$bump, 'another reach, cage or mesh than was checked')],
    'package-readback' => ['A package that does not read back', $list(['files/winch_low.obj   same', '!files/winch_high.obj  other bytes', 'ticket.json           same'], 'what was written is not what was meant')],
    'package-stale' => ['A package of an earlier delivery', $list(['sealed of delivery 2', 'delivery 3 came since', '!winch_high.obj changed'], 'what was sealed is not what is there')],
    'package-mixed' => ['A package with things of two deliveries', $list(['files           delivery 3', 'outputs/cage    delivery 3', '!outputs/ids     delivery 2'], 'the IDs belong to other meshes')],
    'part-gone' => ['A part of the last delivery is missing', $list(['delivery 2      delivery 3', 'drum_low        drum_low', '!pawl_low        –'], 'dropped on purpose, or forgotten in the export?')],
    'tie-half-moved' => ['One side of a tie moved', $low('M60 60h90v60h-90z'), $high('M56 56h98v68h-98z'), $low('M240 60h90v60h-90z'), $line(HIGH, 'M204 40h98v68h-98z', 2.5, 'none', '6 4'), $say(80, 145, 'delivery 2'), $say(196, 145, 'delivery 3: low moved alone', BAD)],
    'waiver-died' => ['A waiver that was outgrown', '<rect x="40" y="50" width="300" height="24" fill="none" stroke="'.INK.'"/><rect x="40" y="50" width="150" height="24" fill="'.SOFT.'" fill-opacity=".4"/><rect x="190" y="50" width="70" height="24" fill="url(#h)"/>', $line(INK, 'M190 38v48', 2), $say(190, 30, 'accepted up to here', INK, 'middle'), $say(226, 100, 'worse now', BAD, 'middle')],
]);
