// The normals that three.js lights a low poly with: its tangent frame per vertex (bitangent = cross(normal, tangent)·w, all three made unit after interpolation), turned by the
// texel of a normal map. Of each texel the angle to the normal that is expected there, in degrees.
import { readFileSync } from 'node:fs';
import { Matrix3, Triangle, Vector3 } from 'three';

const { triangles, texels } = JSON.parse(readFileSync(process.argv[2], 'utf8'));
const corners = triangles.map(({ normals, tangents, uvs }) => {
    const n = [0, 1, 2].map((k) => new Vector3(...normals.slice(3 * k, 3 * k + 3)));
    const t = [0, 1, 2].map((k) => new Vector3(...tangents.slice(4 * k, 4 * k + 3)));
    const b = n.map((one, k) => one.clone().cross(t[k]).multiplyScalar(tangents[4 * k + 3]));
    const uv = [0, 1, 2].map((k) => new Vector3(uvs[2 * k], uvs[2 * k + 1], 0));
    return { n, t, b, uv };
});
const out = new Vector3();
const angles = texels.map(({ triangle, u, v, map, expected }) => {
    const { n, t, b, uv } = corners[triangle];
    const at = (values) => Triangle.getInterpolation(new Vector3(u, v, 0), ...uv, ...values, out).clone();
    const frame = new Matrix3();
    const [vT, vB, vN] = [at(t).normalize(), at(b).normalize(), at(n).normalize()];
    frame.set(vT.x, vB.x, vN.x, vT.y, vB.y, vN.y, vT.z, vB.z, vN.z);
    const lit = new Vector3(...map).applyMatrix3(frame).normalize();
    return (lit.angleTo(new Vector3(...expected)) * 180) / Math.PI;
});
angles.sort((a, b) => a - b);
console.log(JSON.stringify({ texels: angles.length, median: angles[Math.floor(angles.length / 2)], p95: angles[Math.floor(0.95 * angles.length)] }));
