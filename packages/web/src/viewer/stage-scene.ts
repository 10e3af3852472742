import {
  BufferAttribute,
  Box3,
  BufferGeometry,
  EdgesGeometry,
  Group,
  LightProbe,
  LineBasicMaterial,
  DoubleSide,
  LineSegments,
  MeshBasicMaterial,
  Mesh,
  type IUniform,
  type Object3D,
  type Texture,
  Scene,
  Vector3,
  type Material,
  type PerspectiveCamera,
  type WebGLRenderer,
} from 'three';
import { clayFinish, type Finish, type PictureSource, type TextureUse } from '@tender-orbit/core/finish';
import { harmonicsOf } from '@tender-orbit/core/light';
import type { Mesh as CoreMesh } from '@tender-orbit/core/geometry';
import type { Room } from '@tender-orbit/core/document';
import type { ShownPart } from '@tender-orbit/core/product';
import { meshOfShape, surfaceTraits, type Tableau } from '@tender-orbit/core/scene';
import type { RoomLight } from '../workers/model-worker.ts';
import type { LoadedModel } from './models.ts';
import { PLAIN_ROOM, roomTexture } from './room-texture.ts';
import { STANDING, StageGround } from './stage-ground.ts';
import { StageGhosts, type Ghost } from './stage-ghosts.ts';
import { StageLights } from './stage-lights.ts';
import { StageShadows } from './stage-shadows.ts';
import { StageSmoke } from './stage-smoke.ts';
import { StageSwarms } from './stage-swarms.ts';
import { dropTextures, isFilling, materialOf } from './materials.ts';

/** Colour of the outlines of what the camera does not see. */
const EDGES = '#8d8798';

/** What has been loaded so far. */
export interface Loaded {
  models: (key: string) => LoadedModel | undefined;
  pictures: (source: PictureSource) => ImageBitmap | undefined;
  rooms: (room: Room) => RoomLight | undefined;
}

/** Materials kept for their programs. */
const RETIRED = 80;

/** The tableau as three.js objects. Objects are kept between frames; only what changed is made anew. */
export class StageScene {
  readonly scene = new Scene();
  /** Round what stands on the floor, and round everything; the viewer's depths fit them. */
  readonly standing = new Box3();
  readonly whole = new Box3();
  private readonly things = new Map<string, { key: string; group: Group; materials: Material[] }>();
  private readonly lights = new StageLights(this.scene);
  private readonly shadows = new StageShadows();
  readonly smoke = new StageSmoke();
  private readonly swarms = new StageSwarms(this.scene);
  private readonly ghosts = new StageGhosts(this.scene);
  private readonly ground = new StageGround(this.scene);
  private readonly edges = new LineBasicMaterial();
  /** What casts a shadow and is not seen: it needs no finish. */
  private readonly unseen = new MeshBasicMaterial({ colorWrite: false, depthWrite: false, side: DoubleSide });
  private readonly geometries = new WeakMap<CoreMesh, BufferGeometry>();
  private readonly numbers = new WeakMap<CoreMesh, number>();
  private count = 0;
  private room: RoomLight | null = null;
  private turned = NaN;
  /** Matt surfaces are lit by the room's first harmonics: to ask a cube would take longer, and its code too. */
  private readonly probe = new LightProbe();
  /** Materials that are not used any more: a program lives as long as one of its materials, and is not compiled again. */
  private readonly retired: Material[] = [];

  /** @param seenThrough what fillings let through. */
  constructor(
    private readonly renderer: WebGLRenderer,
    private readonly seenThrough: IUniform<Texture>,
  ) {
    // The mirror image of the floor is lit by it too.
    this.probe.layers.enableAll();
    this.scene.add(this.probe);
  }

