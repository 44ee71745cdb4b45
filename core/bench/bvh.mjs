// Builds a tree of three-mesh-bvh over a mesh, shoots first hits and asks nearest points; prints seconds and what was met.
// Input: a folder with positions (float32), triangles (uint32), rays (float64: origin, direction, far) and points (float64).
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { BufferAttribute, BufferGeometry, FrontSide, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';

const read = (name, Type) => {
    const bytes = readFileSync(join(process.argv[2], name));
    return new Type(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
};
const geometry = new BufferGeometry();
geometry.setAttribute('position', new BufferAttribute(read('positions', Float32Array), 3));
geometry.setIndex(new BufferAttribute(read('triangles', Uint32Array), 1));
const rays = read('rays', Float64Array);
const points = read('points', Float64Array);
const start = performance.now();
const bvh = new MeshBVH(geometry);
const built = performance.now();
const ray = new Ray();
let met = 0;
let sum = 0;
for (let i = 0; i < rays.length; i += 7) {
    ray.origin.set(rays[i], rays[i + 1], rays[i + 2]);
    ray.direction.set(rays[i + 3], rays[i + 4], rays[i + 5]);
    const hit = bvh.raycastFirst(ray, FrontSide, 0, rays[i + 6]);
    if (hit) {
        met++;
        sum += hit.distance;
    }
}
const cast = performance.now();
const point = new Vector3();
const target = {};
let near = 0;
for (let i = 0; i < points.length; i += 3) {
    near += bvh.closestPointToPoint(point.set(points[i], points[i + 1], points[i + 2]), target).distance;
}
const asked = performance.now();
console.log(JSON.stringify({ build: (built - start) / 1000, cast: (cast - built) / 1000, near: (asked - cast) / 1000, met, sum, nearSum: near }));
