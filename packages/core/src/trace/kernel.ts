import { cos, pow, sin } from '../maths/index.ts';
import { srgbToLinear } from '../finish/index.ts';
import { blueNoisePairs } from './blue-noise.ts';
import { denoiseSteps, type Denoised } from './denoise.ts';
import type { KernelExports, KernelInstance, Share } from './kernel-exports.ts';
import { KernelMemory } from './kernel-memory.ts';
import {
  BASIC_PLANES,
  INSTANCE,
  INSTANCE_FLAG,
  JOB_WORDS,
  LIGHT,
  LIGHT_NODE,
  PLANES,
  SCENE_FLOATS,
  SCENE_WORDS,
  TILE,
  VOLUME_STRIDE,
  type PackedInstance,
  type PackedMesh,
  type PackedScene,
} from './layout.ts';
import { filterPlaces } from './pixel-filter.ts';
import { tablesFor } from './pack-materials.ts';
import { invertRows } from './matrix-rows.ts';
import { frameSeed, type DetailPasses, type Passes, type TraceOptions } from './passes.ts';

const SRGB = Float32Array.from({ length: 256 }, (_, i) => srgbToLinear(i / 255));
/** The kernel's Mesh, and where in it a mesh that deforms says so. */
const MESH_BYTES = 80;
const MESH_CLOSING = 52;
/** A triangle's normals, uvs and slot, as the kernel's Mesh has them. */
const SHADING_BYTES = 64;
/** Bytes for the kernel to work in while it prepares a scene. */
const WORK_BYTES = 256;
/** Pairs of sample points that the kernel keeps for each sample (PAIRS in its sampler.ts). */
const PAIRS = 96;
const IDENTITY = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];
/** When what is kept of earlier scenes grows beyond this, it is let go. */
const KEEP_BYTES = 192 * pow(2, 20);

/** What rays met: -1 for nothing. */
export interface RayHits {
  t: Float32Array;
  instance: Int32Array;
  triangle: Int32Array;
}

/** A picture under way. */
export interface TraceJob {
  /** Tiles in all. */
  tiles: number;
  /** Traces up to `limit` tiles; false when none are left. */
  run(limit: number): boolean;
  /** What another thread needs to help: pass it to helpTrace() there. */
  share(thread: number): Share;
  cancel(): void;
  /** The passes, once every thread is done. */
  finish(): Passes;
}

/**
 * The path tracer: WebAssembly with SIMD. One tracer holds one scene at a time in the memory of its instance. Meshes and
 * textures that the next scene has too stay where they are: a frame in which things only move costs its top level.
 */
export class KernelTracer {
  private readonly memory: KernelMemory;
  private readonly kernel: KernelExports;
  private readonly work: number;
  private readonly fixed: Record<string, number>;
  private readonly base: number;
  /** Whether the tables of sheen and of rough glass are filled: most scenes need neither. */
  private readonly filled = { sheen: false, glass: false };
  /** Tables of brushed finishes by strength. */
  private brushes = new Map<number, number>();
  /** Addresses of meshes and texels by the object they came from. */
  private kept = new Map<object, number>();
  private keptEnd: number;
  private header = 0;
  private scratch: number[] = [];
  private scene: PackedScene | null = null;
  private words: Record<string, number> = {};
  /** Where the scene ends: pictures lie behind it and are written over by the next. */
  private loaded = 0;
  /** Milliseconds that the last load() took for meshes and for the top level. */
  readonly timing = { meshes: 0, top: 0 };

  /** @param threads that may work on one picture, each with its own instance on the same memory. */
  constructor(
    instance: KernelInstance,
    private readonly threads = 1,
    private readonly now: () => number = () => 0,
  ) {
    this.memory = new KernelMemory(instance.memory);
    this.kernel = instance.exports as KernelExports;
    this.work = this.memory.reserve(WORK_BYTES);
    const tables = this.memory.reserve(this.kernel.tableBytes());
    this.kernel.fillTables(tables, this.work);
    this.fixed = {
      tables,
      srgb: this.memory.store(SRGB),
      blueNoise: this.memory.store(blueNoisePairs()),
      pixelFilter: this.memory.store(filterPlaces()),
    };
    this.base = this.keptEnd = this.memory.top;
  }

