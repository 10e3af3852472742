import { tan } from '../maths/index.ts';
import { clayFinish, pictureKey, type Finish, type TextureUse } from '../finish/index.ts';
import { identity, multiply, type Mat4, type Mesh } from '../geometry/index.ts';
import type { PartPlace, ShownPart } from '../product/index.ts';
import type { RayVisibility, Tableau, TableauInstance, TableauSwarm, TableauVolume } from '../scene/index.ts';
import { CAMERA, MATERIAL, RAY, type PackedInstance, type PackedMesh, type PackedScene } from './layout.ts';
import { rowsOf } from './matrix-rows.ts';
import { lightOrder, packLights, type GlowingPart } from './pack-lights.ts';
import { packMaterial, TextureCache, TexturePool, type DecodedImage, type ImageLookup } from './pack-materials.ts';
import { MeshCache, packDeforming } from './pack-meshes.ts';
import { packRoom, type Panoramas } from './pack-room.ts';
import { packVolume } from './pack-volumes.ts';

/** What the tracer needs of a model besides its finishes, which the tableau carries. */
export interface ModelData {
  meshes: readonly Mesh[];
  images: readonly DecodedImage[];
}

/** Art by its pictureKey(); what is not there yet is left out. */
export type Pictures = ReadonlyMap<string, DecodedImage>;

/** What stays the same from frame to frame: keep one as long as frames of the same set are packed. */
export class PackCache {
  readonly meshes = new MeshCache();
  readonly textures = new TextureCache();
}

/** Light passes besides those of the set's lights. */
export const ROOM_PASS = 'room';
export const GLOW_PASS = 'glow';

/**
 * A tableau as flat arrays: every mesh once in its own space, instances with their transforms, and lights.
 * `clay` gives every surface the one neutral finish.
 */
export function packScene(
  tableau: Tableau,
  models: ReadonlyMap<string, ModelData>,
  options: {
    clay?: boolean;
    cache?: PackCache;
    /** Art by its pictureKey(). */ pictures?: Pictures;
    panoramas?: Panoramas;
  } = {},
): PackedScene {
  const { clay = false, cache = new PackCache(), pictures, panoramas } = options;
  const packer = new Packer(cache, clay, tableau.view);
  cache.meshes.nextScene();
  const art = (use: TextureUse, own: readonly DecodedImage[]): DecodedImage | undefined =>
    use.picture ? pictures?.get(pictureKey(use.picture)) : own[use.image];
  for (const surface of tableau.surfaces) {
    const material = packer.material(surface.finish, (use) => art(use, []), surface.id, surface);
    packer.addInstance(surface, cache.meshes.ofShape(surface.shape), [material]);
  }
  for (const instance of tableau.instances) {
    const model = models.get(instance.model);
    const parts = instance.parts.filter((p) => model && p.index < model.meshes.length);
    if (!model || parts.length === 0) continue;
    const slots = (of: readonly ShownPart[]): number[] =>
      of.map((p) => packer.material(p.finish, (use) => art(use, model.images), instance.model));
    // Parts that keep their shape and place go together; each other one is an instance of the same thing.
    const fixed = parts.filter((p) => !p.place && !p.shape);
    if (fixed.length > 0)
      packer.addInstance(instance, cache.meshes.ofModel(instance.model, fixed, model.meshes), slots(fixed));
    for (const part of parts) {
      if (!part.place && !part.shape) continue;
      const mesh = part.shape ? packDeforming(part.shape) : cache.meshes.ofModel(instance.model, [part], model.meshes);
      packer.addInstance(placedPart(instance, part.place), mesh, slots([part]));
    }
  }
  for (const swarm of tableau.swarms) {
    const looks = swarm.looks.map(({ key, model = '', parts }) => ({
      mesh: cache.meshes.ofMeshes(key, parts),
      slots: Uint16Array.from(parts, ({ finish }) =>
        packer.material(finish, (use) => art(use, models.get(model)?.images ?? []), model || swarm.id),
      ),
    }));
    packer.addSwarm(swarm, looks);
  }
  return packer.finish(tableau, panoramas);
}

/** Small things of a swarm are seen by everything. */
const ALL_RAYS = RAY.camera | RAY.reflection | RAY.shadow | RAY.lighting;

class Packer {
  private readonly pool: TexturePool;
  private readonly materials: number[][] = [];
  private readonly byFinish = new Map<Finish, number>();
  /** Each mesh by its number. */
  private readonly meshes = new Map<PackedMesh, number>();
  private readonly instances: PackedInstance[] = [];
  private readonly things: string[] = [];
  private readonly finishes: string[] = [];
  private readonly brushed: number[] = [];
  private readonly glowing: GlowingPart[] = [];
  private readonly clay: Finish | null;

  constructor(
    cache: PackCache,
    clay: boolean,
    private readonly view: Tableau['view'],
  ) {
    this.pool = new TexturePool(cache.textures);
    this.clay = clay ? clayFinish() : null;
  }

  /** Number of a finish; surfaces have their own even where they share one. */
  material(finish: Finish, images: ImageLookup, key: string, surface?: Parameters<typeof packMaterial>[6]): number {
    const known = this.byFinish.get(finish);
    if (known !== undefined) return known;
    if (!this.finishes.includes(finish.name)) this.finishes.push(finish.name);
    const number = this.finishes.indexOf(finish.name);
    const row = packMaterial(this.clay ?? finish, images, key, this.pool, number, this.view, surface);
    const strength = row[MATERIAL.anisotropy];
    if (strength > 0 && !this.brushed.includes(strength)) this.brushed.push(strength);
    row[MATERIAL.brushed] = this.brushed.indexOf(strength);
    this.materials.push(row);
    this.byFinish.set(finish, this.materials.length - 1);
    return this.materials.length - 1;
  }