  /** Brings the scene to `tableau`. */
  show(tableau: Tableau, loaded: Loaded, clay: boolean, selected: string): void {
    const { models, pictures } = loaded;
    const art = (use: TextureUse, own: readonly ImageBitmap[]): ImageBitmap | undefined =>
      use.picture ? pictures(use.picture) : own[use.image];
    /** Which art of a finish is there: a thing is made anew when more has come. */
    const there = (finish: Finish): boolean[] =>
      Object.values(finish.textures).map((use) => Boolean(use?.picture && pictures(use.picture)));
    const present = new Set<string>();
    for (const instance of tableau.instances) {
      const model = models(instance.model);
      if (!model) continue;
      present.add(instance.id);
      const { camera, shadows } = instance.rayVisibility;
      const parts = instance.parts.map((p) => [
        ...[p.index, p.finish, there(p.finish), p.shell && this.numberOf(p.shell)],
        p.shape?.mesh.indices.length,
      ]);
      const key = JSON.stringify([clay, instance.model, parts, camera, shadows]);
      const finishes = instance.parts.map((p) => p.finish);
      const thing = this.thing(instance.id, key, (group) => {
        const byFinish = new Map<string, Material>();
        const dress = (finish: Finish, solid: boolean, coloured: boolean): Material => {
          const name = `${finishes.indexOf(finish)} ${solid} ${coloured}`;
          const look = { behind: solid ? null : this.seenThrough, vertexColors: coloured && !clay };
          const known =
            byFinish.get(name) ?? materialOf(clay ? clayFinish() : finish, (use) => art(use, model.images), look);
          byFinish.set(name, known);
          return known;
        };
        for (const [number, part] of instance.parts.entries()) {
          const filling = !clay && isFilling(part.finish);
          for (const solid of filling ? [false, true] : [false]) {
            const geometry = part.shape
              ? geometryOf(copyOf(part.shape.mesh))
              : this.geometry(part.shell ?? model.meshes[part.index]);
            const mesh = new Mesh(geometry, dress(part.finish, solid, geometry.hasAttribute('color')));
            mesh.userData.number = number;
            mesh.userData.own = Boolean(part.shape);
            // Its box is that of another frame.
            mesh.frustumCulled = !part.shape;
            mesh.userData.part = part.index;
            mesh.userData.slot = part.slot;
            if (filling) mesh.userData.solid = solid;
            mesh.userData.over = (mesh.material as Material).transparent;
            mesh.castShadow = shadows && (clay || filling || part.finish.transmission === 0);
            group.add(mesh);
            if (!camera) group.add(this.outline(mesh));
          }
        }
        return [...byFinish.values()];
      });
      thing.matrix.fromArray(instance.matrix);
      for (const mesh of thing.children) placePart(mesh, instance.parts[mesh.userData.number as number]);
    }
    for (const surface of tableau.surfaces) {
      present.add(surface.id);
      const { shape, rayVisibility } = surface;
      const key = JSON.stringify([clay, shape, surface.finish, there(surface.finish), rayVisibility]);
      const group = this.thing(surface.id, key, (made) => {
        const material = materialOf(clay ? clayFinish() : surface.finish, (use) => art(use, []));
        const geometry = geometryOf(meshOfShape(shape));
        const mesh = new Mesh(geometry, material);
        mesh.userData.own = true;
        mesh.castShadow = !surfaceTraits(shape).backdrop && rayVisibility.shadows;
        // Behind all else: drawn last, most of it need not be drawn.
        mesh.renderOrder = surfaceTraits(shape).backdrop ? 1 : 0;
        made.add(mesh);
        if (!rayVisibility.camera) made.add(this.outline(mesh));
        if (surfaceTraits(shape).backdrop) {
          const { catcher } = this.shadows;
          catcher.geometry.dispose();
          catcher.geometry = geometry.clone();
        }
        return [material];
      });
      group.matrix.fromArray(surface.matrix);
    }
    for (const [id, { group, materials }] of this.things) {
      if (present.has(id)) continue;
      this.drop(group, materials);
      this.things.delete(id);
    }
    this.lights.show(tableau.lights, selected, tableau.camera.exposureScale);
    this.edges.color.set(EDGES).multiplyScalar(1 / tableau.camera.exposureScale);
    this.standOnFloor(tableau);
    this.showRoom(tableau, loaded);
    this.swarms.show(tableau, clay, {
      geometry: (mesh) => this.geometry(mesh),
      art: (use, model = '') => art(use, models(model)?.images ?? []),
    });
    this.smoke.show(tableau, clay);
  }

