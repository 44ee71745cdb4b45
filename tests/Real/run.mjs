/*
 * The corpus of real pairs: makes them, lets the product inspect them, and holds every blocker and caution against the judge. Then the faults:
 * each must give its own finding and no other new one. Prints a line a pair and `false / missed of N`; exit 1 when either is not 0.
 * Pairs, and what the judge's rays met, are kept in the folder; reports are made anew.
 *
 * node tests/Real/run.mjs FOLDER [PAIR…]
 */
import { execFile } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { kept } from './kept.mjs';
import { faults, pairs } from './pairs.mjs';

const run = promisify(execFile);
const [folder, ...wanted] = process.argv.slice(2);
const names = wanted.length ? wanted : Object.keys(pairs);
const here = import.meta.dirname;
const big = { maxBuffer: 1 << 28 };
const reports = mkdtempSync(join(tmpdir(), 'anvil-real-'));
mkdirSync(folder, { recursive: true });

async function inspect(where, pair) {
    const files = readdirSync(where).filter((file) => file.startsWith(`${pair}_`) && !file.endsWith('.bin') && !file.endsWith('.json')).map((file) => join(where, file));
    const standard = existsSync(join(where, 'standard.json')) ? [`--standard=${join(where, 'standard.json')}`] : [];
    const choices = existsSync(join(where, 'choices.json')) ? [`--choices=${join(where, 'choices.json')}`] : [];
    const start = Date.now();
    const { stdout } = await run('php', ['artisan', 'anvil:inspect', '--json', ...standard, ...choices, ...files], big).catch((error) => error);
    const report = JSON.parse(stdout);
    if (report.error) throw new Error(`${where}: ${report.error.message}`);
    return [report, (Date.now() - start) / 1000];
}

const told = (report) => report.findings.filter((finding) => finding.severity !== 'note').map((finding) => `${finding.code} ${finding.severity} ${finding.subject.part ?? finding.subject.set ?? ''}`);

/** What a fault adds, against the same pair without it. */
function compare(fault, before, after) {
    const old = new Set(told(before));
    const fresh = after.findings.filter((finding) => finding.severity !== 'note' && !old.has(`${finding.code} ${finding.severity} ${finding.subject.part ?? finding.subject.set ?? ''}`));
    const is = (finding) => finding.code === fault.code && finding.severity === fault.severity && (fault.part === undefined || finding.subject.part === fault.part);
    return { missed: fresh.some(is) ? [] : [fault.code], wrong: fresh.filter((finding) => finding.code !== fault.code) };
}

let [judged, wrong, missed] = [0, 0, 0];
const lines = [];
async function pair(name) {
    const start = Date.now();
    const [where] = await kept(folder, name, (open) => run('node', [join(here, 'make.mjs'), open, name], big));
    const made = Date.now();
    const [report, seconds] = await inspect(where, name);
    const path = join(reports, `${name}.json`);
    writeFileSync(path, JSON.stringify(report));
    const { stdout } = await run('node', [join(here, 'judge.mjs'), join(where, 'meshes.bin'), path, join(folder, 'judged')], { ...big, env: { ...process.env, ANVIL_MAY: (pairs[name].may ?? []).join(',') } });
    const truth = JSON.parse(stdout.trim().split('\n').pop());
    const took = `made ${((made - start) / 1000).toFixed(1)} s, inspected ${seconds.toFixed(1)} s, judged ${((Date.now() - made) / 1000 - seconds).toFixed(1)} s`;
    judged += truth.judged;
    wrong += truth.false.length;
    missed += truth.missed.length;
    const low = report.files.filter((file) => file.role === 'low').reduce((sum, file) => sum + file.triangles, 0);
    const high = report.files.filter((file) => file.role === 'high').reduce((sum, file) => sum + file.triangles, 0);
    lines.push(`${name.padEnd(12)} ${String(high).padStart(8)} / ${String(low).padEnd(6)} ${report.files.map((file) => file.format).join(' ').padEnd(12)} ${truth.false.length} / ${truth.missed.length} of ${truth.judged}  (${took})`);
    for (const one of truth.false) lines.push(`    false:  ${one.code} ${one.set ?? one.part ?? JSON.stringify(one.subject)}: ${one.message} ${one.truth ? JSON.stringify(one.truth) : ''}`);
    for (const one of truth.missed) lines.push(`    missed: ${one.code} ${one.set ?? one.part}: ${JSON.stringify(one.truth ?? {})}`);
    for (const fault of faults.filter((one) => one.pair === name)) {
        const before = fault.standard ? (await inspect(join(where, `${fault.name}-before`), name))[0] : report;
        const [after] = await inspect(join(where, fault.name), name);
        const found = compare(fault, before, after);
        judged += 1;
        wrong += found.wrong.length;
        missed += found.missed.length;
        lines.push(`    ${fault.name}: ${found.missed.length ? `${fault.code} is missing` : fault.code}${found.wrong.map((one) => `, false: ${one.code} ${one.message}`).join('')}`);
    }
}

// Those that take longest first, so that neither of the two that run side by side waits for the other at the end.
const long = ['engine', 'statue', 'controller', 'spider'];
const queue = [...long.filter((name) => names.includes(name)), ...names.filter((name) => !long.includes(name))];
await Promise.all(Array.from({ length: Math.max(1, Math.min(2, cpus().length)) }, async () => {
    while (queue.length) {
        const name = queue.shift();
        try {
            await pair(name);
        } catch (error) {
            missed++;
            lines.push(`${name}: ${error.stack}`);
        }
        console.log(lines.splice(0).join('\n'));
    }
}));
rmSync(reports, { recursive: true, force: true });
if (process.env.ANVIL_TEST_COUNT) writeFileSync(process.env.ANVIL_TEST_COUNT, `${names.length + faults.filter((one) => names.includes(one.pair)).length} ${judged}`);
console.log(`real pairs: ${wrong} false / ${missed} missed of ${judged}`);
process.exitCode = wrong + missed > 0 ? 1 : 0;