  /** Number of a thing in the id passes: all its instances have the same. */
  private thingNumber(id: string): number {
    const known = this.things.indexOf(id);
    return known >= 0 ? known : this.things.push(id) - 1;
  }

  addInstance(
    thing: { id: string; matrix: Mat4; close?: Mat4; before?: Mat4; rayVisibility: RayVisibility },
    mesh: PackedMesh,
    slots: number[],
  ): void {
    if (!this.meshes.has(mesh)) this.meshes.set(mesh, this.meshes.size);
    const open = rowsOf(thing.matrix);
    this.instances.push({
      kind: 'mesh',
      index: this.meshes.get(mesh)!,
      mask: maskOf(thing.rayVisibility),
      thing: this.thingNumber(thing.id),
      slots: Uint16Array.from(slots),
      open,
      close: thing.close ? rowsOf(thing.close) : null,
      before: thing.before ? rowsOf(thing.before) : open,
      lights: null,
    });
    const emission = slots.map((m): [number, number, number] | null => {
      const at = MATERIAL.emission;
      const light = this.materials[m].slice(at, at + 3) as [number, number, number];
      return Math.max(...light) > 0 ? light : null;
    });
    if (emission.some(Boolean)) this.glowing.push({ instance: this.instances.length - 1, mesh, emission });
  }

  /** An instance for each of a swarm, all of them the same thing. */
  addSwarm(
    { id, count, look, matrices, close, before }: TableauSwarm,
    looks: ReadonlyArray<{ mesh: PackedMesh; slots: Uint16Array }>,
  ): void {
    for (const { mesh } of looks) if (!this.meshes.has(mesh)) this.meshes.set(mesh, this.meshes.size);
    const thing = this.thingNumber(id);
    for (let i = 0; i < count; i++) {
      const { mesh, slots } = looks[look[i]];
      const rows = (of: Float32Array): Float32Array => of.subarray(i * 12, i * 12 + 12);
      const open = rows(matrices);
      this.instances.push({
        ...{ kind: 'mesh', index: this.meshes.get(mesh)!, mask: ALL_RAYS, thing, slots, open, lights: null },
        close: close ? rows(close) : null,
        before: before ? rows(before) : open,
      });
    }
  }

  finish(tableau: Tableau, panoramas?: Panoramas): PackedScene {
    const { lights } = tableau;
    const packed = packLights(lights, this.things, this.glowing, this.instances, this.pool);
    lightOrder(lights).forEach((light, index) => {
      if (light.kind === 'point' || light.kind === 'sun') return;
      const open = rowsOf(identity());
      this.instances.push({
        kind: 'light',
        index,
        mask: (light.seen ? RAY.camera : 0) | RAY.reflection | RAY.lighting,
        thing: -1,
        slots: new Uint16Array(0),
        open,
        close: light.close ? open : null,
        before: open,
        lights: null,
      });
    });
    const { camera } = tableau;
    const volumes = tableau.volumes.map((volume) => packVolume(this.clay ? greyVolume(volume) : volume));
    const meshes = [...this.meshes.keys()];
    return {
      meshes,
      instances: this.instances,
      materials: Float32Array.from(this.materials.flat()),
      ...packed,
      ...this.pool.pack(),
      room: packRoom(tableau, panoramas),
      camera: packCamera(tableau),
      volumes,
      things: this.things,
      finishes: this.finishes,
      lightPasses: [...lights.map((l) => l.id), ROOM_PASS, GLOW_PASS],
      moving:
        Boolean(camera.close) ||
        this.instances.some((i) => i.close) ||
        meshes.some((mesh) => mesh.close) ||
        volumes.some(({ ways }) => ways.length > 0),
      brushed: this.brushed,
      seed: tableau.seed,
    };
  }
}

/** Smoke without colours of its own. */
function greyVolume(volume: TableauVolume): TableauVolume {
  return { ...volume, colour: [0.8, 0.8, 0.8], grid: volume.grid && { ...volume.grid, colours: undefined } };
}

/** A part with a place of its own as an instance: its place in the model, then the model's in the world, at each time. */
function placedPart(instance: TableauInstance, place?: PartPlace): TableauInstance {
  if (!place) return instance;
  const at = (time: 'close' | 'before'): Mat4 | undefined =>
    instance[time] || place[time]
      ? multiply(instance[time] ?? instance.matrix, place[time] ?? place.matrix)
      : undefined;
  return { ...instance, matrix: multiply(instance.matrix, place.matrix), close: at('close'), before: at('before') };
}

function maskOf({ camera, reflections, shadows, lighting }: RayVisibility): number {
  return (
    (camera ? RAY.camera : 0) |
    (reflections ? RAY.reflection : 0) |
    (shadows ? RAY.shadow : 0) |
    (lighting ? RAY.lighting : 0)
  );
}

function packCamera({ camera }: Tableau): Float32Array {
  const out = new Float32Array(CAMERA.size);
  const columns = (m: Mat4): number[] => [0, 4, 8, 12].flatMap((c) => m.slice(c, c + 3));
  out.set(columns(camera.matrix), CAMERA.open);
  out.set(columns(camera.close ?? camera.matrix), CAMERA.close);
  out.set(columns(camera.before ?? camera.matrix), CAMERA.before);
  out[CAMERA.tangent] = tan(camera.verticalFov / 2);
  out[CAMERA.tangentBefore] = tan((camera.fovBefore ?? camera.verticalFov) / 2);
  out[CAMERA.aspect] = camera.aspect;
  out[CAMERA.aperture] = camera.apertureRadius;
  out[CAMERA.focus] = camera.focusDistance;
  out[CAMERA.blades] = camera.blades;
  out.set(camera.shift, CAMERA.shiftX);
  return out;
}
