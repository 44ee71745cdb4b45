/* Writers of the real pairs: OBJ, GLB, glTF, PLY, STL, COLLADA, USD text. Each takes parts of mesh.mjs and a path. */
import { writeFileSync } from 'node:fs';
import { basename } from 'node:path';

const g = (x) => String(Math.fround(x) + 0);

export function write(path, parts) {
    const ending = path.split('.').pop();
    return { obj, glb, gltf, ply, stl, dae, usda }[ending](path, parts);
}

function obj(path, parts) {
    const out = [];
    let [v, n, t] = [1, 1, 1];
    for (const part of parts) {
        out.push(`o ${part.name}`);
        const { positions: p, uvs, cornerNormals: normals, indices } = part;
        const color = (i) => (part.colors ? ` ${g(part.colors[i])} ${g(part.colors[i + 1])} ${g(part.colors[i + 2])}` : '');
        for (let i = 0; i < p.length; i += 3) out.push(`v ${g(p[i])} ${g(p[i + 1])} ${g(p[i + 2])}${color(i)}`);
        if (uvs) for (let i = 0; i < uvs.length; i += 2) out.push(`vt ${g(uvs[i])} ${g(uvs[i + 1])}`);
        if (normals) for (let i = 0; i < normals.length; i += 3) out.push(`vn ${g(normals[i])} ${g(normals[i + 1])} ${g(normals[i + 2])}`);
        for (let i = 0; i < indices.length; i += 3) {
            const corner = (k) => {
                const at = v + indices[i + k];
                const uv = uvs ? t + indices[i + k] : '';
                return normals ? `${at}/${uv}/${n + i + k}` : uvs ? `${at}/${uv}` : at;
            };
            out.push(`f ${corner(0)} ${corner(1)} ${corner(2)}`);
        }
        v += p.length / 3;
        n += normals ? normals.length / 3 : 0;
        t += uvs ? uvs.length / 2 : 0;
    }
    writeFileSync(path, out.join('\n') + '\n');
}