  /** Takes a scene in the place of the one before. */
  load(scene: PackedScene): this {
    const { memory } = this;
    this.scene = scene;
    const started = this.now();
    const wanted: object[] = [...scene.meshes, scene.texels];
    const stale = [...this.kept.keys()].some((k) => !wanted.includes(k));
    if (stale && this.keptEnd - this.base > KEEP_BYTES) {
      this.kept.clear();
      this.brushes.clear();
      this.keptEnd = this.base;
    }
    memory.top = this.keptEnd;
    const lasting = scene.meshes.map((mesh) => (deforms(mesh) ? 0 : this.keep(mesh, () => this.storeMesh(mesh))));
    const texels = this.keep(scene.texels, () => memory.store(scene.texels));
    this.fillTables(scene.materials);
    const brushes = scene.brushed.map((strength) => this.brushTable(strength));
    this.keptEnd = memory.top;
    // What deforms is another mesh in every frame: it goes with the scene.
    const meshes = scene.meshes.map((mesh, i) => lasting[i] || this.storeMesh(mesh));
    this.timing.meshes = this.now() - started;
    const { room, tree } = scene;
    this.header = memory.reserve(SCENE_WORDS.length * 4);
    this.words = {
      ...this.fixed,
      instances: this.storeInstances(scene.instances, meshes),
      instanceCount: scene.instances.length,
      solidCount: scene.instances.filter((i) => i.kind === 'mesh').length,
      materials: memory.store(scene.materials),
      textures: memory.store(scene.textures),
      texels,
      lights: memory.store(scene.lights),
      lightCount: scene.lights.length / LIGHT.stride,
      tree: memory.store(tree.nodes),
      treeNodes: tree.nodes.length / LIGHT_NODE.stride,
      sunCount: scene.sunCount,
      trails: memory.store(tree.trails),
      links: memory.store(scene.links),
      thingCount: scene.things.length,
      environment: memory.store(room.cells),
      environmentAlias: memory.store(room.alias),
      environmentWidth: room.width,
      environmentHeight: room.height,
      environmentSum: room.sum,
      environmentCos: cos(room.rotation),
      environmentSin: sin(room.rotation),
      environmentSeen: room.seen ? 1 : 0,
      camera: memory.store(scene.camera),
      brushed: memory.store(Uint32Array.from(brushes)),
      volumes: this.storeVolumes(scene),
      volumeCount: scene.volumes.length,
      lightPasses: scene.lightPasses.length,
      moving: scene.moving ? 1 : 0,
    };
    this.buildTop();
    this.scratch = Array.from({ length: this.threads }, () =>
      memory.reserve(this.kernel.scratchBytes(scene.lightPasses.length)),
    );
    this.loaded = memory.top;
    return this;
  }

  /** Bytes of memory the scene and its results take. */
  get bytes(): number {
    return this.memory.top;
  }

  /** Builds the top level anew, as every frame in which something moves must. */
  buildTop(): void {
    const { memory, kernel, words } = this;
    const started = this.now();
    const [all, solid] = [words.instanceCount ?? 0, words.solidCount ?? 0];
    // Two children a node at least: there are fewer nodes than instances.
    words.nodes ??= memory.reserve(Math.max(1, solid) * 128);
    words.lightNodes ??= memory.reserve(Math.max(1, all - solid) * 128);
    memory.words(this.header, SCENE_WORDS, words, SCENE_FLOATS);
    const back = memory.top;
    const build = (first: number, count: number, out: number): void => {
      if (count === 0) return;
      kernel.buildInstances(this.header, this.work, memory.reserve(kernel.workBytes(count)), out, first, count);
      memory.top = back;
    };
    build(0, solid, words.nodes);
    build(solid, all - solid, words.lightNodes);
    this.timing.top = this.now() - started;
  }

