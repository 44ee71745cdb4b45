import * as THREE from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import type { Palette } from '../theme';
import type { DisplayPart } from './display';

export type Show = 'low' | 'high' | 'both' | 'cage' | 'ID';
export type View = 'free' | 'front' | 'side' | 'top';

interface Piece {
    part: DisplayPart;
    role: 'low' | 'high' | 'id' | 'cage';
    mesh: THREE.Mesh;
    wire: THREE.LineSegments | null;
    edges: THREE.LineSegments | null;
}

/** The model on the sheet: parallel projection, so that its scale bar is true everywhere. Drawn when something changed, never in a loop. */
export class StandScene {
    private readonly renderer: THREE.WebGLRenderer;
    private readonly camera = new THREE.OrthographicCamera(-1, 1, 1, -1, -1000, 1000);
    private readonly scene = new THREE.Scene();
    private readonly model = new THREE.Group();
    private readonly marks = new THREE.Group();
    private readonly controls: OrbitControls;
    private readonly headlight = new THREE.DirectionalLight(0xffffff, 2.1);
    private pieces: Piece[] = [];
    private vectors = new Map<string, [number, number, number]>();
    private amount = 0;
    private pending = 0;
    private disposed = false;
    private size = 1;
    private flight = 0;

    constructor(
        private readonly host: HTMLElement,
        private palette: Palette,
        private readonly onScale: (unitsPerPixel: number) => void,
        private readonly onPick: (part: string | null) => void,
    ) {
        this.renderer = new THREE.WebGLRenderer({ antialias: window.devicePixelRatio < 2 && !navigator.webdriver, alpha: true });
        this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
        host.prepend(this.renderer.domElement);
        this.renderer.domElement.setAttribute('aria-hidden', 'true');
        this.scene.add(new THREE.HemisphereLight(0xffffff, 0x8b8478, 1.5), this.headlight, this.headlight.target, this.model, this.marks);
        this.controls = new OrbitControls(this.camera, this.renderer.domElement);
        this.controls.addEventListener('change', () => this.draw());
        let down: [number, number] = [0, 0];
        this.renderer.domElement.addEventListener('pointerdown', (event) => (down = [event.clientX, event.clientY]));
        this.renderer.domElement.addEventListener('pointerup', (event) => {
            if (Math.hypot(event.clientX - down[0], event.clientY - down[1]) < 4) {
                this.pick(event);
            }
        });
        this.resize();
    }

    setPalette(palette: Palette): void {
        this.palette = palette;
    }

    load(parts: { low: DisplayPart[]; high: DisplayPart[]; id: DisplayPart[] }): void {
        this.clear();
        for (const role of ['low', 'high', 'id'] as const) {
            this.add(role, parts[role]);
        }
        const box = new THREE.Box3().setFromObject(this.model);
        this.size = box.isEmpty() ? 1 : box.getSize(new THREE.Vector3()).length();
        this.place();
        this.look('free');
    }

    /** Another cage in the place of the one before; the eye stays where it is. */
    loadCage(parts: DisplayPart[]): void {
        for (const piece of this.pieces.filter((one) => one.role === 'cage')) {
            this.drop(piece);
            this.model.remove(piece.mesh);
        }
        this.pieces = this.pieces.filter((one) => one.role !== 'cage');
        this.add('cage', parts);
        this.place();
    }

    setVectors(vectors: Map<string, [number, number, number]>): void {
        this.vectors = vectors;
        this.place();
    }

    explode(amount: number): void {
        this.amount = amount;
        this.place();
    }

    show(show: Show, wire: boolean, seeThrough: boolean): void {
        const hasIds = this.pieces.some((piece) => piece.role === 'id');
        for (const piece of this.pieces) {
            const visible =
                show === 'ID'
                    ? piece.role === (hasIds ? 'id' : 'high')
                    : show === 'cage'
                      ? piece.role !== 'id'
                      : show === 'both'
                        ? piece.role === 'low' || piece.role === 'high'
                        : piece.role === show;
            piece.mesh.visible = visible;
            this.release(piece.mesh.material);
            if (show === 'ID') {
                const runs = piece.part.colors.length > 0 ? piece.part.colors : ([[0, null]] as [number, string | null][]);
                piece.mesh.material = runs.map(([, hex]) => new THREE.MeshBasicMaterial(hex ? { color: hex } : { color: this.palette.trouble, wireframe: true }));
            } else {
                const clear = piece.role === 'high' && seeThrough;
                piece.mesh.material = this.material(piece, clear);
            }
            // Both at once: the high poly solid, the low poly as its edges over it; see-through turns that round.
            const outlined = piece.part.triangles < 60_000 && (piece.role === 'cage' ? visible : show === 'both' && piece.role === 'low' && !seeThrough);
            if (outlined && !piece.edges) {
                // Of a cage all lines but those across flat faces; of the low poly only what is an edge to the eye.
                const [angle, color] = piece.role === 'cage' ? [1, this.palette.cage] : [20, this.palette.low];
                piece.edges = new THREE.LineSegments(new THREE.EdgesGeometry(piece.mesh.geometry, angle), new THREE.LineBasicMaterial({ color }));
                piece.mesh.add(piece.edges);
            }
            if (piece.edges) {
                piece.edges.visible = outlined;
            }
            const wants = wire && visible && piece.role !== 'cage' && piece.part.triangles < 60_000;
            if (wants && !piece.wire) {
                piece.wire = new THREE.LineSegments(
                    new THREE.WireframeGeometry(piece.mesh.geometry),
                    new THREE.LineBasicMaterial({ color: this.palette.ink, transparent: true, opacity: 0.35 }),
                );
                piece.mesh.add(piece.wire);
            }
            if (piece.wire) {
                piece.wire.visible = wants;
            }
        }
        this.draw();
    }

