/*
 * Where a pair is kept over runs: under the hash of its recipe, of the code that it is made with, and of the packages that its models come from.
 * What is there was made whole; a pair is put together elsewhere and moved there at once.
 */
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, readdirSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { faults, pairs } from './pairs.mjs';

const here = import.meta.dirname;
const hash = (...texts) => texts.reduce((sum, text) => sum.update(String(text)).update('\0'), createHash('sha256')).digest('hex').slice(0, 20);
const text = (name) => readFileSync(join(here, name), 'utf8');

let shared;
function madeWith() {
    shared ??= hash(
        ...['make.mjs', 'mesh.mjs', 'models.mjs', 'shapes.mjs', 'store.mjs', 'write.mjs'].map(text),
        readFileSync(join(here, '../../package-lock.json')),
        execFileSync('dpkg-query', ['-W', 'assimp-testmodels']),
    );
    return shared;
}

export const recipe = (name) => hash(madeWith(), pairs[name], JSON.stringify(faults.filter((one) => one.pair === name).map((one) => [one, String(one.make)])));

/** The folder of a pair; `make` puts it into the folder that it is given, where it is not there yet. */
export async function kept(folder, name, make) {
    const where = join(folder, `${name}-${recipe(name)}`);
    if (existsSync(where)) return [where, false];
    const open = `${where}.${process.pid}`;
    await make(open);
    try {
        renameSync(join(open, name), where);
    } catch (error) {
        // Another run was first.
        if (!existsSync(where)) throw error;
    }
    rmSync(open, { recursive: true, force: true });
    // Made from an older recipe.
    for (const old of readdirSync(folder)) {
        if (new RegExp(`^${name}-[0-9a-f]{20}$`).test(old) && join(folder, old) !== where) rmSync(join(folder, old), { recursive: true, force: true });
    }
    return [where, true];
}