  /** Traces one picture on this thread. @returns null when `onTiles`, told the share done, says false. */
  traceFrame(options: TraceOptions & { onTiles?: (share: number) => boolean | void }): Passes | null {
    const job = this.begin(options);
    const step = options.onTiles ? Math.max(1, Math.round(job.tiles / 64)) : job.tiles;
    for (let done = step; job.run(step); done += step) {
      if (options.onTiles?.(Math.min(1, done / job.tiles)) === false) return null;
    }
    return job.finish();
  }

  /** Starts a picture. Only one can be under way; load() and another begin() end it. */
  begin(options: TraceOptions): TraceJob {
    if (!this.scene) throw new Error('The tracer holds no scene yet: load() one first.');
    const { memory, kernel, scene } = this;
    const { width, height, samples, adapt, features = 0, firstSample = 0, limits, frame, detail = false } = options;
    const region = options.region ?? { x0: 0, y0: 0, x1: width, y1: height };
    const [w, h] = [region.x1 - region.x0, region.y1 - region.y0];
    const most = Math.max(samples, adapt?.most ?? samples);
    const seed = frameSeed(scene.seed, frame);
    memory.top = this.loaded;
    const channels = [
      ...PLANES.slice(0, detail ? undefined : BASIC_PLANES).map(([, c]) => c),
      ...(detail ? scene.lightPasses.map(() => 3) : []),
    ];
    const planes = channels.map((c) => memory.reserve(w * h * c * 4));
    const rows = Math.max(most, features);
    const points = memory.reserve(rows * PAIRS * 8);
    const words = {
      ...{ width, height, ...region, first: firstSample, samples, most, features, target: adapt?.target ?? 0 },
      ...{ seed, points, detail: detail ? 1 : 0, planes: memory.store(Uint32Array.from(planes)) },
    };
    const job = memory.reserve(JOB_WORDS.length * 4);
    memory.words(job, JOB_WORDS, words, ['target']);
    Object.assign(this.words, { ...limits });
    memory.words(this.header, SCENE_WORDS, this.words, SCENE_FLOATS);
    kernel.makePoints(points, firstSample, rows, seed);
    this.scratch.forEach((scratch) => kernel.begin(this.header, job, scratch));
    const view = (plane: number): Float32Array => memory.floats(planes[plane], w * h * channels[plane]);
    return {
      tiles: Math.ceil(w / TILE) * Math.ceil(h / TILE),
      run: (limit) => kernel.traceTiles(job, this.scratch[0], limit) === limit,
      share: (thread) => ({ job, scratch: this.scratch[thread] }),
      cancel: () => Atomics.store(new Int32Array(memory.buffer, job, 2), 1, 1),
      finish: () => ({
        width: w,
        height: h,
        samples,
        beauty: view(0),
        variance: view(1),
        alpha: view(2),
        albedo: view(3),
        normal: view(4),
        depth: view(5),
        sampleCount: view(6),
        pairedAlbedo: view(7),
        pairedNormal: view(8),
        pairedDepth: view(9),
        detail: detail ? readDetail(view, channels.length) : null,
      }),
    };
  }

  /** Takes the noise out of a picture; see denoiseSteps(). Ends a picture that is under way. */
  denoise(passes: Passes, lights: readonly Float32Array[] = []): Denoised {
    const steps = this.denoiseSteps(passes, lights);
    for (;;) {
      const { done, value } = steps.next();
      if (done) return value;
    }
  }

  denoiseSteps(passes: Passes, lights: readonly Float32Array[] = []): Generator<void, Denoised> {
    this.memory.top = Math.max(this.keptEnd, this.loaded);
    return denoiseSteps(this.memory, this.kernel, passes, lights);
  }

  /** Nearest hits of rays (8 floats each: origin, direction, near, far). */
  castRays(rays: Float32Array): RayHits {
    return this.placeRays(rays)();
  }

