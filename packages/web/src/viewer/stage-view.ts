import {
  MathUtils,
  Matrix4,
  Mesh,
  PCFShadowMap,
  PerspectiveCamera,
  Plane,
  Raycaster,
  SRGBColorSpace,
  Vector2,
  Vector3,
  WebGLRenderer,
  Group,
  type Intersection,
  type Material,
  type Object3D,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { TransformControls } from 'three/examples/jsm/controls/TransformControls.js';
import type { Tableau } from '@tender-orbit/core/scene';
import { depthRange } from './depth-range.ts';
import { AdaptiveQuality } from './quality.ts';
import { OVERLAY, StageOutput } from './stage-output.ts';
import type { Ghost } from './stage-ghosts.ts';
import { StageScene, type Loaded } from './stage-scene.ts';
import { TONE } from './tone.ts';

/** How near an outline a click must be, metres. */
const OUTLINE_REACH = 0.004;

/** Where a surface was clicked, its normal there and where it was seen from. */
export interface SurfaceSpot {
  point: [number, number, number];
  normal: [number, number, number];
  eye: [number, number, number];
  /** Which part of the model was clicked, and the slot of the label that lies there; empty for none. */
  part: number;
  slot: string;
  /** The surface's own u and v there. */
  uv: [number, number];
}

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
}

/** The thing that a drawn object belongs to; empty for none. */
function thingOf(drawn: Object3D | null): string {
  let object = drawn;
  while (object && object.userData.thing === undefined) object = object.parent;
  return (object?.userData.thing as string | undefined) ?? '';
}

/** The three.js viewer of a tableau. Draws only when asked to. */
export class StageView {
  private readonly renderer: WebGLRenderer;
  private readonly stage: StageScene;
  private readonly output = new StageOutput();
  private readonly camera = new PerspectiveCamera(30, 16 / 9, 0.01, 60);
  private readonly orbit: OrbitControls;
  private readonly handles: TransformControls;
  private readonly anchor = new Group();
  private readonly quality = new AdaptiveQuality();
  private picture: StagePicture | null = null;
  private shadowed: StagePicture | null = null;
  private request = 0;
  private restTimer: ReturnType<typeof setTimeout> | undefined;
  private moving = false;
  private looking = false;
  private gesture = '';
  private width = 1;
  private height = 1;
  private shift: [number, number] = [0, 0];
  private down: { x: number; y: number } | null = null;
  /** Frames drawn so far; tests and the status line read it. */
  drawn = 0;
  lastMilliseconds = 0;

