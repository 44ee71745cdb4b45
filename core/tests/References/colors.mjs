// Lab, OKLCH chroma, simulated vision and ΔE00 to the next color, by npm culori.
import { converter, differenceCiede2000, filterDeficiencyDeuter, filterDeficiencyProt, filterDeficiencyTrit, formatHex, parse } from 'culori';

const colors = process.argv.slice(2).map((hex) => parse(hex));
const lab = converter('lab65');
const oklch = converter('oklch');
const delta = differenceCiede2000();
// The matrices are for linear light; culori multiplies what it is given, so it is given that.
const linear = converter('lrgb');
const rgb = converter('rgb');
const seen = (filter) => colors.map((color) => {
    const from = linear(color);
    const to = filter({ mode: 'rgb', r: from.r, g: from.g, b: from.b });
    const clip = (v) => Math.max(0, Math.min(1, v));
    return formatHex(rgb({ mode: 'lrgb', r: clip(to.r), g: clip(to.g), b: clip(to.b) })).toUpperCase();
});
console.log(
    JSON.stringify({
        lab: colors.map((color) => { const { l, a, b } = lab(color); return [l, a, b]; }),
        chroma: colors.map((color) => oklch(color).c),
        delta: colors.map((color, i) => delta(color, colors[(i + 1) % colors.length])),
        prot: seen(filterDeficiencyProt(1)),
        deuter: seen(filterDeficiencyDeuter(1)),
        trit: seen(filterDeficiencyTrit(1)),
    }),
);
