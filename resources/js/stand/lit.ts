import * as THREE from 'three';
import type { Palette } from '../theme';
import { checker, TILE } from './surface';

/** A low part as it is shaded, on one page, corner by corner, as the server sends it. */
export interface LitPart {
    name: string;
    page: string;
    triangles: number;
    positions: Float32Array;
    normals: Float32Array;
    tangents: Float32Array;
    uvs: Float32Array;
}

export function parseLit(buffer: ArrayBuffer): LitPart[] {
    const length = new DataView(buffer).getUint32(0, true);
    const head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, length))) as { parts: { name: string; page: string; triangles: number }[] };
    let at = 4 + length;
    const floats = (count: number): Float32Array => {
        const list = new Float32Array(buffer, at, count);
        at += 4 * count;
        return list;
    };
    return head.parts.map(({ name, page, triangles }) => ({
        name,
        page,
        triangles,
        positions: floats(9 * triangles),
        normals: floats(9 * triangles),
        tangents: floats(12 * triangles),
        uvs: floats(6 * triangles),
    }));
}

/** What the low poly wears: lit with its normal map, one map alone, or squares of texels. */
export type Wear = 'lit' | 'normal' | 'ao' | 'id' | 'height' | 'miss' | 'squares';

/** One side of what the stand shows: a low poly and the addresses of its maps, by page and kind. */
export interface LitSide {
    parts: LitPart[];
    /** `page kind` → address of an image. */
    maps: ReadonlyMap<string, string>;
    label: string;
}

/** What Proof asks the stand to show. */
export interface StandLit {
    own: LitSide;
    /** What is right of the divider; null: nothing is compared. */
    other: LitSide | null;
    wear: Wear;
    glossy: boolean;
    /** Whether green points down in the normal maps. */
    greenDown: boolean;
    mapSize: number;
    /** Where the light stands, degrees around the eye's axis, 0 above. */
    light: number;
    onPick: (page: string, u: number, v: number) => void;
}

/** What is lit is of one light grey, by day and by night: only relief is to be seen. */
const CLAY = '#CFC8BA';

const key = (page: string, kind: string): string => `${page}\n${kind}`;
export const mapKey = key;

/** The low poly wearing its maps, page by page. */
export class LitView {
    readonly group = new THREE.Group();
    private readonly meshes: { page: string; mesh: THREE.Mesh }[] = [];
    private readonly textures = new Map<string, THREE.Texture>();

    constructor(
        readonly parts: LitPart[],
        private readonly palette: Palette,
        private readonly changed: () => void,
    ) {
        for (const page of new Set(parts.map((part) => part.page))) {
            const own = parts.filter((part) => part.page === page);
            const join = (pick: (part: LitPart) => Float32Array): Float32Array => {
                const all = own.map(pick);
                const out = new Float32Array(all.reduce((sum, one) => sum + one.length, 0));
                let at = 0;
                for (const one of all) {
                    out.set(one, at);
                    at += one.length;
                }
                return out;
            };
            const geometry = new THREE.BufferGeometry();
            geometry.setAttribute(
                'position',
                new THREE.BufferAttribute(
                    join((part) => part.positions),
                    3,
                ),
            );
            geometry.setAttribute(
                'normal',
                new THREE.BufferAttribute(
                    join((part) => part.normals),
                    3,
                ),
            );
            geometry.setAttribute(
                'tangent',
                new THREE.BufferAttribute(
                    join((part) => part.tangents),
                    4,
                ),
            );
            geometry.setAttribute(
                'uv',
                new THREE.BufferAttribute(
                    join((part) => part.uvs),
                    2,
                ),
            );
            const mesh = new THREE.Mesh(geometry, new THREE.MeshStandardMaterial());
            mesh.userData.page = page;
            this.meshes.push({ page, mesh });
            this.group.add(mesh);
        }
    }

    dress({ wear, glossy, greenDown, mapSize }: StandLit, maps: ReadonlyMap<string, string>, planes: THREE.Plane[] | null): void {
        for (const { page, mesh } of this.meshes) {
            (mesh.material as THREE.Material).dispose();
            const side = THREE.DoubleSide;
            const map = (kind: string, color: boolean): THREE.Texture | null => this.texture(maps.get(key(page, kind)), color);
            if (wear === 'lit') {
                const normalMap = map('normal', false);
                mesh.material = new THREE.MeshStandardMaterial({
                    color: CLAY,
                    roughness: glossy ? 0.22 : 0.75,
                    metalness: glossy ? 0.35 : 0,
                    side,
                    ...(normalMap ? { normalMap, normalScale: new THREE.Vector2(1, greenDown ? -1 : 1) } : {}),
                });
            } else {
                const texture = wear === 'squares' ? this.squares(mapSize) : map(wear, wear === 'id');
                mesh.material = new THREE.MeshBasicMaterial({ side, color: texture ? 0xffffff : this.palette.rule, ...(texture ? { map: texture } : {}) });
            }
            mesh.material.clippingPlanes = planes;
        }
    }

    clip(planes: THREE.Plane[] | null): void {
        this.meshes.forEach(({ mesh }) => ((mesh.material as THREE.Material).clippingPlanes = planes));
    }

    dispose(): void {
        this.group.removeFromParent();
        for (const { mesh } of this.meshes) {
            mesh.geometry.dispose();
            (mesh.material as THREE.Material).dispose();
        }
        this.textures.forEach((texture) => texture.dispose());
    }

    private texture(url: string | undefined, color: boolean): THREE.Texture | null {
        if (url === undefined) {
            return null;
        }
        let one = this.textures.get(url);
        if (!one) {
            one = new THREE.TextureLoader().load(url, this.changed);
            one.colorSpace = color ? THREE.SRGBColorSpace : THREE.NoColorSpace;
            one.generateMipmaps = false;
            one.minFilter = THREE.LinearFilter;
            one.magFilter = color ? THREE.NearestFilter : THREE.LinearFilter;
            this.textures.set(url, one);
        }
        return one;
    }

    private squares(mapSize: number): THREE.Texture {
        let one = this.textures.get('squares');
        if (!one) {
            one = checker(this.palette);
            one.repeat.set(mapSize / TILE, mapSize / TILE);
            this.textures.set('squares', one);
        }
        return one;
    }
}
