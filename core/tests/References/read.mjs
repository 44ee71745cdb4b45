// Reads OBJ, GLB, PLY, STL and COLLADA files with three's loaders, an independent reader: parts, triangles, bounds.
import { readFileSync } from 'node:fs';
import { JSDOM } from 'jsdom';
import { Box3, Mesh } from 'three';
import { ColladaLoader } from 'three/examples/jsm/loaders/ColladaLoader.js';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js';
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';

globalThis.self = globalThis;
const { window } = new JSDOM('');
// Pictures are not fetched; their failure says nothing of the mesh.
process.on('unhandledRejection', () => undefined);
globalThis.DOMParser = window.DOMParser;

console.error = console.warn = console.log = () => undefined;
globalThis.URL.createObjectURL ??= () => '';
const out = {};
for (const path of process.argv.slice(2)) {
    const bytes = readFileSync(path);
    const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length);
    let root;
    if (/\.obj$/i.test(path)) {
        root = new OBJLoader().parse(bytes.toString('utf8'));
    } else if (/\.ply$/i.test(path)) {
        root = new Mesh(new PLYLoader().parse(buffer));
    } else if (/\.stl$/i.test(path)) {
        root = new Mesh(new STLLoader().parse(buffer));
    } else if (/\.dae$/i.test(path)) {
        globalThis.document = window.document;
        root = new ColladaLoader().parse(bytes.toString('utf8'), '').scene;
        // The file's own unit and axes.
        root.scale.set(1, 1, 1);
        root.rotation.set(0, 0, 0);
    } else {
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
process.stdout.write(JSON.stringify(out));
