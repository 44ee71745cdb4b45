// MikkTSpace as the npm package mikktspace computes it (WebAssembly of the reference): corner by corner.
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';

const { generateTangents } = createRequire(import.meta.url)('mikktspace');
const meshes = JSON.parse(readFileSync(process.argv[2], 'utf8'));
console.log(JSON.stringify(meshes.map(({ positions, normals, uvs }) => Array.from(generateTangents(new Float32Array(positions), new Float32Array(normals), new Float32Array(uvs))))));