  /** What moves, where it is at other frames. */
  showGhosts(ghosts: readonly Ghost[], { models }: Loaded, exposure: number): void {
    const meshes = (model: string) => models(model)?.meshes;
    this.ghosts.show(ghosts, exposure, meshes, (mesh) => this.geometry(mesh));
  }

  /** Shadows and contact of what stands there: products, and blocks to stand them on. */
  private standOnFloor(tableau: Tableau): void {
    const box = this.standing.makeEmpty();
    const standing = [...tableau.instances, ...tableau.surfaces.filter(({ shape }) => surfaceTraits(shape).body)];
    for (const { id, rayVisibility } of standing) {
      const group = this.things.get(id)?.group;
      if (!group) continue;
      group.updateMatrixWorld(true);
      const shown = rayVisibility.camera && rayVisibility.shadows;
      group.traverse((child) => {
        if (child instanceof Mesh) child.layers[shown ? 'enable' : 'disable'](STANDING);
      });
      if (shown) box.expandByObject(group);
    }
    const floor = tableau.surfaces.find(
      ({ shape, rayVisibility }) => surfaceTraits(shape).ground && rayVisibility.camera,
    );
    this.whole.copy(box);
    for (const { group } of this.things.values()) this.whole.expandByObject(group);
    const key = JSON.stringify(standing.map(({ id, matrix }) => [id, matrix, this.things.get(id)?.key]));
    this.ground.show(this.renderer, floor, box, key);
    const middle = box.isEmpty() ? new Vector3(0, 0.03, 0) : box.getCenter(new Vector3());
    this.shadows.show(tableau, middle, box.isEmpty() ? 0.3 : box.getSize(new Vector3()).length() / 2 + 0.05);
  }

  /** Fillings are solids while things move; without them and what lies over others, there is what is seen through them. */
  showFillings(as: 'solid' | 'clear' | 'none'): void {
    for (const { group } of this.things.values())
      for (const child of group.children)
        if (child.userData.solid !== undefined)
          child.visible = as !== 'none' && child.userData.solid === (as === 'solid');
        else if (child.userData.over) child.visible = as !== 'none';
    this.ground.shown = as !== 'none';
  }

  /** Whether anything is seen through. */
  get hasFillings(): boolean {
    return [...this.things.values()].some(({ group }) => group.children.some((c) => c.userData.solid !== undefined));
  }

  /** What is drawn, one over the other. */
  get layers(): readonly Scene[] {
    return [this.scene, this.shadows.scene, this.smoke.scene];
  }

  /** Draws shadows anew, as after any change but a look round. */
  castShadows(camera: PerspectiveCamera): void {
    this.shadows.update(this.renderer, this.scene, camera);
  }

  /** What the floor mirrors; without a camera it mirrors nothing. */
  mirror(camera: PerspectiveCamera | null, width: number, height: number): void {
    this.ground.mirror(this.renderer, camera, width, height);
  }

  /** The room that was there stays until the other one has been read; at first it is a plain one. */
  private showRoom({ environment: { room, intensity, rotation } }: Tableau, { rooms }: Loaded): void {
    const light = rooms(room) ?? this.room ?? PLAIN_ROOM;
    this.probe.intensity = this.scene.environmentIntensity = intensity;
    if (light === this.room && rotation === this.turned) return;
    this.scene.environmentRotation.y = this.turned = rotation;
    this.probe.sh.fromArray([...harmonicsOf(light.matt, rotation)]);
    if (light === this.room) return;
    this.room = light;
    this.scene.environment?.dispose();
    this.scene.environment = roomTexture(light.levels);
  }

  /** Groups that can be picked, with the id of their thing in `userData.thing`. */
  pickable(): Group[] {
    return [...this.things.values()].map((t) => t.group);
  }

  /** All that things are dressed in. */
  get finishes(): Material[] {
    return [...this.things.values()].flatMap(({ materials }) => materials);
  }