  /** Puts rays where the kernel finds them; what is returned casts them, until the tracer is used for anything else. */
  placeRays(rays: Float32Array): () => RayHits {
    const { memory, kernel } = this;
    const count = rays.length / 8;
    memory.top = this.loaded;
    const from = memory.store(rays);
    const out = memory.reserve(count * 12);
    const job = memory.reserve(JOB_WORDS.length * 4);
    memory.words(job, JOB_WORDS, {}, []);
    return () => {
      kernel.begin(this.header, job, this.scratch[0]);
      kernel.castRays(this.scratch[0], from, out, count);
      return {
        t: new Float32Array(memory.buffer, out, count).slice(),
        instance: new Int32Array(memory.buffer, out + count * 4, count).slice(),
        triangle: new Int32Array(memory.buffer, out + count * 8, count).slice(),
      };
    };
  }

  /**
   * Calls one of the kernel's probes for tests: `input` (doubles) goes in, `perItem` doubles for each of `count` items
   * come out.
   */
  probe(
    call: (kernel: KernelExports, scratch: number, input: number, out: number) => void,
    input: readonly number[],
    count: number,
    perItem: number,
  ): Float64Array {
    const { memory, kernel } = this;
    memory.top = this.loaded;
    const from = memory.store(Float64Array.from(input));
    const out = memory.reserve(count * perItem * 8);
    const job = memory.reserve(JOB_WORDS.length * 4);
    memory.words(job, JOB_WORDS, {}, []);
    kernel.begin(this.header, job, this.scratch[0]);
    call(kernel, this.scratch[0], from, out);
    return Float64Array.from(new Float64Array(memory.buffer, out, count * perItem));
  }

  /** Rays cast by this thread since the last picture began. */
  get rays(): number {
    return this.kernel.raysCast(this.scratch[0]) >>> 0;
  }

  private fillTables(materials: Float32Array): void {
    const { sheen, glass } = tablesFor(materials);
    if (sheen && !this.filled.sheen) this.kernel.fillSheen(this.fixed.tables);
    if (glass && !this.filled.glass) this.kernel.fillGlass(this.fixed.tables, this.work);
    this.filled.sheen ||= sheen;
    this.filled.glass ||= glass;
  }

  private brushTable(strength: number): number {
    const known = this.brushes.get(strength);
    if (known !== undefined) return known;
    const table = this.memory.reserve(this.kernel.brushedBytes());
    this.kernel.fillBrushed(table, strength, this.work);
    this.brushes.set(strength, table);
    return table;
  }

  private keep(thing: object, store: () => number): number {
    const address = this.kept.get(thing) ?? store();
    this.kept.set(thing, address);
    return address;
  }

  /** Stores a mesh and builds its tree behind it. @returns the address of the kernel's Mesh. */
  private storeMesh(mesh: PackedMesh): number {
    const { memory, kernel } = this;
    const header = memory.reserve(MESH_BYTES);
    const { triangles, normals, uvs, colors, slots, count } = mesh;
    const listed = memory.store(triangles);
    const shading = memory.reserve(count * SHADING_BYTES);
    const floats = new Float32Array(memory.buffer, shading, count * 16);
    const ints = new Uint32Array(memory.buffer, shading, count * 16);
    for (let t = 0; t < count; t++) {
      for (let k = 0; k < 9; k++) floats[t * 16 + k] = normals[t * 9 + k];
      for (let k = 0; k < 6; k++) floats[t * 16 + 9 + k] = uvs[t * 6 + k];
      ints[t * 16 + 15] = slots[t];
    }
    const coloured = colors.length > 0 ? memory.store(colors) : 0;
    const slotted = memory.store(slots);
    const closeTriangles = mesh.close ? memory.store(mesh.close.triangles) : 0;
    const closeNormals = mesh.close ? memory.store(mesh.close.normals) : 0;
    const before = mesh.before ? memory.store(mesh.before) : 0;
    // The last vertex is read as a vector of four.
    memory.reserve(16);
    new Uint32Array(memory.buffer, header, 7).set([0, 0, listed, shading, coloured, slotted, count]);
    new Uint32Array(memory.buffer, header + MESH_CLOSING, 4).set([0, closeTriangles, closeNormals, before]);
    const target = memory.top;
    const work = memory.reserve(kernel.workBytes(count));
    const most = kernel.planMesh(header, work);
    const out = memory.reserve(most);
    const bytes = kernel.emitMesh(header, work, out, target);
    memory.top = target;
    memory.reserve(bytes);
    return header;
  }

