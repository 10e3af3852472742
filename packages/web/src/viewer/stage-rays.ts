import {
  Mesh,
  Plane,
  Raycaster,
  Vector2,
  Vector3,
  type Intersection,
  type Material,
  type Object3D,
  type PerspectiveCamera,
} from 'three';
import { OVERLAY } from './stage-output.ts';

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

/** Which meshes count, by their part and slot. */
export type MeshTest = (of: Partial<Pick<SurfaceSpot, 'part' | 'slot'>>) => boolean;

/** How near an outline a click must be, metres. */
const OUTLINE_REACH = 0.004;

/** The thing that a drawn object belongs to; empty for none. */
export function thingOf(drawn: Object3D | null): string {
  let object = drawn;
  while (object && object.userData.thing === undefined) object = object.parent;
  return (object?.userData.thing as string | undefined) ?? '';
}

/** What the pointer points at in a viewer's picture. */
export class StageRays {
  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly camera: PerspectiveCamera,
  ) {}

  /** What of some objects is met first at a place of the window. */
  hit(clientX: number, clientY: number, targets: Object3D[], only: MeshTest): Intersection | undefined {
    const ray = this.at(clientX, clientY);
    ray.params.Line.threshold = OUTLINE_REACH;
    // A thing that is hidden from the camera can be had by its outline only.
    return ray
      .intersectObjects(targets, true)
      .find(
        ({ object }) =>
          (!(object instanceof Mesh) || (object.material as Material).colorWrite) && only(object.userData),
      );
  }

  /** Where the ray through a place of the window meets a plane; null when it runs along it or away. */
  onPlane(clientX: number, clientY: number, point: readonly number[], normal: readonly number[]): number[] | null {
    const plane = new Plane().setFromNormalAndCoplanarPoint(
      new Vector3(normal[0], normal[1], normal[2]),
      new Vector3(point[0], point[1], point[2]),
    );
    return this.at(clientX, clientY).ray.intersectPlane(plane, new Vector3())?.toArray() ?? null;
  }

  /** Where a surface was met; null for what has none. */
  spot(hit: Intersection): SurfaceSpot | null {
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

  private at(clientX: number, clientY: number): Raycaster {
    const box = this.canvas.getBoundingClientRect();
    const ray = new Raycaster();
    ray.layers.enable(OVERLAY);
    ray.setFromCamera(
      new Vector2(((clientX - box.left) / box.width) * 2 - 1, 1 - ((clientY - box.top) / box.height) * 2),
      this.camera,
    );
    return ray;
  }
}