    /** Frames the chosen parts and marks places where rays go astray. */
    mark(chosen: Set<string>, { points, segments }: { points: number[]; segments: number[] }): void {
        this.clearMarks();
        const box = new THREE.Box3();
        for (const piece of this.pieces) {
            if (piece.mesh.visible && chosen.has(piece.part.name)) {
                piece.mesh.updateWorldMatrix(true, false);
                box.union(new THREE.Box3().setFromObject(piece.mesh));
            }
        }
        if (!box.isEmpty()) {
            box.expandByScalar(0.004 * this.size);
            this.marks.add(new THREE.Box3Helper(box, new THREE.Color(this.palette.ink)));
        }
        if (points.length > 0) {
            const geometry = new THREE.BufferGeometry();
            geometry.setAttribute('position', new THREE.Float32BufferAttribute(points, 3));
            this.marks.add(new THREE.Points(geometry, new THREE.PointsMaterial({ color: this.palette.trouble, size: 6, sizeAttenuation: false, depthTest: false })));
        }
        if (segments.length > 0) {
            const geometry = new THREE.BufferGeometry();
            geometry.setAttribute('position', new THREE.Float32BufferAttribute(segments, 3));
            this.marks.add(new THREE.LineSegments(geometry, new THREE.LineBasicMaterial({ color: this.palette.trouble, transparent: true, opacity: 0.7, depthTest: false })));
        }
        this.draw();
    }

    look(view: View): void {
        const box = new THREE.Box3();
        for (const piece of this.pieces) {
            box.union(new THREE.Box3().setFromObject(piece.mesh));
        }
        if (box.isEmpty()) {
            this.draw();
            return;
        }
        const centre = box.getCenter(new THREE.Vector3());
        const way = { free: [0.62, 0.42, 1], front: [0, 0, 1], side: [1, 0, 0], top: [0, 1, 0.0001] }[view] as [number, number, number];
        this.aim(centre, box.getSize(new THREE.Vector3()).length() * 1.2, new THREE.Vector3(...way).normalize());
    }

    /** Moves the eye to the evidence of a finding. */
    flyTo(points: number[], chosen: Set<string>): void {
        const box = new THREE.Box3();
        for (let i = 0; i + 2 < points.length; i += 3) {
            box.expandByPoint(new THREE.Vector3(points[i], points[i + 1], points[i + 2]));
        }
        const parts = new THREE.Box3();
        for (const piece of this.pieces) {
            if (chosen.has(piece.part.name)) {
                parts.union(new THREE.Box3().setFromObject(piece.mesh));
            }
        }
        const target = box.isEmpty() ? parts : box;
        if (target.isEmpty()) {
            return;
        }
        const own = parts.isEmpty() ? this.size * 0.3 : parts.getSize(new THREE.Vector3()).length();
        const to = target.getCenter(new THREE.Vector3());
        const span = Math.max(target.getSize(new THREE.Vector3()).length() * 1.3, own * 0.9, 0.02 * this.size);
        const from = this.controls.target.clone();
        const fromSpan = this.span();
        const direction = this.camera.position.clone().sub(from).normalize();
        if (window.matchMedia('(prefers-reduced-motion: reduce)').matches || navigator.webdriver) {
            this.aim(to, span, direction);
            return;
        }
        const begun = performance.now();
        cancelAnimationFrame(this.flight);
        const step = (): void => {
            const t = Math.min(1, (performance.now() - begun) / 350);
            const e = t * t * (3 - 2 * t);
            this.aim(from.clone().lerp(to, e), fromSpan * (span / fromSpan) ** e, direction);
            if (t < 1) {
                this.flight = requestAnimationFrame(step);
            }
        };
        step();
    }

    resize(): void {
        const { clientWidth: width, clientHeight: height } = this.host;
        if (width === 0 || height === 0) {
            return;
        }
        const span = this.span();
        this.renderer.setSize(width, height);
        this.frame(span);
        this.draw();
    }

    dispose(): void {
        this.disposed = true;
        cancelAnimationFrame(this.pending);
        cancelAnimationFrame(this.flight);
        this.clear();
        this.controls.dispose();
        this.renderer.dispose();
        this.renderer.domElement.remove();
    }

