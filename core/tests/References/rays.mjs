// First hits of rays on a mesh with three-mesh-bvh: input a JSON file of positions, triangles and rays, output t and face.
import { readFileSync } from 'node:fs';
import { BufferAttribute, BufferGeometry, DoubleSide, FrontSide, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';

const { positions, triangles, rays } = JSON.parse(readFileSync(process.argv[2], 'utf8'));
const geometry = new BufferGeometry();
geometry.setAttribute('position', new BufferAttribute(new Float32Array(positions), 3));
geometry.setIndex(new BufferAttribute(new Uint32Array(triangles), 1));
// indirect: else the face numbers are reordered.
const start = performance.now();
const bvh = new MeshBVH(geometry, { indirect: true });
const built = performance.now();
const ray = new Ray();
const hits = rays.map(([ox, oy, oz, dx, dy, dz, far]) => {
    ray.origin.set(ox, oy, oz);
    ray.direction.set(dx, dy, dz);
    const hit = bvh.raycastFirst(ray, process.argv[3] === 'both' ? DoubleSide : FrontSide, 0, far);
    return hit ? [hit.distance, hit.faceIndex] : null;
});
const cast = performance.now();
const point = new Vector3();
const nearest = process.argv[3] === 'both' ? rays.slice(0, 500).map(([x, y, z]) => bvh.closestPointToPoint(point.set(x, y, z)).distance) : [];
console.log(JSON.stringify({ hits, nearest, buildSeconds: (built - start) / 1000, castSeconds: (cast - built) / 1000 }));
