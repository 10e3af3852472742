import {
  MathUtils,
  Matrix4,
  PCFShadowMap,
  PerspectiveCamera,
  SRGBColorSpace,
  Vector2,
  Vector3,
  WebGLRenderer,
  Group,
  type Intersection,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { TransformControls } from 'three/examples/jsm/controls/TransformControls.js';
import type { Tableau } from '@tender-orbit/core/scene';
import { depthRange } from './depth-range.ts';
import { AdaptiveQuality } from './quality.ts';
import { FEW_PASSES, jitterOf, OVERLAY, PASSES, StageOutput, type Pass } from './stage-output.ts';
import type { Ghost } from './stage-ghosts.ts';
import { StageRays, thingOf, type MeshTest, type SurfaceSpot } from './stage-rays.ts';
import { StageScene, type Loaded } from './stage-scene.ts';
import { TONE } from './tone.ts';

export interface StageViewEvents {
  /** A thing was clicked; empty for nothing. */
  pick: (id: string, more: boolean) => void;
  /** The right button was pressed and let go without a drag, on a thing or on nothing. */
  menu?: (id: string, event: PointerEvent) => void;
  /** The handles moved: new position in metres, or turn in degrees. One gesture from press to release. */
  move: (id: string, position: [number, number, number], gesture: string) => void;
  turn: (id: string, degrees: number, gesture: string) => void;
  /** A click on a surface, before it picks; true when something was waiting for it. World space. */
  mark?: (spot: SurfaceSpot) => boolean;
  /** A frame was drawn: what is laid over the picture follows. */
  drawn?: () => void;
  /** The person looks round by themselves. */
  leaveCamera: () => void;
}

const REST = 220;
/** A pass that takes less is quick enough for all of them, ms. */
const QUICK_PASS = 120;
const soon = (): Promise<void> => new Promise((done) => setTimeout(done, 8));
/** Width and height of a picture that is drawn for its programs alone, pixels. */
const WARM = [32, 18] as const;

/** A thing that handles sit on: metres and degrees. */
export interface StageHandles {
  id: string;
  mode: 'move' | 'turn';
  position: [number, number, number];
  turn: number;
}

/** What the viewer shows: everything that can change a picture is in here, so that nothing is drawn in vain. */
export interface StagePicture {
  tableau: Tableau;
  clay: boolean;
  selected: string;
  /** Id and place of the thing the handles sit on; null for none. */
  handles: StageHandles | null;
  throughCamera: boolean;
  loaded: Loaded;
  /** The unit cube to the domain of the effect in hand; null for none. */
  domain: readonly number[] | null;
  /** What moves, at other frames. */
  ghosts?: readonly Ghost[];
  /** Whether a better picture lies over it: then quick ones are enough. */
  covered?: boolean;
}

/** What a viewer tells while nobody looks through it. */
const UNSEEN: StageViewEvents = {
  pick: () => undefined,
  move: () => undefined,
  turn: () => undefined,
  leaveCamera: () => undefined,
};

/** The three.js viewer of a tableau. Draws only when asked to. `openView()` gives one: what it has compiled serves the next station too. */
export class StageView {
  readonly canvas = document.createElement('canvas');
  private readonly renderer: WebGLRenderer;
  private readonly output = new StageOutput();
  private readonly stage: StageScene;
  private readonly camera = new PerspectiveCamera(30, 16 / 9, 0.01, 60);
  private readonly rays = new StageRays(this.canvas, this.camera);
  private readonly orbit: OrbitControls;
  private readonly handles: TransformControls;
  private readonly anchor = new Group();
  private readonly quality = new AdaptiveQuality();
  private picture: StagePicture | null = null;
  private shadowed: StagePicture | null = null;
  private request = 0;
  private restTimer: ReturnType<typeof setTimeout> | undefined;
  private moving = false;
  /** Counts changes: passes of a picture that rested before the last one are over. */
  private change = 0;
  private looking = false;
  private gesture = '';
  private width = 1;
  private height = 1;
  private shift: [number, number] = [0, 0];
  private down: { x: number; y: number } | null = null;
  /** Frames drawn so far; tests and the status line read it. */
  drawn = 0;
  lastMilliseconds = 0;

  private events: StageViewEvents = UNSEEN;

  constructor() {
    const { canvas } = this;
    this.renderer = new WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: true });
    this.renderer.outputColorSpace = SRGBColorSpace;
    this.renderer.shadowMap.enabled = true;
    this.renderer.shadowMap.type = PCFShadowMap;
    this.renderer.shadowMap.autoUpdate = false;
    this.stage = new StageScene(this.renderer, this.output.seenThrough);
    this.orbit = new OrbitControls(this.camera, canvas);
    this.orbit.enableDamping = false;
    // Under the floor there is nothing to see.
    this.orbit.maxPolarAngle = Math.PI * 0.52;
    this.orbit.addEventListener('start', () => (this.looking = true));
    this.orbit.addEventListener('end', () => (this.looking = false));
    this.orbit.addEventListener('change', () => {
      // A press alone is a pick; only looking round leaves the shot's camera.
      if (this.looking) this.leave();
      this.touch();
    });
    this.handles = new TransformControls(this.camera, canvas);
    this.handles.setSize(0.85);
    this.handles.setColors('#C98F6B', '#7FD1AE', '#A88BEB', '#ECE7F2');
    this.handles.addEventListener('dragging-changed', (event) => {
      this.orbit.enabled = !event.value;
      this.gesture = event.value ? `handles-${Date.now()}` : '';
    });
    this.handles.addEventListener('objectChange', () => this.report());
    this.handles.addEventListener('change', () => this.touch());
    this.stage.scene.add(this.anchor, this.handles.getHelper(), this.stage.smoke.outline);
    this.stage.smoke.outline.layers.set(OVERLAY);
    this.handles.getHelper().traverse((part) => part.layers.set(OVERLAY));
    this.handles.getRaycaster().layers.set(OVERLAY);
    canvas.addEventListener('pointerdown', this.onDown);
    canvas.addEventListener('pointerup', this.onUp);
  }

  resize(width: number, height: number): void {
    this.width = Math.max(1, width);
    this.height = Math.max(1, height);
    this.camera.aspect = this.width / this.height;
    this.project();
    this.touch();
  }

  show(picture: StagePicture): void {
    const first = this.picture === null;
    this.picture = picture;
    if (picture.throughCamera || first) this.takeCamera(picture.tableau);
    this.attachHandles();
    this.touch();
  }

  /** Looks at the set from one side; the shot's camera stays where it is. */
  lookFrom(side: 'top' | 'front' | 'right', radius = 0.35): void {
    const far = radius * 6;
    const from = { top: [0, far, 0.001], front: [0, 0.06, far], right: [far, 0.06, 0] }[side];
    this.leave();
    this.shift = [0, 0];
    this.camera.fov = 22;
    this.camera.position.set(from[0], from[1], from[2]);
    this.orbit.target.set(0, side === 'top' ? 0 : 0.06, 0);
    this.orbit.update();
    this.project();
    this.touch();
  }

  /**
   * Draws another picture than the one that is shown, so many pixels wide, and gives it; the one that is shown comes back with the
   * next show().
   */
  film(picture: StagePicture, width: number): Promise<ImageBitmap> {
    cancelAnimationFrame(this.request);
    this.request = 0;
    clearTimeout(this.restTimer);
    this.picture = picture;
    this.attachHandles();
    this.takeCamera(picture.tableau);
    this.draw(width / this.width);
    return createImageBitmap(this.canvas);
  }

  /** The lens shift moves the picture over the projection. */
  private project(pass: Pass = 'quick'): void {
    this.camera.updateProjectionMatrix();
    const { elements } = this.camera.projectionMatrix;
    [elements[8], elements[9]] = this.shift;
    if (pass !== 'quick') {
      const [x, y] = jitterOf(pass);
      elements[8] += (2 * x) / this.canvas.width;
      elements[9] += (2 * y) / this.canvas.height;
    }
    this.camera.projectionMatrixInverse.copy(this.camera.projectionMatrix).invert();
  }

  /** Where the person looks from now, for making it the camera's place. */
  viewpoint(): { position: [number, number, number]; aim: [number, number, number] } {
    const p = this.camera.position;
    const t = this.orbit.target;
    return { position: [p.x, p.y, p.z], aim: [t.x, t.y, t.z] };
  }

  /** Somebody looks through it from now on. */
  start(events: StageViewEvents): void {
    this.events = events;
    this.picture = this.shadowed = null;
    this.drawn = 0;
    delete this.canvas.dataset.drawn;
  }

  /** Nobody looks through it any more. */
  stop(): void {
    cancelAnimationFrame(this.request);
    this.request = 0;
    clearTimeout(this.restTimer);
    this.handles.detach();
    this.orbit.enabled = true;
    this.looking = false;
    this.start(UNSEEN);
  }

  /** Whether the browser has taken its context away. */
  get isLost(): boolean {
    return this.renderer.getContext().isContextLost();
  }

  /**
   * Draws a picture that nobody sees, as small as pictures can be and one finish after the other, so that their programs are compiled
   * before they are looked at. Ends early when somebody looks.
   */
  async warm(picture: StagePicture, pause: () => Promise<void>): Promise<void> {
    [this.width, this.height] = WARM;
    this.camera.aspect = this.width / this.height;
    this.picture = picture;
    this.takeCamera(picture.tableau);
    this.stage.show(picture.tableau, picture.loaded, false, '');
    const finishes = this.stage.finishes;
    for (const moving of [true, false])
      for (const finish of finishes) {
        for (const other of finishes) other.visible = other === finish;
        this.paint(moving, 1);
        for (const other of finishes) other.visible = true;
        await this.painted(pause);
        if (this.picture !== picture) return;
      }
    this.start(UNSEEN);
  }

  /** Waits until what was asked of the graphics process has been done there. */
  private async painted(pause: () => Promise<void>): Promise<void> {
    const gl = this.renderer.getContext() as WebGL2RenderingContext;
    const fence = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
    gl.flush();
    do await pause();
    while (fence && gl.getSyncParameter(fence, gl.SYNC_STATUS) === gl.UNSIGNALED && !this.isLost);
    gl.deleteSync(fence);
  }

  dispose(): void {
    cancelAnimationFrame(this.request);
    clearTimeout(this.restTimer);
    this.canvas.removeEventListener('pointerdown', this.onDown);
    this.canvas.removeEventListener('pointerup', this.onUp);
    this.orbit.dispose();
    this.handles.dispose();
    this.stage.dispose();
    this.output.dispose();
    this.renderer.dispose();
  }

  private leave(): void {
    if (this.picture?.throughCamera) {
      this.picture = { ...this.picture, throughCamera: false };
      this.events.leaveCamera();
    }
  }

  private takeCamera(tableau: Tableau): void {
    const { position, aim, matrix, verticalFov } = tableau.camera;
    this.camera.fov = MathUtils.radToDeg(verticalFov);
    this.camera.position.set(...position);
    this.orbit.target.set(...aim);
    // Its roll is in the matrix; looking round levels it again.
    this.camera.quaternion.setFromRotationMatrix(new Matrix4().fromArray(matrix));
    this.shift = tableau.camera.shift;
    this.project();
  }

  private attachHandles(): void {
    const wanted = this.picture?.handles;
    if (this.handles.dragging) return;
    if (!wanted) {
      this.handles.detach();
      return;
    }
    this.anchor.position.set(...wanted.position);
    this.anchor.rotation.set(0, MathUtils.degToRad(wanted.turn), 0);
    this.handles.setMode(wanted.mode === 'move' ? 'translate' : 'rotate');
    this.handles.showX = this.handles.showZ = wanted.mode === 'move';
    this.handles.showY = true;
    if (this.handles.object !== this.anchor) this.handles.attach(this.anchor);
  }

  private report(): void {
    const wanted = this.picture?.handles;
    if (!wanted || !this.handles.dragging) return;
    if (wanted.mode === 'move') this.events.move(wanted.id, this.anchor.position.toArray(), this.gesture);
    else {
      // Euler angles jump at half a turn: the nearest equal angle to the present turn keeps counting on.
      const raw = MathUtils.radToDeg(this.anchor.rotation.reorder('YXZ').y);
      this.events.turn(wanted.id, raw + Math.round((wanted.turn - raw) / 360) * 360, this.gesture);
    }
  }

  /** Something changed: one frame now, at a resolution this machine can keep up with, and a full one when it rests. */
  private touch(): void {
    this.moving = true;
    this.change++;
    clearTimeout(this.restTimer);
    this.schedule();
  }

  /** A full frame once nothing has changed for a while: counted from the last quick one, however long that took. */
  private rest(): void {
    clearTimeout(this.restTimer);
    this.restTimer = setTimeout(() => {
      this.moving = false;
      this.schedule();
    }, REST);
  }

  private schedule(): void {
    if (this.request) return;
    this.request = requestAnimationFrame(() => {
      this.request = 0;
      if (!this.moving) return void this.drawAtRest();
      this.draw();
      if (!this.picture?.covered) this.rest();
    });
  }

  /** Draws a quick picture. @param share of the screen's pixels; absent: what this machine keeps up with. */
  private draw(share?: number): void {
    // A picture of no size would be drawn for nothing.
    if (!this.picture || this.width <= 1) return;
    const start = performance.now();
    this.paint(true, share);
    // Reading one pixel waits for the graphics work, so that software rendering is measured too.
    const gl = this.renderer.getContext();
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
    this.lastMilliseconds = performance.now() - start;
    if (share === undefined) this.quality.measured(this.lastMilliseconds);
    this.count();
  }

  private count(): void {
    this.drawn++;
    this.canvas.dataset.drawn = String(this.drawn);
    this.canvas.dataset.milliseconds = this.lastMilliseconds.toFixed(0);
    this.events.drawn?.();
  }

  /**
   * A whole picture, then as many more for its mean as this machine is quick enough for. The page waits for none of them: whoever goes on
   * meanwhile ends it.
   */
  private async drawAtRest(): Promise<void> {
    const { picture, change } = this;
    if (!picture || this.width <= 1) return;
    for (let pass = 0, most = FEW_PASSES; pass < most; pass++) {
      const start = performance.now();
      if (pass === 0) this.paint(false);
      else this.develop(picture.tableau, pass);
      await this.painted(soon);
      if (this.picture !== picture || this.change !== change) return;
      this.lastMilliseconds = performance.now() - start;
      if (this.lastMilliseconds < QUICK_PASS) most = PASSES;
      // The same picture with smoother edges is no other picture.
      if (pass === 0) this.count();
    }
  }

  private paint(moving: boolean, share?: number): void {
    if (!this.picture) return;
    const { tableau, loaded, clay, selected, throughCamera } = this.picture;
    this.stage.show(tableau, loaded, clay, selected);
    this.stage.showGhosts(this.picture.ghosts ?? [], loaded, tableau.camera.exposureScale);
    Object.assign(this.camera, depthRange(this.camera.position, this.stage.standing, this.stage.whole));
    this.project();
    // Looking round changes no shadow.
    if (this.shadowed !== this.picture) this.stage.castShadows(this.camera);
    this.shadowed = this.picture;
    this.stage.setPanelsVisible(!throughCamera);
    this.handles.getHelper().visible = this.picture.handles !== null;
    const density =
      share ?? Math.min(2, window.devicePixelRatio) * this.quality.scale(moving, this.width * window.devicePixelRatio);
    const { x, y } = this.renderer.getSize(new Vector2());
    // Either makes the canvas anew, even where nothing changes.
    if (density !== this.renderer.getPixelRatio()) this.renderer.setPixelRatio(density);
    if (x !== this.width || y !== this.height) this.renderer.setSize(this.width, this.height, false);
    this.stage.showFillings('solid');
    // Mirroring draws everything twice: that waits until things rest.
    this.stage.smoke.face(this.camera, moving);
    this.stage.smoke.showDomain(this.picture.domain);
    this.stage.mirror(moving || clay ? null : this.camera, this.width, this.height);
    if (!moving && this.stage.hasFillings) {
      this.stage.showFillings('none');
      this.output.drawBehind(this.renderer, this.stage.scene, this.camera);
      this.stage.showFillings('clear');
    }
    this.develop(tableau, moving ? 'quick' : 0);
  }

  private develop({ view, camera: { exposureScale: exposure } }: Tableau, pass: Pass): void {
    this.project(pass);
    this.output.draw(this.renderer, this.stage.layers, this.camera, { view: TONE[view], exposure, pass });
    this.project();
    this.output.drawOverlay(this.renderer, this.stage.scene, this.camera);
  }

  private readonly onDown = (event: PointerEvent): void => {
    this.down = { x: event.clientX, y: event.clientY };
  };

  private readonly onUp = (event: PointerEvent): void => {
    const start = this.down;
    this.down = null;
    if (!start || Math.hypot(event.clientX - start.x, event.clientY - start.y) > 4 || this.handles.axis) return;
    const hit = this.hitAt(event.clientX, event.clientY, () => true);
    const thing = thingOf(hit?.object ?? null);
    if (event.button === 2) this.events.menu?.(thing, event);
    if (event.button !== 0) return;
    const spot = hit && this.rays.spot(hit);
    if (spot && this.events.mark?.(spot)) return;
    this.events.pick(thing, event.ctrlKey || event.shiftKey || event.metaKey);
  };

  /** The surface at a place of the window; null where there is none. @param only takes meshes by their part and slot. */
  spotAt(clientX: number, clientY: number, only: MeshTest = () => true): SurfaceSpot | null {
    const hit = this.hitAt(clientX, clientY, only);
    return hit ? this.rays.spot(hit) : null;
  }

  private hitAt(clientX: number, clientY: number, only: MeshTest): Intersection | undefined {
    const faces = this.picture?.throughCamera ? [] : this.stage.lightFaces();
    return this.rays.hit(clientX, clientY, [...this.stage.pickable(), ...faces], only);
  }

  /** Where the ray through a place of the window meets a plane; null when it runs along it or away. */
  onPlane(clientX: number, clientY: number, point: readonly number[], normal: readonly number[]): number[] | null {
    return this.rays.onPlane(clientX, clientY, point, normal);
  }

  /** Where a point of the set is in the picture, CSS pixels from its upper left. */
  toScreen(point: readonly number[]): [number, number] {
    const { x, y } = new Vector3(point[0], point[1], point[2]).project(this.camera);
    return [((x + 1) / 2) * this.width, ((1 - y) / 2) * this.height];
  }

  /** Whether a point of the set lies before the camera. */
  isBefore(point: readonly number[]): boolean {
    return new Vector3(point[0], point[1], point[2]).applyMatrix4(this.camera.matrixWorldInverse).z < -1e-3;
  }

  /** Which way the camera looks. */
  looksAlong(): number[] {
    return this.camera.getWorldDirection(new Vector3()).toArray();
  }
}