  lightFaces(): Mesh[] {
    return this.lights.faces();
  }

  /** What the camera does not see is drawn as faint outlines while staging, never in a picture that stands for the result. */
  setPanelsVisible(visible: boolean): void {
    for (const face of this.lights.faces()) face.visible = visible;
    for (const { group } of this.things.values())
      for (const child of group.children) if (child instanceof LineSegments) child.visible = visible;
  }

  /** Edges in the place of a thing that is hidden from the camera; it casts its shadow as before. */
  private outline(mesh: Mesh): LineSegments {
    mesh.material = this.unseen;
    return new LineSegments(new EdgesGeometry(mesh.geometry, 30), this.edges);
  }

  dispose(): void {
    for (const { group, materials } of this.things.values()) this.drop(group, materials);
    this.things.clear();
    for (const material of this.retired) material.dispose();
    this.scene.environment?.dispose();
    this.unseen.dispose();
    this.shadows.dispose();
    this.ground.dispose();
    this.smoke.dispose();
    this.swarms.dispose();
    this.ghosts.dispose();
  }

  /** Takes a thing off the scene. Models' geometries are shared and stay; a surface's or an outline's is its own. */
  private drop(group: Group, materials: Material[]): void {
    this.scene.remove(group);
    materials.forEach(dropTextures);
    this.retired.push(...materials);
    for (const material of this.retired.splice(0, this.retired.length - RETIRED)) material.dispose();
    for (const child of group.children)
      if ((child instanceof Mesh && child.userData.own) || child instanceof LineSegments) child.geometry.dispose();
  }

  private thing(id: string, key: string, build: (group: Group) => Material[]): Group {
    const known = this.things.get(id);
    if (known?.key === key) return known.group;
    if (known) {
      this.drop(known.group, known.materials);
    }
    const group = new Group();
    group.matrixAutoUpdate = false;
    group.userData.thing = id;
    const materials = build(group);
    this.things.set(id, { key, group, materials });
    this.scene.add(group);
    return group;
  }

  /** A number that a label's triangles are known by. */
  private numberOf(mesh: CoreMesh): number {
    if (!this.numbers.has(mesh)) this.numbers.set(mesh, this.count++);
    return this.numbers.get(mesh)!;
  }

  private geometry(mesh: CoreMesh): BufferGeometry {
    let geometry = this.geometries.get(mesh);
    if (!geometry) {
      geometry = geometryOf(mesh);
      this.geometries.set(mesh, geometry);
    }
    return geometry;
  }
}

function geometryOf(mesh: CoreMesh): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
  geometry.setAttribute('normal', new BufferAttribute(mesh.normals, 3));
  geometry.setAttribute('uv', new BufferAttribute(mesh.uvs, 2));
  if (mesh.colors) geometry.setAttribute('color', new BufferAttribute(mesh.colors, 4));
  if (mesh.tangents) geometry.setAttribute('tangent', new BufferAttribute(mesh.tangents, 4));
  geometry.setIndex(new BufferAttribute(mesh.indices, 1));
  return geometry;
}

/** Vertices of its own, to be written over in every frame. */
function copyOf(mesh: CoreMesh): CoreMesh {
  return { ...mesh, positions: mesh.positions.slice(), normals: mesh.normals.slice() };
}

/** Brings the mesh of a part to its own place in the model, and to its shape in this frame. */
function placePart(mesh: Object3D, part: ShownPart | undefined): void {
  if (!(mesh instanceof Mesh) || !part) return;
  if (part.place) {
    mesh.matrixAutoUpdate = false;
    mesh.matrix.fromArray(part.place.matrix);
  } else if (!mesh.matrixAutoUpdate) mesh.matrix.identity();
  if (!part.shape) return;
  const { position, normal } = (mesh.geometry as BufferGeometry).attributes;
  (position.array as Float32Array).set(part.shape.mesh.positions);
  (normal.array as Float32Array).set(part.shape.mesh.normals);
  position.needsUpdate = normal.needsUpdate = true;
}
