import * as THREE from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import type { Palette } from '../theme';
import type { ShownPart } from './display';
import { Piece, release, type Look } from './pieces';
import { LitView, type StandLit } from './lit';
import { SurfaceView, type StandSurface } from './surface';

export type { Show } from './pieces';
export type View = 'free' | 'front' | 'side' | 'top';
export type Point = [number, number, number];

interface Told {
    onScale: (unitsPerPixel: number) => void;
    /** What was picked: the name of a part, keys of all that lie there or in the band; `adds`: to what is chosen. */
    onPick: (part: string | null, keys: string[], adds: boolean) => void;
    /** A point on the surface, while points are picked. */
    onPoint: (at: Point) => void;
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
    private readonly pieces = new Map<string, Piece>();
    private readonly cut = new THREE.Plane();
    private look: Look = { show: 'both', wire: false, seeThrough: false, paint: null, chosen: new Set(), cut: null };
    private vectors = new Map<string, Point>();
    private amount = 0;
    private pending = 0;
    private disposed = false;
    private size = 1;
    private flight = 0;
    private surface: SurfaceView | null = null;
    private surfaceLook: StandSurface | null = null;
    /** The low poly with its maps: left of the divider, and right of it. */
    private readonly lit: [LitView | null, LitView | null] = [null, null];
    private litLook: StandLit | null = null;
    private divider = 0.5;
    /** Whether somebody turned it: then the eye stays where it is when more is loaded. */
    private touched = false;
    private picksPoints = false;

    constructor(
        private readonly host: HTMLElement,
        private readonly palette: Palette,
        private readonly told: Told,
    ) {
        this.renderer = new THREE.WebGLRenderer({ antialias: true, alpha: true });
        this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
        this.renderer.localClippingEnabled = true;
        host.prepend(this.renderer.domElement);
        this.renderer.domElement.setAttribute('aria-hidden', 'true');
        this.scene.add(new THREE.HemisphereLight(0xffffff, 0x8b8478, 1.5), this.headlight, this.headlight.target, this.model, this.marks);
        this.controls = new OrbitControls(this.camera, this.renderer.domElement);
        this.controls.addEventListener('change', () => this.draw());
        this.controls.addEventListener('start', () => (this.touched = true));
        this.listen();
        this.resize();
    }

    /** Shows these parts: those that are there already stay, with what is known of them now. */
    load(parts: ShownPart[]): void {
        const wanted = new Set(parts.map((part) => part.key));
        let changed = false;
        for (const [key, piece] of this.pieces) {
            if (!wanted.has(key)) {
                piece.dispose();
                this.pieces.delete(key);
                changed ||= piece.part.role !== 'cage';
            }
        }
        for (const part of parts) {
            const there = this.pieces.get(part.key);
            if (there && (there.part.role === 'low') === (part.role === 'low')) {
                there.part = part;
                continue;
            }
            there?.dispose();
            const piece = new Piece(part);
            this.pieces.set(part.key, piece);
            this.model.add(piece.mesh);
            changed ||= part.role !== 'cage';
        }
        const box = new THREE.Box3().setFromObject(this.model);
        this.size = box.isEmpty() ? 1 : box.getSize(new THREE.Vector3()).length();
        this.place();
        this.dress(this.look);
        if (changed && !this.touched) {
            this.lookFrom('free');
        }
    }

    setVectors(vectors: Map<string, Point>): void {
        this.vectors = vectors;
        this.place();
    }

    explode(amount: number): void {
        this.amount = amount;
        this.place();
    }

    /** How it is drawn; the cut is set by `setCut`. */
    dress(look: Omit<Look, 'cut'>): void {
        this.look = { ...look, cut: this.look.cut };
        const hasIds = [...this.pieces.values()].some((piece) => piece.part.role === 'id');
        for (const piece of this.pieces.values()) {
            piece.dress(this.look, hasIds, this.palette);
        }
        if (this.surface) {
            this.surface.group.visible = this.look.show === 'low';
            for (const piece of this.surface.group.visible ? this.pieces.values() : []) {
                piece.mesh.visible = false;
            }
        }
        const wears = this.litLook !== null && this.look.show === 'low';
        for (const view of this.lit) {
            if (view) {
                view.group.visible = wears;
            }
        }
        for (const piece of wears ? this.pieces.values() : []) {
            piece.mesh.visible = false;
        }
        this.draw();
    }

