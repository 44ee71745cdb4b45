// What npm's pngjs reads of PNG files: size, bits, whether sRGB is said, and all pixels as RGBA.
import { readFileSync, readdirSync } from 'node:fs';
import { createRequire } from 'node:module';

const { PNG } = createRequire(import.meta.url)('pngjs');
const folder = process.argv[2];
const out = {};
for (const name of readdirSync(folder)) {
    const bytes = readFileSync(`${folder}/${name}`);
    const image = PNG.sync.read(bytes, { skipRescale: true });
    out[name.replace('.png', '')] = {
        width: image.width,
        height: image.height,
        depth: image.depth,
        srgb: bytes.includes('sRGB'),
        pixels: Array.from(image.data),
    };
}
console.log(JSON.stringify(out));
