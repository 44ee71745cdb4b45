/* How far the height of a high poly over a low rim swings between the corners and the middle of an edge, by rays of three-mesh-bvh. */
import * as THREE from 'three';

const SIZE = 2048;
const minus = (a, b) => a.map((x, k) => x - b[k]);
const dot = (a, b) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a, b) => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
const unit = (a) => a.map((x) => x / (Math.hypot(...a) || 1));

/**
 * What the height swings by along each edge of a low part that turns by over 60°, in px, measured on either of its faces at four distances from the edge.
 * @param densityOf px for a unit of length on a triangle
 */
export function swingsOf(part, weld, highTree, size, densityOf) {
    const at = (corner) => Array.from(part.positions.subarray(3 * part.indices[corner], 3 * part.indices[corner] + 3));
    const normal = (t) => unit(cross(minus(at(3 * t + 1), at(3 * t)), minus(at(3 * t + 2), at(3 * t))));
    const ray = new THREE.Ray();
    const heightAt = (place, n) => {
        const met = [1, -1].flatMap((side) => {
            ray.origin.set(...place);
            ray.direction.set(side * n[0], side * n[1], side * n[2]);
            const hit = highTree.raycastFirst(ray, THREE.DoubleSide, 0, size);
            return hit === null ? [] : [side * hit.distance];
        });
        return met.sort((a, b) => Math.abs(a) - Math.abs(b))[0] ?? null;
    };
    const halves = new Map();
    for (let i = 0; i < part.indices.length; i++) {
        const j = i - (i % 3) + ((i + 1) % 3);
        const key = [weld[part.indices[i]], weld[part.indices[j]]].sort((a, b) => a - b).join();
        if (!halves.has(key)) halves.set(key, []);
        halves.get(key).push(i);
    }
    const swings = [];
    for (const sides of halves.values()) {
        if (sides.length !== 2) continue;
        const normals = sides.map((i) => normal(Math.floor(i / 3)));
        if (dot(...normals) > 0.5) continue;
        for (const [number, i] of sides.entries()) {
            const t = Math.floor(i / 3);
            const [a, b, c] = [i, 3 * t + (((i % 3) + 1) % 3), 3 * t + (((i % 3) + 2) % 3)].map(at);
            const edge = minus(b, a);
            const into = unit(cross(normals[number], edge));
            const deep = dot(minus(c, a), into);
            for (const beside of [0.05, 0.15, 0.3, 0.5]) {
                const [corner, middle, next] = [0.001, 0.5, 0.999].map((s) => heightAt(a.map((x, k) => x + s * edge[k] + beside * deep * into[k]), normals[number]));
                if (corner !== null && middle !== null && next !== null) swings.push(Math.abs(middle - (corner + next) / 2) * densityOf(t, SIZE));
            }
        }
    }
    return swings;
}
