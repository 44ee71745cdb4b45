import * as THREE from 'three';
import { NO_ISLAND, type UvPart } from '../surface/layout';
import type { Palette } from '../theme';

/** What Surface asks the stand to show. */
export interface StandSurface {
    parts: UvPart[];
    /** Color by island. */
    fills: string[];
    /** Squares of 8 and 64 px of the map in place of the colors. */
    texels: boolean;
    mapSize: number;
    /** Seams and hard edges as lines. */
    edges: boolean;
    chosen: number | null;
    onPick: (island: number | null) => void;
}

/** Pixels of the map that one tile of the checker shows. */
export const TILE = 128;

/** Squares of 8 px, and darker and lighter ones of 64 px over them. */
export function checker(palette: Palette): THREE.Texture {
    const canvas = document.createElement('canvas');
    canvas.width = canvas.height = TILE;
    const pen = canvas.getContext('2d');
    if (pen) {
        for (let y = 0; y < TILE; y += 8) {
            for (let x = 0; x < TILE; x += 8) {
                const isDark = (x + y) % 16 === 0;
                const isDeep = (Math.floor(x / 64) + Math.floor(y / 64)) % 2 === 0;
                pen.fillStyle = isDark ? (isDeep ? palette.low : palette.note) : isDeep ? palette.rule : palette.sheet;
                pen.fillRect(x, y, 8, 8);
            }
        }
    }
    const texture = new THREE.CanvasTexture(canvas);
    texture.wrapS = texture.wrapT = THREE.RepeatWrapping;
    texture.magFilter = THREE.NearestFilter;
    texture.colorSpace = THREE.SRGBColorSpace;
    texture.anisotropy = 8;
    return texture;
}

/** The low poly by its UV islands: colored, checkered, with seams and hard edges; one island can be lit. */
export class SurfaceView {
    readonly group = new THREE.Group();
    private readonly mesh: THREE.Mesh;
    private readonly islands: Uint32Array;
    private readonly positions: Float32Array;
    private readonly seams: THREE.LineSegments;
    private readonly hard: THREE.LineSegments;
    private lit: THREE.Mesh | null = null;
    private texture: THREE.Texture | null = null;

    constructor(
        readonly parts: UvPart[],
        private readonly palette: Palette,
    ) {
        const count = parts.reduce((sum, part) => sum + part.triangles, 0);
        this.positions = new Float32Array(9 * count);
        this.islands = new Uint32Array(count);
        const uvs = new Float32Array(6 * count);
        const seams: number[] = [];
        const hard: number[] = [];
        let at = 0;
        for (const part of parts) {
            this.positions.set(part.positions, 9 * at);
            uvs.set(part.uvs, 6 * at);
            this.islands.set(part.islands, at);
            at += part.triangles;
            for (let t = 0; t < part.triangles; t += 1) {
                const edges = part.edges[t] ?? 0;
                for (let k = 0; k < 3; k += 1) {
                    const isSeam = (edges >> k) & 1;
                    if (isSeam || (edges >> (3 + k)) & 1) {
                        const list = isSeam ? seams : hard;
                        for (const corner of [k, (k + 1) % 3]) {
                            const from = 9 * t + 3 * corner;
                            list.push(part.positions[from] ?? 0, part.positions[from + 1] ?? 0, part.positions[from + 2] ?? 0);
                        }
                    }
                }
            }
        }
        const geometry = new THREE.BufferGeometry();
        geometry.setAttribute('position', new THREE.BufferAttribute(this.positions, 3));
        geometry.setAttribute('uv', new THREE.BufferAttribute(uvs, 2));
        geometry.setAttribute('color', new THREE.BufferAttribute(new Float32Array(9 * count), 3));
        geometry.computeVertexNormals();
        this.mesh = new THREE.Mesh(
            geometry,
            new THREE.MeshStandardMaterial({
                vertexColors: true,
                roughness: 0.8,
                metalness: 0,
                side: THREE.DoubleSide,
                polygonOffset: true,
                polygonOffsetFactor: 1,
                polygonOffsetUnits: 1,
            }),
        );
        const lines = (points: number[], color: string): THREE.LineSegments => {
            const one = new THREE.BufferGeometry();
            one.setAttribute('position', new THREE.Float32BufferAttribute(points, 3));
            // Of very many the lines step back.
            const opacity = Math.min(1, Math.max(0.2, 60_000 / (points.length + 1)));
            return new THREE.LineSegments(one, new THREE.LineBasicMaterial({ color, opacity, transparent: opacity < 1 }));
        };
        this.seams = lines(seams, palette.ink);
        this.hard = lines(hard, palette.high);
        this.group.add(this.mesh, this.seams, this.hard);
    }