    private add(role: Piece['role'], parts: DisplayPart[]): void {
        for (const part of parts) {
            const geometry = new THREE.BufferGeometry();
            geometry.setAttribute('position', new THREE.BufferAttribute(part.positions, 3));
            geometry.setIndex(new THREE.BufferAttribute(part.indices, 1));
            part.colors.forEach(([first], i) => geometry.addGroup(3 * first, 3 * ((part.colors[i + 1]?.[0] ?? part.triangles) - first), i));
            if (part.colors.length === 0) {
                geometry.addGroup(0, 3 * part.triangles, 0);
            }
            if (role !== 'low') {
                geometry.computeVertexNormals();
            }
            const mesh = new THREE.Mesh(geometry);
            mesh.userData.part = part.name;
            mesh.visible = role !== 'cage';
            this.model.add(mesh);
            this.pieces.push({ part, role, mesh, wire: null, edges: null });
        }
    }

    private clearMarks(): void {
        for (const mark of this.marks.children) {
            if (mark instanceof THREE.LineSegments || mark instanceof THREE.Points) {
                (mark.geometry as THREE.BufferGeometry).dispose();
                this.release(mark.material as THREE.Material);
            }
        }
        this.marks.clear();
    }

    private drop(piece: Piece): void {
        piece.mesh.geometry.dispose();
        this.release(piece.mesh.material);
        piece.wire?.geometry.dispose();
        piece.edges?.geometry.dispose();
    }

    private material(piece: Piece, clear: boolean): THREE.Material {
        if (piece.role === 'cage') {
            // A thin veil: what of the high poly stands out of the cage is seen without it.
            return new THREE.MeshBasicMaterial({ color: this.palette.cage, transparent: true, opacity: 0.3, depthWrite: false });
        }
        return new THREE.MeshStandardMaterial({
            color: piece.role === 'low' ? this.palette.low : this.palette.high,
            flatShading: piece.role === 'low',
            roughness: 0.75,
            metalness: 0,
            transparent: clear,
            opacity: clear ? 0.4 : 1,
            depthWrite: !clear,
            side: THREE.DoubleSide,
            polygonOffset: piece.role === 'low',
            polygonOffsetFactor: 1,
            polygonOffsetUnits: 1,
        });
    }

    private place(): void {
        for (const piece of this.pieces) {
            const vector = this.vectors.get(piece.part.set ?? '') ?? [0, 0, 0];
            piece.mesh.position.set(this.amount * vector[0], this.amount * vector[1], this.amount * vector[2]);
        }
        this.draw();
    }

    private aim(target: THREE.Vector3, span: number, direction: THREE.Vector3): void {
        this.controls.target.copy(target);
        this.camera.position.copy(target).addScaledVector(direction, this.size * 2);
        this.camera.near = -this.size * 4;
        this.camera.far = this.size * 8;
        this.camera.zoom = 1;
        this.frame(span);
        this.controls.update();
        this.draw();
    }

    /** What the shorter side of the view spans, in file units. */
    private span(): number {
        return Math.min(this.camera.top - this.camera.bottom, this.camera.right - this.camera.left) / this.camera.zoom;
    }

    private frame(span: number): void {
        const { clientWidth: width, clientHeight: height } = this.host;
        const unit = (span * this.camera.zoom) / Math.min(width, height) || 1;
        this.camera.left = (-unit * width) / 2;
        this.camera.right = (unit * width) / 2;
        this.camera.top = (unit * height) / 2;
        this.camera.bottom = (-unit * height) / 2;
        this.camera.updateProjectionMatrix();
    }

    private pick(event: PointerEvent): void {
        const rect = this.renderer.domElement.getBoundingClientRect();
        const at = new THREE.Vector2(((event.clientX - rect.left) / rect.width) * 2 - 1, 1 - ((event.clientY - rect.top) / rect.height) * 2);
        const ray = new THREE.Raycaster();
        ray.setFromCamera(at, this.camera);
        const hit = ray.intersectObjects(
            this.pieces.filter((piece) => piece.mesh.visible).map((piece) => piece.mesh),
            false,
        )[0];
        this.onPick(hit ? String(hit.object.userData.part) : null);
    }

    private draw(): void {
        if (this.disposed) {
            return;
        }
        cancelAnimationFrame(this.pending);
        this.pending = requestAnimationFrame(() => {
            this.headlight.position.copy(this.camera.position).add(new THREE.Vector3(0.3, 0.6, 0.2).multiplyScalar(this.size));
            this.headlight.target.position.copy(this.controls.target);
            this.renderer.render(this.scene, this.camera);
            this.onScale((this.camera.right - this.camera.left) / this.camera.zoom / Math.max(1, this.host.clientWidth));
            this.host.dataset.drawn = 'yes';
        });
    }

    private release(material: THREE.Material | THREE.Material[]): void {
        (Array.isArray(material) ? material : [material]).forEach((one) => one.dispose());
    }

    private clear(): void {
        this.pieces.forEach((piece) => this.drop(piece));
        this.pieces = [];
        this.model.clear();
        this.clearMarks();
    }
}
