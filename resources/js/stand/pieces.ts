import * as THREE from 'three';
import type { Palette } from '../theme';
import type { ShownPart } from './display';

export type Show = 'low' | 'high' | 'both' | 'cage' | 'ID';

export interface Look {
    show: Show;
    wire: boolean;
    seeThrough: boolean;
    /** Colors by key of part; null: by role. */
    paint: Map<string, string> | null;
    /** Keys of what is chosen; the rest steps back where anything is. */
    chosen: ReadonlySet<string>;
    cut: THREE.Plane | null;
}

/** Parts of more triangles get no lines: they would be all lines. */
const LINED = 60_000;

/** A part in the stand: its mesh, and the lines over it, made when they are first seen. */
export class Piece {
    readonly mesh: THREE.Mesh;
    private wire: THREE.LineSegments | null = null;
    private edges: THREE.LineSegments | null = null;

    constructor(public part: ShownPart) {
        const geometry = new THREE.BufferGeometry();
        geometry.setAttribute('position', new THREE.BufferAttribute(part.positions, 3));
        geometry.setIndex(new THREE.BufferAttribute(part.indices, 1));
        part.colors.forEach(([first], i) => geometry.addGroup(3 * first, 3 * ((part.colors[i + 1]?.[0] ?? part.triangles) - first), i));
        if (part.colors.length === 0) {
            geometry.addGroup(0, 3 * part.triangles, 0);
        }
        if (part.role !== 'low') {
            geometry.computeVertexNormals();
        }
        this.mesh = new THREE.Mesh(geometry);
        this.mesh.userData.part = part.name;
        this.mesh.userData.key = part.key;
    }

    /** Whether it is seen, of the roles that are shown. */
    isIn(show: Show, hasIds: boolean): boolean {
        const { role } = this.part;
        if (show === 'ID') {
            return this.part.piece !== undefined || role === (hasIds ? 'id' : 'high');
        }
        // While nothing says what a part is, it is shown.
        return show === 'cage' ? role !== 'id' && role !== 'pose' : show === 'both' ? role === 'low' || role === 'high' || role === null : role === show;
    }

    dress(look: Look, hasIds: boolean, palette: Palette): void {
        const { part } = this;
        const visible = this.isIn(look.show, hasIds);
        const planes = look.cut ? [look.cut] : null;
        const back = look.chosen.size > 0 && !look.chosen.has(part.key) && part.ghost !== true;
        this.mesh.visible = visible;
        release(this.mesh.material);
        if (look.show === 'ID' && look.paint === null) {
            const runs = part.colors.length > 0 ? part.colors : ([[0, null]] as [number, string | null][]);
            this.mesh.material = runs.map(
                ([, hex]) =>
                    new THREE.MeshBasicMaterial({
                        ...(hex ? { color: hex } : { color: palette.trouble, wireframe: true }),
                        side: THREE.DoubleSide,
                        clippingPlanes: planes,
                        ...(back ? { transparent: true, opacity: 0.18, depthWrite: false } : {}),
                    }),
            );
        } else if (part.piece !== undefined) {
            // IDs that are to be given: flat, as they are written.
            this.mesh.material = new THREE.MeshBasicMaterial({
                color: look.paint?.get(part.key) ?? palette.ruleStrong,
                side: THREE.DoubleSide,
                clippingPlanes: planes,
                ...(back ? { transparent: true, opacity: 0.25, depthWrite: false } : {}),
            });
        } else {
            this.mesh.material = this.material(look, palette, back, planes);
        }
        this.mesh.renderOrder = back ? 1 : 0;
        // Both at once: the high poly solid, the low poly as its edges over it; see-through turns that round.
        const outlined =
            visible && !back && part.triangles < LINED && (part.role === 'cage' || part.ghost === true || (look.show === 'both' && part.role === 'low' && !look.seeThrough));
        // Of a cage all lines but those across flat faces; of the low poly only what is an edge to the eye.
        this.edges = this.lines(
            this.edges,
            outlined,
            () => new THREE.EdgesGeometry(this.mesh.geometry, part.role === 'cage' ? 1 : 20),
            { color: part.ghost === true ? palette.trouble : part.role === 'cage' ? palette.cage : palette.low },
            planes,
        );
        this.wire = this.lines(
            this.wire,
            look.wire && visible && !back && part.role !== 'cage' && part.triangles < LINED,
            () => new THREE.WireframeGeometry(this.mesh.geometry),
            { color: palette.ink, transparent: true, opacity: 0.35 },
            planes,
        );
    }

    place(amount: number, vectors: Map<string, [number, number, number]>): void {
        const [x, y, z] = vectors.get(this.part.set ?? '') ?? [0, 0, 0];
        this.mesh.position.set(amount * x, amount * y, amount * z);
    }

    box(): THREE.Box3 {
        this.mesh.updateWorldMatrix(true, false);
        return new THREE.Box3().setFromObject(this.mesh);
    }

    dispose(): void {
        this.mesh.removeFromParent();
        this.mesh.geometry.dispose();
        release(this.mesh.material);
        for (const lines of [this.wire, this.edges]) {
            lines?.geometry.dispose();
            if (lines) {
                release(lines.material);
            }
        }
    }

    private lines(
        old: THREE.LineSegments | null,
        wanted: boolean,
        geometry: () => THREE.BufferGeometry,
        look: THREE.LineBasicMaterialParameters,
        planes: THREE.Plane[] | null,
    ): THREE.LineSegments | null {
        let lines = old;
        if (wanted && !lines) {
            lines = new THREE.LineSegments(geometry(), new THREE.LineBasicMaterial(look));
            this.mesh.add(lines);
        }
        if (lines) {
            lines.visible = wanted;
            (lines.material as THREE.LineBasicMaterial).clippingPlanes = planes;
        }
        return lines;
    }

    private material(look: Look, palette: Palette, back: boolean, planes: THREE.Plane[] | null): THREE.Material {
        const { part } = this;
        const own = look.paint?.get(part.key);
        if (part.ghost === true) {
            return new THREE.MeshBasicMaterial({ color: palette.trouble, transparent: true, opacity: 0.14, depthWrite: false, side: THREE.DoubleSide, clippingPlanes: planes });
        }
        if (part.role === 'cage') {
            // A thin veil: what of the high poly stands out of the cage is seen without it.
            return new THREE.MeshBasicMaterial({ color: own ?? palette.cage, transparent: true, opacity: back ? 0.05 : 0.3, depthWrite: false, clippingPlanes: planes });
        }
        const clear = (part.role === 'high' && look.seeThrough && (look.show === 'both' || look.show === 'cage')) || back;
        return new THREE.MeshStandardMaterial({
            color: own ?? (part.role === 'low' ? palette.low : part.role === 'high' ? palette.high : palette.ruleStrong),
            flatShading: part.role === 'low',
            roughness: 0.75,
            metalness: 0,
            transparent: clear,
            opacity: back ? 0.16 : clear ? 0.4 : 1,
            depthWrite: !clear,
            side: THREE.DoubleSide,
            clippingPlanes: planes,
            polygonOffset: part.role === 'low',
            polygonOffsetFactor: 1,
            polygonOffsetUnits: 1,
        });
    }
}

export function release(material: THREE.Material | THREE.Material[]): void {
    (Array.isArray(material) ? material : [material]).forEach((one) => one.dispose());
}
