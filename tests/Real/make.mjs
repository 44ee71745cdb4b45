/* Makes real pairs: node tests/Real/make.mjs FOLDER [PAIR…]. Writes PAIR_low.*, PAIR_high.*, and the same with faults, and prints what it made. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { faults, pairs } from './pairs.mjs';
import { triangles } from './mesh.mjs';
import { store } from './store.mjs';
import { write } from './write.mjs';

const [folder, ...names] = process.argv.slice(2);
const log = console.log;
console.log = () => {};
for (const name of names.length ? names : Object.keys(pairs)) {
    const start = Date.now();
    const pair = await pairs[name]();
    const put = (where, made, standard) => {
        mkdirSync(where, { recursive: true });
        write(`${where}/${name}_low.${made.endings[0]}`, made.low);
        write(`${where}/${name}_high.${made.endings[1]}`, made.high);
        if (standard ?? made.standard) writeFileSync(`${where}/standard.json`, JSON.stringify(standard ?? made.standard));
        if (made.choices) writeFileSync(`${where}/choices.json`, JSON.stringify(made.choices));
    };
    put(`${folder}/${name}`, pair);
    // The judge reads the same meshes as the product, not what a reader makes of them.
    store(`${folder}/${name}/meshes.bin`, pair);
    for (const fault of faults.filter((one) => one.pair === name)) put(`${folder}/${name}/${fault.name}`, fault.make(pair), fault.standard);
    for (const fault of faults.filter((one) => one.pair === name && one.standard)) put(`${folder}/${name}/${fault.name}-before`, pair, fault.standard);
    log(`${name}: ${triangles(pair.low)} / ${triangles(pair.high)} triangles, ${pair.low.length} parts, ${((Date.now() - start) / 1000).toFixed(1)} s`);
}
