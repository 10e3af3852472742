import { Group, Mesh, MeshBasicMaterial, type BufferGeometry, type Scene } from 'three';
import { multiply, type Mesh as CoreMesh } from '@tender-orbit/core/geometry';
import type { TableauInstance } from '@tender-orbit/core/scene';

/** A product as it is at another frame. */
export interface Ghost {
  instance: TableauInstance;
  /** Frames before or after the playhead. */
  later: boolean;
  /** 0..1, fainter the further away. */
  strength: number;
}

const EARLIER = '#e8836b';
const LATER = '#7fd1ae';

/** Pale copies of what moves, where it was and where it will be. */
export class StageGhosts {
  private readonly group = new Group();
  private shown: readonly Ghost[] = [];
  private models: unknown[] = [];

  constructor(scene: Scene) {
    scene.add(this.group);
  }

  /** @param exposure of the picture, which the colours are to come through unchanged. */
  show(
    ghosts: readonly Ghost[],
    exposure: number,
    meshesOf: (model: string) => readonly CoreMesh[] | undefined,
    geometry: (mesh: CoreMesh) => BufferGeometry,
  ): void {
    const models = ghosts.map(({ instance }) => meshesOf(instance.model));
    if (ghosts !== this.shown || models.some((m, i) => m !== this.models[i])) {
      this.clear();
      [this.shown, this.models] = [ghosts, models];
      ghosts.forEach((ghost, i) => this.add(ghost, models[i], geometry));
    }
    for (const child of this.group.children) {
      const material = (child as Mesh).material as MeshBasicMaterial;
      material.color.set(child.userData.later ? LATER : EARLIER).multiplyScalar(0.6 / exposure);
    }
  }

  private add(
    { instance, later, strength }: Ghost,
    meshes: readonly CoreMesh[] | undefined,
    geometry: (mesh: CoreMesh) => BufferGeometry,
  ): void {
    for (const { index, shell, shape, place } of instance.parts) {
      const mesh = shape?.mesh ?? meshes?.[index];
      // Labels lie on a part that is there already.
      if (shell || !mesh) continue;
      // Where a ghost lies on the thing itself, the thing is seen.
      const behind = { polygonOffset: true, polygonOffsetFactor: 2, polygonOffsetUnits: 8 };
      const material = new MeshBasicMaterial({
        ...{ transparent: true, opacity: 0.22 * strength, depthWrite: false },
        ...behind,
      });
      const drawn = new Mesh(geometry(mesh), material);
      drawn.matrixAutoUpdate = false;
      drawn.matrix.fromArray(place ? multiply(instance.matrix, place.matrix) : instance.matrix);
      drawn.userData.later = later;
      this.group.add(drawn);
    }
  }

  private clear(): void {
    for (const child of [...this.group.children]) {
      ((child as Mesh).material as MeshBasicMaterial).dispose();
      this.group.remove(child);
    }
  }

  dispose(): void {
    this.clear();
  }
}
