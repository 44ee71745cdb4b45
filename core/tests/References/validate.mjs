// Validates GLB files with the Khronos glTF validator of the npm registry and prints what it found.
import { readFileSync } from 'node:fs';
import validator from 'gltf-validator';

const out = {};
for (const path of process.argv.slice(2)) {
    const report = await validator.validateBytes(new Uint8Array(readFileSync(path)));
    out[path] = { errors: report.issues.numErrors, warnings: report.issues.numWarnings, messages: report.issues.messages.slice(0, 5), triangles: report.info.totalTriangleCount };
}
console.log(JSON.stringify(out));