    /** Shows the low poly with its maps in the place of the low parts; null: as it is. */
    setLit(look: StandLit | null): void {
        this.litLook = look;
        const planes = this.look.cut ? [this.look.cut] : null;
        [look?.own ?? null, look?.other ?? null].forEach((side, i) => {
            const view = this.lit[i as 0 | 1];
            if (view && view.parts !== side?.parts) {
                view.dispose();
                this.lit[i as 0 | 1] = null;
            }
            if (look && side) {
                const made = this.lit[i as 0 | 1] ?? new LitView(side.parts, this.palette, () => this.draw());
                if (!this.lit[i as 0 | 1]) {
                    this.scene.add(made.group);
                }
                this.lit[i as 0 | 1] = made;
                made.dress(look, side.maps, planes);
            }
        });
        this.dress(this.look);
    }

    /** Where the divider stands, as a share of the width. */
    setDivider(share: number): void {
        this.divider = share;
        this.draw();
    }

    /** Shows the low poly by its UV islands in the place of the low parts; null: as it is. */
    setSurface(look: StandSurface | null): void {
        this.surfaceLook = look;
        if (this.surface !== null && this.surface.parts !== look?.parts) {
            this.surface.dispose();
            this.surface = null;
        }
        if (look) {
            if (!this.surface) {
                this.surface = new SurfaceView(look.parts, this.palette);
                this.scene.add(this.surface.group);
            }
            this.surface.dress(look, this.look.cut ? [this.look.cut] : null);
        }
        this.dress(this.look);
    }

    /** Takes off what is nearer than a share of the way through the model, seen from where the eye was when the cut was begun; null: nothing. */
    setCut(share: number | null): void {
        if (share === null) {
            this.look = { ...this.look, cut: null };
        } else {
            if (this.look.cut === null) {
                this.cut.normal.copy(this.camera.position).sub(this.controls.target).normalize().negate();
                this.look = { ...this.look, cut: this.cut };
            }
            const centre = new THREE.Box3().setFromObject(this.model).getCenter(new THREE.Vector3());
            // From the near end of what surrounds the model to its far end.
            this.cut.constant = -this.cut.normal.dot(centre) - (share - 0.5) * this.size;
        }
        this.surface?.clip(this.look.cut ? [this.look.cut] : null);
        this.lit.forEach((view) => view?.clip(this.look.cut ? [this.look.cut] : null));
        this.dress(this.look);
    }

    /** Frames the chosen parts, marks places where rays go astray, and draws the line that is measured. */
    mark({ points, segments }: { points: number[]; segments: number[] }, measured: Point[]): void {
        this.clearMarks();
        const box = this.boxOf((piece) => piece.mesh.visible && this.look.chosen.has(piece.part.key));
        if (this.surface?.group.visible) {
            box.union(this.surface.litBox());
        }
        if (!box.isEmpty()) {
            box.expandByScalar(0.004 * this.size);
            this.marks.add(new THREE.Box3Helper(box, new THREE.Color(this.palette.ink)));
        }
        this.dots(points, this.palette.trouble, 6);
        this.strokes(segments, this.palette.trouble, 0.7);
        this.dots(measured.flat(), this.palette.ink, 8);
        this.strokes(measured.length === 2 ? measured.flat() : [], this.palette.ink, 1);
        this.draw();
    }

    setPicksPoints(picks: boolean): void {
        this.picksPoints = picks;
    }

    lookFrom(view: View): void {
        const box = this.boxOf((piece) => piece.part.role !== 'cage');
        if (box.isEmpty()) {
            this.draw();
            return;
        }
        const way = { free: [0.62, 0.42, 1], front: [0, 0, 1], side: [1, 0, 0], top: [0, 1, 0.0001] }[view] as Point;
        this.aim(box.getCenter(new THREE.Vector3()), box.getSize(new THREE.Vector3()).length() * 1.2, new THREE.Vector3(...way).normalize());
    }