  constructor(
    readonly canvas: HTMLCanvasElement,
    private readonly events: StageViewEvents,
  ) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: true });
    this.renderer.outputColorSpace = SRGBColorSpace;
    this.renderer.shadowMap.enabled = true;
    this.renderer.shadowMap.type = PCFShadowMap;
    this.renderer.shadowMap.autoUpdate = false;
    this.renderer.transmissionResolutionScale = 0.5;
    this.stage = new StageScene(this.renderer);
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
    this.draw(true, width / this.width);
    return createImageBitmap(this.canvas);
  }

  /** The lens shift moves the picture over the projection. */
  private project(): void {
    this.camera.updateProjectionMatrix();
    const { elements } = this.camera.projectionMatrix;
    [elements[8], elements[9]] = this.shift;
    this.camera.projectionMatrixInverse.copy(this.camera.projectionMatrix).invert();
  }

  /** Where the person looks from now, for making it the camera's place. */
  viewpoint(): { position: [number, number, number]; aim: [number, number, number] } {
    const p = this.camera.position;
    const t = this.orbit.target;
    return { position: [p.x, p.y, p.z], aim: [t.x, t.y, t.z] };
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
      this.draw(this.moving);
      if (this.moving) this.rest();
    });
  }

  /** @param share of the screen's pixels; absent: what this machine keeps up with. */
  private draw(moving: boolean, share?: number): void {
    // A picture of no size would be drawn for nothing.
    if (!this.picture || this.width <= 1) return;
    const { tableau, loaded, clay, selected, throughCamera } = this.picture;
    const start = performance.now();
    this.stage.show(tableau, loaded, clay, selected);
    this.stage.showGhosts(this.picture.ghosts ?? [], loaded, tableau.camera.exposureScale);
    Object.assign(this.camera, depthRange(this.camera.position, this.stage.standing, this.stage.whole));
    this.project();
    // Looking round changes no shadow.
    if (this.shadowed !== this.picture) this.stage.castShadows(this.camera);
    this.shadowed = this.picture;
    this.stage.setPanelsVisible(!throughCamera);
    this.handles.getHelper().visible = this.picture.handles !== null;
    this.renderer.setPixelRatio(
      share ?? Math.min(2, window.devicePixelRatio) * this.quality.scale(moving, this.width * window.devicePixelRatio),
    );
    this.renderer.setSize(this.width, this.height, false);
    this.stage.setMoving(moving);
    // Mirroring draws everything twice: that waits until things rest.
    this.stage.smoke.face(this.camera, moving);
    this.stage.smoke.showDomain(this.picture.domain);
    this.stage.mirror(moving || clay ? null : this.camera, this.width, this.height);
    const exposure = tableau.camera.exposureScale;
    this.output.draw(this.renderer, this.stage.layers, this.camera, { view: TONE[tableau.view], exposure, moving });
    // Reading one pixel waits for the graphics work, so that software rendering is measured too.
    const gl = this.renderer.getContext();
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
    this.lastMilliseconds = performance.now() - start;
    if (share === undefined) this.quality.measured(this.lastMilliseconds, moving);
    this.drawn++;
    this.canvas.dataset.drawn = String(this.drawn);
    this.canvas.dataset.milliseconds = this.lastMilliseconds.toFixed(0);
    this.events.drawn?.();
  }

  private readonly onDown = (event: PointerEvent): void => {
    this.down = { x: event.clientX, y: event.clientY };
  };

  private readonly onUp = (event: PointerEvent): void => {
    const start = this.down;
    this.down = null;
    if (!start || Math.hypot(event.clientX - start.x, event.clientY - start.y) > 4 || this.handles.axis) return;
    const hit = this.hitAt(event.clientX, event.clientY);
    const thing = thingOf(hit?.object ?? null);
    if (event.button === 2) this.events.menu?.(thing, event);
    if (event.button !== 0) return;
    const spot = hit && this.spotOf(hit);
    if (spot && this.events.mark?.(spot)) return;
    this.events.pick(thing, event.ctrlKey || event.shiftKey || event.metaKey);
  };

  /** The surface at a place of the window; null where there is none. @param only takes meshes by their part and slot. */
  spotAt(
    clientX: number,
    clientY: number,
    only: (of: Partial<Pick<SurfaceSpot, 'part' | 'slot'>>) => boolean = () => true,
  ): SurfaceSpot | null {
    const hit = this.hitAt(clientX, clientY, only);
    return hit ? this.spotOf(hit) : null;
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

  /** Where the ray through a place of the window meets a plane; null when it runs along it or away. */
  onPlane(clientX: number, clientY: number, point: readonly number[], normal: readonly number[]): number[] | null {
    const plane = new Plane().setFromNormalAndCoplanarPoint(
      new Vector3(normal[0], normal[1], normal[2]),
      new Vector3(point[0], point[1], point[2]),
    );
    return this.rayAt(clientX, clientY).ray.intersectPlane(plane, new Vector3())?.toArray() ?? null;
  }

  private rayAt(clientX: number, clientY: number): Raycaster {
    const box = this.canvas.getBoundingClientRect();
    const ray = new Raycaster();
    ray.layers.enable(OVERLAY);
    ray.setFromCamera(
      new Vector2(((clientX - box.left) / box.width) * 2 - 1, 1 - ((clientY - box.top) / box.height) * 2),
      this.camera,
    );
    return ray;
  }

  private hitAt(
    clientX: number,
    clientY: number,
    only: (of: Partial<Pick<SurfaceSpot, 'part' | 'slot'>>) => boolean = () => true,
  ): Intersection | undefined {
    const ray = this.rayAt(clientX, clientY);
    const targets = [...this.stage.pickable(), ...(this.picture?.throughCamera ? [] : this.stage.lightFaces())];
    ray.params.Line.threshold = OUTLINE_REACH;
    // A thing that is hidden from the camera can be had by its outline only.
    return ray
      .intersectObjects(targets, true)
      .find(
        ({ object }) =>
          (!(object instanceof Mesh) || (object.material as Material).colorWrite) && only(object.userData),
      );
  }

  private spotOf(hit: Intersection): SurfaceSpot | null {
    if (!hit.normal) return null;
    const normal = hit.normal.clone().transformDirection(hit.object.matrixWorld);
    const { part = -1, slot = '' } = hit.object.userData as { part?: number; slot?: string };
    const uv: [number, number] = hit.uv ? [hit.uv.x, hit.uv.y] : [0, 0];
    return {
      point: hit.point.toArray(),
      normal: normal.toArray(),
      eye: this.camera.position.toArray(),
      part,
      slot,
      uv,
    };
  }
}