/** Vertices split where corners differ in their normal. */
function split(part) {
    const { positions: p, uvs, cornerNormals: normals, indices } = part;
    if (!normals) return { positions: Float32Array.from(p), uvs: uvs && Float32Array.from(uvs), colors: part.colors && Float32Array.from(part.colors), indices: Uint32Array.from(indices) };
    const map = new Map();
    const [at, uv, no, of, out] = [[], [], [], [], []];
    indices.forEach((v, i) => {
        const key = `${v} ${normals[3 * i].toFixed(5)} ${normals[3 * i + 1].toFixed(5)} ${normals[3 * i + 2].toFixed(5)}`;
        let number = map.get(key);
        if (number === undefined) {
            number = map.size;
            map.set(key, number);
            at.push(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
            no.push(normals[3 * i], normals[3 * i + 1], normals[3 * i + 2]);
            if (uvs) uv.push(uvs[2 * v], uvs[2 * v + 1]);
            if (part.colors) of.push(part.colors[3 * v], part.colors[3 * v + 1], part.colors[3 * v + 2]);
        }
        out.push(number);
    });
    return { positions: Float32Array.from(at), normals: Float32Array.from(no), uvs: uvs && Float32Array.from(uv), colors: part.colors && Float32Array.from(of), indices: Uint32Array.from(out) };
}

function scene(parts) {
    const buffers = [];
    let length = 0;
    const json = { asset: { version: '2.0' }, scene: 0, scenes: [{ nodes: parts.map((_, i) => i) }], nodes: [], meshes: [], accessors: [], bufferViews: [], materials: [{ name: 'paint' }] };
    if (parts.some((part) => part.cut)) json.materials.push({ name: 'leaves', alphaMode: 'MASK' });
    const add = (data, type, componentType, target, extra = {}) => {
        json.bufferViews.push({ buffer: 0, byteOffset: length, byteLength: data.byteLength, target });
        json.accessors.push({ bufferView: json.bufferViews.length - 1, componentType, count: data.length / { SCALAR: 1, VEC2: 2, VEC3: 3 }[type], type, ...extra });
        buffers.push(Buffer.from(data.buffer, data.byteOffset, data.byteLength));
        length += data.byteLength;
        return json.accessors.length - 1;
    };
    parts.forEach((part, i) => {
        const { positions, normals, uvs, colors, indices } = split(part);
        const min = [Infinity, Infinity, Infinity];
        const max = [-Infinity, -Infinity, -Infinity];
        positions.forEach((x, k) => {
            min[k % 3] = Math.min(min[k % 3], x);
            max[k % 3] = Math.max(max[k % 3], x);
        });
        const attributes = { POSITION: add(positions, 'VEC3', 5126, 34962, { min, max }) };
        if (normals) attributes.NORMAL = add(normals, 'VEC3', 5126, 34962);
        if (uvs) attributes.TEXCOORD_0 = add(uvs.map((x, k) => (k % 2 ? 1 - x : x)), 'VEC2', 5126, 34962);
        if (colors) attributes.COLOR_0 = add(colors, 'VEC3', 5126, 34962);
        json.nodes.push({ name: part.name, mesh: i });
        json.meshes.push({ name: part.name, primitives: [{ attributes, indices: add(indices, 'SCALAR', 5125, 34963), material: part.cut ? 1 : 0 }] });
    });
    const bin = Buffer.concat(buffers);
    json.buffers = [{ byteLength: bin.length }];
    return [json, bin];
}

function glb(path, parts) {
    const [json, bin] = scene(parts);
    const text = Buffer.from(JSON.stringify(json));
    const padded = Buffer.concat([text, Buffer.alloc((4 - (text.length % 4)) % 4, 0x20)]);
    const head = Buffer.alloc(20);
    head.write('glTF', 0);
    head.writeUInt32LE(2, 4);
    head.writeUInt32LE(12 + 8 + padded.length + 8 + bin.length, 8);
    head.writeUInt32LE(padded.length, 12);
    head.write('JSON', 16);
    const chunk = Buffer.alloc(8);
    chunk.writeUInt32LE(bin.length, 0);
    chunk.write('BIN\0', 4);
    writeFileSync(path, Buffer.concat([head, padded, chunk, bin]));
}

function gltf(path, parts) {
    const [json, bin] = scene(parts);
    const name = basename(path).replace(/gltf$/, 'bin');
    json.buffers[0].uri = name;
    writeFileSync(path, JSON.stringify(json));
    writeFileSync(path.replace(/gltf$/, 'bin'), bin);
}

function ply(path, parts) {
    const { positions, normals, colors, indices } = split(parts[0]);
    const n = positions.length / 3;
    const width = (normals ? 24 : 12) + (colors ? 3 : 0);
    const head = Buffer.from(`ply\nformat binary_little_endian 1.0\nelement vertex ${n}\nproperty float x\nproperty float y\nproperty float z\n${normals ? 'property float nx\nproperty float ny\nproperty float nz\n' : ''}${colors ? 'property uchar red\nproperty uchar green\nproperty uchar blue\n' : ''}element face ${indices.length / 3}\nproperty list uchar int vertex_indices\nend_header\n`);
    const body = Buffer.alloc(n * width + (indices.length / 3) * 13);
    for (let v = 0; v < n; v++) {
        for (let k = 0; k < 3; k++) {
            body.writeFloatLE(positions[3 * v + k], v * width + 4 * k);
            if (normals) body.writeFloatLE(normals[3 * v + k], v * width + 12 + 4 * k);
            if (colors) body[v * width + width - 3 + k] = Math.round(255 * colors[3 * v + k]);
        }
    }
    for (let t = 0, at = n * width; t < indices.length; t += 3, at += 13) {
        body[at] = 3;
        for (let k = 0; k < 3; k++) body.writeInt32LE(indices[t + k], at + 1 + 4 * k);
    }
    writeFileSync(path, Buffer.concat([head, body]));
}

function stl(path, parts) {
    const { positions: p, indices } = parts[0];
    const body = Buffer.alloc(84 + (indices.length / 3) * 50);
    body.writeUInt32LE(indices.length / 3, 80);
    for (let t = 0, at = 84; t < indices.length; t += 3, at += 50) {
        for (let k = 0; k < 3; k++) for (let c = 0; c < 3; c++) body.writeFloatLE(p[3 * indices[t + k] + c], at + 12 + 12 * k + 4 * c);
    }
    writeFileSync(path, body);
}

function dae(path, parts) {
    const list = (id, data, width, names) => `<source id="${id}"><float_array id="${id}-a" count="${data.length}">${Array.from(data, g).join(' ')}</float_array><technique_common><accessor source="#${id}-a" count="${data.length / width}" stride="${width}">${names.map((n) => `<param name="${n}" type="float"/>`).join('')}</accessor></technique_common></source>`;
    const geometries = parts.map((part, i) => {
        const { positions, normals, uvs, indices } = split(part);
        const inputs = `<input semantic="VERTEX" source="#g${i}-v" offset="0"/>${normals ? `<input semantic="NORMAL" source="#g${i}-n" offset="0"/>` : ''}${uvs ? `<input semantic="TEXCOORD" source="#g${i}-t" offset="0" set="0"/>` : ''}`;
        return `<geometry id="g${i}" name="${part.name}"><mesh>${list(`g${i}-p`, positions, 3, ['X', 'Y', 'Z'])}${normals ? list(`g${i}-n`, normals, 3, ['X', 'Y', 'Z']) : ''}${uvs ? list(`g${i}-t`, uvs, 2, ['S', 'T']) : ''}<vertices id="g${i}-v"><input semantic="POSITION" source="#g${i}-p"/></vertices><triangles count="${indices.length / 3}">${inputs}<p>${Array.from(indices).join(' ')}</p></triangles></mesh></geometry>`;
    });
    const nodes = parts.map((part, i) => `<node id="n${i}" name="${part.name}"><instance_geometry url="#g${i}"/></node>`);
    writeFileSync(path, `<?xml version="1.0" encoding="utf-8"?>\n<COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1"><asset><unit name="meter" meter="1"/><up_axis>Y_UP</up_axis></asset><library_geometries>${geometries.join('\n')}</library_geometries><library_visual_scenes><visual_scene id="s">${nodes.join('')}</visual_scene></library_visual_scenes><scene><instance_visual_scene url="#s"/></scene></COLLADA>\n`);
}

function usda(path, parts) {
    const triple = (data) => {
        const out = [];
        for (let i = 0; i < data.length; i += 3) out.push(`(${g(data[i])}, ${g(data[i + 1])}, ${g(data[i + 2])})`);
        return out.join(', ');
    };
    const prims = parts.map((part) => {
        const { positions: p, uvs, cornerNormals: normals, indices } = part;
        const uv = [];
        if (uvs) for (let i = 0; i < uvs.length; i += 2) uv.push(`(${g(uvs[i])}, ${g(uvs[i + 1])})`);
        return `def Xform "${part.name}"\n{\n    def Mesh "shape"\n    {\n        int[] faceVertexCounts = [${Array(indices.length / 3).fill(3).join(', ')}]\n        int[] faceVertexIndices = [${Array.from(indices).join(', ')}]\n        point3f[] points = [${triple(p)}]\n${normals ? `        normal3f[] normals = [${triple(normals)}] (\n            interpolation = "faceVarying"\n        )\n` : ''}${uvs ? `        texCoord2f[] primvars:st = [${uv.join(', ')}] (\n            interpolation = "vertex"\n        )\n` : ''}        uniform token subdivisionScheme = "none"\n    }\n}\n`;
    });
    writeFileSync(path, `#usda 1.0\n(\n    metersPerUnit = 0.01\n    upAxis = "Y"\n)\n\n${prims.join('\n')}`);
}