    /** Moves the eye to the evidence of a finding; `atOnce` without the flight, with `room` around it. */
    flyTo(points: number[], atOnce = false, room = 1): void {
        const box = new THREE.Box3();
        for (let i = 0; i + 2 < points.length; i += 3) {
            box.expandByPoint(new THREE.Vector3(points[i], points[i + 1], points[i + 2]));
        }
        const lit = this.surface?.group.visible ? this.surface.litBox() : new THREE.Box3();
        const parts = lit.isEmpty() ? this.boxOf((piece) => this.look.chosen.has(piece.part.key)) : lit;
        const target = box.isEmpty() ? parts : box;
        if (target.isEmpty()) {
            return;
        }
        this.touched = true;
        const own = parts.isEmpty() ? this.size * 0.3 : parts.getSize(new THREE.Vector3()).length();
        const to = target.getCenter(new THREE.Vector3());
        const span = Math.min(1.2 * this.size, room * Math.max(target.getSize(new THREE.Vector3()).length() * 1.3, own * 0.9, 0.02 * this.size));
        const from = this.controls.target.clone();
        const fromSpan = this.span();
        const direction = this.camera.position.clone().sub(from).normalize();
        if (atOnce || window.matchMedia('(prefers-reduced-motion: reduce)').matches || navigator.webdriver) {
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

    /** A picture of the evidence of a finding, as a PNG in an address. */
    picture(points: number[]): string {
        this.lookFrom('free');
        // With what is around it, so that one sees where on the model it is.
        this.flyTo(points, true, 2);
        cancelAnimationFrame(this.pending);
        this.paint();
        // What was drawn is there until the browser shows it.
        return this.renderer.domElement.toDataURL('image/png');
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
        this.surface?.dispose();
        this.lit.forEach((view) => view?.dispose());
        this.pieces.forEach((piece) => piece.dispose());
        this.pieces.clear();
        this.clearMarks();
        this.controls.dispose();
        this.renderer.dispose();
        this.renderer.domElement.remove();
    }

    private boxOf(holds: (piece: Piece) => boolean): THREE.Box3 {
        const box = new THREE.Box3();
        for (const piece of this.pieces.values()) {
            if (holds(piece)) {
                box.union(piece.box());
            }
        }
        return box;
    }

    private dots(points: number[], color: string, size: number): void {
        if (points.length > 0) {
            const geometry = new THREE.BufferGeometry();
            geometry.setAttribute('position', new THREE.Float32BufferAttribute(points, 3));
            this.marks.add(new THREE.Points(geometry, new THREE.PointsMaterial({ color, size, sizeAttenuation: false, depthTest: false })));
        }
    }

    private strokes(segments: number[], color: string, opacity: number): void {
        if (segments.length > 0) {
            const geometry = new THREE.BufferGeometry();
            geometry.setAttribute('position', new THREE.Float32BufferAttribute(segments, 3));
            this.marks.add(new THREE.LineSegments(geometry, new THREE.LineBasicMaterial({ color, transparent: opacity < 1, opacity, depthTest: false })));
        }
    }

    private clearMarks(): void {
        for (const mark of this.marks.children) {
            if (mark instanceof THREE.LineSegments || mark instanceof THREE.Points) {
                (mark.geometry as THREE.BufferGeometry).dispose();
                release(mark.material as THREE.Material);
            }
        }
        this.marks.clear();
    }

    private place(): void {
        for (const piece of this.pieces.values()) {
            piece.place(this.amount, this.vectors);
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

    /** A click picks; with Shift held a band is drawn, and all pieces whose middle lies in it are picked. */
    private listen(): void {
        const canvas = this.renderer.domElement;
        let down: [number, number] = [0, 0];
        let band: HTMLDivElement | null = null;
        canvas.addEventListener('pointerdown', (event) => {
            down = [event.clientX, event.clientY];
            this.controls.enabled = !event.shiftKey;
            if (event.shiftKey) {
                band = document.createElement('div');
                band.className = 'stand-band';
                this.host.append(band);
                canvas.setPointerCapture(event.pointerId);
            }
        });
        canvas.addEventListener('pointermove', (event) => {
            const rect = this.host.getBoundingClientRect();
            band?.style.setProperty('left', `${Math.min(down[0], event.clientX) - rect.left}px`);
            band?.style.setProperty('top', `${Math.min(down[1], event.clientY) - rect.top}px`);
            band?.style.setProperty('width', `${Math.abs(event.clientX - down[0])}px`);
            band?.style.setProperty('height', `${Math.abs(event.clientY - down[1])}px`);
        });
        canvas.addEventListener('pointerup', (event) => {
            const drawn = band !== null;
            band?.remove();
            band = null;
            this.controls.enabled = true;
            if (Math.hypot(event.clientX - down[0], event.clientY - down[1]) < 4) {
                this.pick(event);
            } else if (drawn) {
                this.pickBand(down, [event.clientX, event.clientY]);
            }
        });
    }

    private pickBand(from: [number, number], to: [number, number]): void {
        const rect = this.renderer.domElement.getBoundingClientRect();
        const keys: string[] = [];
        for (const piece of this.pieces.values()) {
            const at = piece.box().getCenter(new THREE.Vector3()).project(this.camera);
            const [x, y] = [rect.left + ((at.x + 1) / 2) * rect.width, rect.top + ((1 - at.y) / 2) * rect.height];
            if (piece.mesh.visible && x >= Math.min(from[0], to[0]) && x <= Math.max(from[0], to[0]) && y >= Math.min(from[1], to[1]) && y <= Math.max(from[1], to[1])) {
                keys.push(piece.part.key);
            }
        }
        const first = keys[0] === undefined ? undefined : this.pieces.get(keys[0]);
        this.told.onPick(first?.part.name ?? null, keys, true);
    }

    private pick(event: PointerEvent): void {
        const rect = this.renderer.domElement.getBoundingClientRect();
        const at = new THREE.Vector2(((event.clientX - rect.left) / rect.width) * 2 - 1, 1 - ((event.clientY - rect.top) / rect.height) * 2);
        const ray = new THREE.Raycaster();
        ray.setFromCamera(at, this.camera);
        const right = this.litLook?.other != null && event.clientX - rect.left > this.divider * rect.width;
        const worn = this.lit[right ? 1 : 0] ?? this.lit[0];
        if (worn?.group.visible && !this.picksPoints) {
            const hit = ray.intersectObject(worn.group, true).find((one) => this.look.cut === null || this.look.cut.distanceToPoint(one.point) >= 0);
            if (hit?.uv) {
                this.litLook?.onPick(String(hit.object.userData.page), hit.uv.x, hit.uv.y);
            }
            return;
        }
        const surface = this.surface?.group.visible ? this.surface : null;
        if (surface && !this.picksPoints) {
            const hit = ray.intersectObject(surface.target, false).find((one) => this.look.cut === null || this.look.cut.distanceToPoint(one.point) >= 0);
            this.surfaceLook?.onPick(hit?.faceIndex == null ? null : surface.islandAt(hit.faceIndex));
            return;
        }
        const seen = [...this.pieces.values()].filter((piece) => piece.mesh.visible && piece.part.ghost !== true && (!this.picksPoints || piece.part.role !== 'cage'));
        const hit = ray
            .intersectObjects(
                seen.map((piece) => piece.mesh),
                false,
            )
            .find((one) => this.look.cut === null || this.look.cut.distanceToPoint(one.point) >= 0);
        if (this.picksPoints) {
            if (hit) {
                this.told.onPoint([hit.point.x, hit.point.y, hit.point.z]);
            }
        } else {
            const key = hit ? String(hit.object.userData.key) : null;
            this.told.onPick(hit ? String(hit.object.userData.part) : null, key === null ? [] : [key], event.shiftKey || event.ctrlKey || event.metaKey);
        }
    }

    /** Once, or with a divider left and right of it. */
    private render(): void {
        const [own, other] = this.lit;
        if (!own?.group.visible || !other) {
            this.renderer.setScissorTest(false);
            this.renderer.render(this.scene, this.camera);
            return;
        }
        const { clientWidth: width, clientHeight: height } = this.host;
        const at = Math.round(this.divider * width);
        this.renderer.setScissorTest(true);
        for (const [view, from, to] of [
            [own, 0, at],
            [other, at, width],
        ] as const) {
            own.group.visible = view === own;
            other.group.visible = view === other;
            this.renderer.setScissor(from, 0, Math.max(1, to - from), height);
            this.renderer.render(this.scene, this.camera);
        }
        own.group.visible = other.group.visible = true;
        this.renderer.setScissorTest(false);
    }

    private draw(): void {
        if (this.disposed) {
            return;
        }
        cancelAnimationFrame(this.pending);
        this.pending = requestAnimationFrame(() => this.paint());
    }

    private paint(): void {
        this.headlight.position.copy(this.camera.position).add(new THREE.Vector3(0.3, 0.6, 0.2).multiplyScalar(this.size));
        this.headlight.target.position.copy(this.controls.target);
        if (this.litLook && this.look.show === 'low') {
            // Turned around the eye's axis, and low enough that relief throws its shade.
            const angle = THREE.MathUtils.degToRad(this.litLook.light);
            const up = new THREE.Vector3(0, 1, 0).applyQuaternion(this.camera.quaternion);
            const across = new THREE.Vector3(1, 0, 0).applyQuaternion(this.camera.quaternion);
            const eye = this.camera.position.clone().sub(this.controls.target).normalize();
            this.headlight.position
                .copy(this.controls.target)
                .addScaledVector(up, Math.cos(angle) * this.size)
                .addScaledVector(across, Math.sin(angle) * this.size)
                .addScaledVector(eye, 0.8 * this.size);
        }
        this.render();
        this.told.onScale((this.camera.right - this.camera.left) / this.camera.zoom / Math.max(1, this.host.clientWidth));
        this.host.dataset.drawn = 'yes';
    }
}