    dress({ fills, texels, mapSize, edges, chosen }: StandSurface, planes: THREE.Plane[] | null): void {
        const colors = this.mesh.geometry.getAttribute('color') as THREE.BufferAttribute;
        const parsed = new Map<string, THREE.Color>();
        const color = (hex: string): THREE.Color => {
            let one = parsed.get(hex);
            if (!one) {
                one = new THREE.Color(hex);
                parsed.set(hex, one);
            }
            return one;
        };
        this.islands.forEach((island, t) => {
            const one = texels ? color('#ffffff') : color(island === NO_ISLAND ? this.palette.trouble : (fills[island] ?? this.palette.rule));
            for (let k = 0; k < 3; k += 1) {
                colors.setXYZ(3 * t + k, one.r, one.g, one.b);
            }
        });
        colors.needsUpdate = true;
        const material = this.mesh.material as THREE.MeshStandardMaterial;
        if (texels) {
            this.texture ??= checker(this.palette);
            this.texture.repeat.set(mapSize / TILE, mapSize / TILE);
        }
        material.map = texels ? this.texture : null;
        material.needsUpdate = true;
        this.seams.visible = this.hard.visible = edges;
        this.light(chosen);
        this.clip(planes);
    }

    clip(planes: THREE.Plane[] | null): void {
        for (const one of [this.mesh, this.seams, this.hard, ...(this.lit ? [this.lit] : [])]) {
            (one.material as THREE.Material).clippingPlanes = planes;
        }
    }

    /** Which island lies at a triangle of the mesh. */
    islandAt(triangle: number): number | null {
        const island = this.islands[triangle] ?? NO_ISLAND;
        return island === NO_ISLAND ? null : island;
    }

    get target(): THREE.Mesh {
        return this.mesh;
    }

    /** Bounds of what is lit. */
    litBox(): THREE.Box3 {
        return this.lit ? new THREE.Box3().setFromObject(this.lit) : new THREE.Box3();
    }

    dispose(): void {
        this.group.removeFromParent();
        this.light(null);
        for (const one of [this.mesh, this.seams, this.hard]) {
            one.geometry.dispose();
            (one.material as THREE.Material).dispose();
        }
        this.texture?.dispose();
    }

    private light(island: number | null): void {
        if (this.lit) {
            this.lit.removeFromParent();
            this.lit.geometry.dispose();
            (this.lit.material as THREE.Material).dispose();
            this.lit = null;
        }
        if (island === null) {
            return;
        }
        const points: number[] = [];
        this.islands.forEach((one, t) => {
            if (one === island) {
                points.push(...this.positions.subarray(9 * t, 9 * t + 9));
            }
        });
        const geometry = new THREE.BufferGeometry();
        geometry.setAttribute('position', new THREE.Float32BufferAttribute(points, 3));
        this.lit = new THREE.Mesh(geometry, new THREE.MeshBasicMaterial({ color: this.palette.anvil, transparent: true, opacity: 0.75, side: THREE.DoubleSide }));
        this.lit.renderOrder = 2;
        this.group.add(this.lit);
    }
}