  private storeInstances(instances: readonly PackedInstance[], meshes: readonly number[]): number {
    const { memory } = this;
    const stride = INSTANCE.stride;
    const table = memory.reserve(instances.length * stride * 4);
    // Things of a swarm share theirs.
    const stored = new Map<Uint16Array, number>();
    instances.forEach((instance, i) => {
      const slots = stored.get(instance.slots) ?? memory.store(instance.slots);
      stored.set(instance.slots, slots);
      const lights = instance.lights ? memory.store(instance.lights) : 0;
      const ints = new Int32Array(memory.buffer, table + i * stride * 4, stride);
      const floats = new Float32Array(memory.buffer, table + i * stride * 4, stride);
      const plain = !instance.close && IDENTITY.every((v, k) => v === instance.open[k]);
      ints[INSTANCE.kind] = instance.kind === 'mesh' ? 0 : 1;
      ints[INSTANCE.mesh] = instance.kind === 'mesh' ? meshes[instance.index] : instance.index;
      ints[INSTANCE.mask] = instance.mask;
      const bends = instance.kind === 'mesh' && Boolean(this.scene?.meshes[instance.index].close);
      ints[INSTANCE.flags] =
        (instance.close ? INSTANCE_FLAG.moving : 0) |
        (plain ? INSTANCE_FLAG.identity : 0) |
        (bends ? INSTANCE_FLAG.deforms : 0);
      ints[INSTANCE.slots] = slots;
      ints[INSTANCE.thing] = instance.thing;
      ints[INSTANCE.lights] = lights;
      const inverse = invertRows(instance.open);
      floats.set(inverse, INSTANCE.inverse);
      for (let k = 0; k < 12; k++) floats[INSTANCE.columns + (k % 4) * 4 + (k >> 2)] = inverse[k];
      floats.set(instance.open, INSTANCE.open);
      floats.set(instance.close ?? instance.open, INSTANCE.close);
      floats.set(instance.before, INSTANCE.before);
    });
    return table;
  }

  private storeVolumes({ volumes }: PackedScene): number {
    const { memory } = this;
    const table = memory.reserve(volumes.length * VOLUME_STRIDE * 4);
    volumes.forEach(({ header, size, density, coarseSize, bounds, colours, waySize, ways }, i) => {
      const [grid, coarse] = [memory.store(density), memory.store(bounds)];
      const [tints, moves] = [colours, fours(ways)].map((list) => (list.length > 0 ? memory.store(list) : 0));
      new Float32Array(memory.buffer, table + i * VOLUME_STRIDE * 4, 17).set(header);
      new Int32Array(memory.buffer, table + i * VOLUME_STRIDE * 4 + 68, 13).set([
        ...size,
        grid,
        coarse,
        ...coarseSize,
        ...[tints, moves, ...waySize],
      ]);
    });
    return table;
  }
}

/** Threes of floats, each with an unused one after it. */
function fours(threes: Float32Array): Float32Array {
  const out = new Float32Array((threes.length / 3) * 4);
  for (let n = 0; n < threes.length / 3; n++) out.set(threes.subarray(n * 3, n * 3 + 3), n * 4);
  return out;
}

/** Whether a mesh changes its shape from frame to frame. */
function deforms({ close, before }: PackedMesh): boolean {
  return Boolean(close ?? before);
}

function readDetail(view: (plane: number) => Float32Array, planes: number): DetailPasses {
  const named = PLANES.slice(BASIC_PLANES).map(([name], i) => [name, view(BASIC_PLANES + i)]);
  const lights = Array.from({ length: planes - PLANES.length }, (_, i) => view(PLANES.length + i));
  return { ...Object.fromEntries(named), lights } as DetailPasses;
}
