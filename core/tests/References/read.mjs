// Reads OBJ and GLB files with three's loaders, an independent reader: parts, triangles, bounds.
import { readFileSync } from 'node:fs';
import { Box3 } from 'three';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';

globalThis.self = globalThis;
console.error = console.warn = () => undefined;
globalThis.URL.createObjectURL ??= () => '';
const out = {};
for (const path of process.argv.slice(2)) {
    const bytes = readFileSync(path);
    let root;
    if (path.endsWith('.obj')) {
        root = new OBJLoader().parse(bytes.toString('utf8'));
    } else {
        const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length);
        root = (await new Promise((resolve, reject) => new GLTFLoader().parse(buffer, '', resolve, reject))).scene;
    }
    root.updateMatrixWorld(true);
    let triangles = 0;
    root.traverse((node) => {
        if (node.isMesh) {
            triangles += (node.geometry.index ? node.geometry.index.count : node.geometry.attributes.position.count) / 3;
        }
    });
    const box = new Box3().setFromObject(root, true);
    out[path] = { triangles, min: box.min.toArray(), max: box.max.toArray() };
}
console.log(JSON.stringify(out));
