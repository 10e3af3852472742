import { srgbToLinear } from '../finish/index.ts';
import { LIGHT, MATERIAL, type PackedScene } from './layout.ts';
import { frameSeed, type Passes, type TraceOptions } from './trace-frame.ts';
import { widenBvh } from './wide-bvh.ts';

/** What the kernel module exports; addresses are bytes. */
interface KernelExports {
  scratchBytes(panels: number): number;
  begin(scene: number, scratch: number, seed: number): void;
  traceRow(
    scratch: number,
    ...rest: [
      y: number,
      x0: number,
      x1: number,
      width: number,
      height: number,
      first: number,
      samples: number,
      ...planes: number[],
    ]
  ): void;
  castRays(scratch: number, rays: number, out: number, count: number): void;
  raysCast(scratch: number): number;
}

/** The kernel with a memory of its own. Core has no host objects, so each host instantiates the module for it. */
export interface KernelInstance {
  memory: { readonly buffer: ArrayBuffer; grow(pages: number): number };
  exports: unknown;
}

const PAGE = 65536;
/** The module keeps nothing of its own below this address. */
const BASE = 65536;
const ALIGN = 64;
const SRGB = Float32Array.from({ length: 256 }, (_, i) => srgbToLinear(i / 255));

/** What scenes under different lights share. */
const SHARED = [
  'nodes',
  'triangles',
  'normals',
  'uvs',
  'colors',
  'triangleMaterial',
  'materials',
  'textures',
  'texels',
] as const;
/**
 * The scene header is the kernel's Scene class (assembly/scene.ts), 32-bit words in its order: twelve addresses of
 * geometry and finishes, eight words of lights, environment and camera, then the limits.
 */
const LIMITS_WORD = 20;
/** Byte offset of the four doubles at the header's end: 22 words before them, aligned to eight. */
const DOUBLES = 88;
const HEADER = 128;

/**
 * The path tracer as WebAssembly with SIMD: the same algorithm as PathTracer, on the same packed scene, several times as
 * fast. One tracer holds one scene at a time in the memory of its instance.
 */
export class KernelTracer {
  private readonly memory: KernelInstance['memory'];
  private readonly kernel: KernelExports;
  private scene: PackedScene | null = null;
  private scratch = 0;
  private header = BASE;
  private top = BASE;
  /** Where the scene ends: pictures lie behind it and are written over by the next. */
  private loaded = BASE;
  private geometryEnd = BASE;
  private geometry: number[] = [];

  constructor(instance: KernelInstance) {
    this.memory = instance.memory;
    this.kernel = instance.exports as KernelExports;
  }

  /**
   * Takes a scene in the place of the one before; the memory is used again. Geometry and finishes that are the very
   * arrays of the one before (see relight()) stay where they are.
   */
  load(scene: PackedScene): this {
    const same = this.scene !== null && SHARED.every((name) => this.scene![name] === scene[name]);
    if (!same) {
      this.top = BASE;
      this.header = this.reserve(HEADER);
      this.geometry = this.storeGeometry(scene);
      this.geometryEnd = this.top;
    }
    this.top = this.geometryEnd;
    this.scene = scene;
    const lights = this.store(scene.lights);
    const environment = this.store(scene.environment);
    const environmentCdf = this.store(scene.environmentCdf);
    const camera = this.store(scene.camera);
    const panels = scene.lights.length / LIGHT.stride;
    this.scratch = this.reserve(this.kernel.scratchBytes(panels));
    const { environmentWidth, environmentHeight, triangleMaterial } = scene;
    const rest = [
      lights,
      panels,
      environment,
      environmentCdf,
      environmentWidth,
      environmentHeight,
      camera,
      triangleMaterial.length,
    ];
    new Uint32Array(this.memory.buffer, this.header, HEADER / 4).set([...this.geometry, ...rest]);
    this.loaded = this.top;
    return this;
  }

  /** Bytes of memory the scene and its results take. */
  get bytes(): number {
    return this.top;
  }

  /** Traces one picture, as traceFrame() does. @returns null when stopped by `onRow`. */
  traceFrame(options: TraceOptions): Passes | null {
    const rows = this.begin(options);
    for (let y = 0; y < options.height; y++) {
      rows.trace(y);
      if (options.onRow?.((y + 1) / options.height) === false) return null;
    }
    return rows.finish();
  }

  /**
   * A picture row by row, for who must listen to others in between. Only one picture can be under way; load() and
   * another begin() end it.
   */
  begin(options: Omit<TraceOptions, 'onRow'>): { trace: (y: number) => void; finish: () => Passes } {
    if (!this.scene) throw new Error('The tracer holds no scene yet: load() one first.');
    const { width, height, samples, firstSample = 0, limits, frame } = options;
    const { environmentRotation, seed } = this.scene;
    const count = width * height;
    this.top = this.loaded;
    const planes = [3, 3, 3, 1, 1, 1].map((channels) => this.reserve(count * channels * 4));
    new Uint32Array(this.memory.buffer, this.header, HEADER / 4).set([limits.maxDepth, limits.maxBounces], LIMITS_WORD);
    new Float64Array(this.memory.buffer, this.header + DOUBLES, 4).set([
      Math.cos(environmentRotation),
      Math.sin(environmentRotation),
      limits.clamp,
      limits.exposureScale,
    ]);
    this.kernel.begin(this.header, this.scratch, frameSeed(seed, frame));
    return {
      trace: (y) => this.kernel.traceRow(this.scratch, y, 0, width, width, height, firstSample, samples, ...planes),
      finish: () => {
        const [beauty, albedo, normal, variance, alpha, depth] = planes.map((address, i) =>
          new Float32Array(this.memory.buffer, address, count * (i < 3 ? 3 : 1)).slice(),
        );
        return { width, height, samples, beauty, albedo, normal, variance, alpha, depth };
      },
    };
  }

  /** Nearest hits of rays (8 floats each: origin, direction, near, far): distances and triangle numbers, -1 for none. */
  castRays(rays: Float32Array): { t: Float32Array; triangle: Int32Array } {
    const count = rays.length / 8;
    this.top = this.loaded;
    const from = this.store(rays);
    const out = this.reserve(count * 8);
    this.kernel.begin(this.header, this.scratch, 0);
    this.kernel.castRays(this.scratch, from, out, count);
    const floats = new Float32Array(this.memory.buffer, out, count * 2);
    const ints = new Int32Array(this.memory.buffer, out, count * 2);
    const t = new Float32Array(count);
    const triangle = new Int32Array(count);
    for (let i = 0; i < count; i++) {
      t[i] = floats[i * 2];
      triangle[i] = ints[i * 2 + 1];
    }
    return { t, triangle };
  }

  /** Rays cast since the last picture began. */
  get rays(): number {
    return this.kernel.raysCast(this.scratch) >>> 0;
  }

  /** Stores what moves rarely; addresses in the order of the header's first words. */
  private storeGeometry(scene: PackedScene): number[] {
    const wide = widenBvh(scene);
    const passes = Uint8Array.from(scene.triangleMaterial, (m) => {
      const at = m * MATERIAL.stride;
      return scene.materials[at + MATERIAL.transmission] > 0 || scene.materials[at + MATERIAL.alphaMode] > 0 ? 1 : 0;
    });
    const { triangles, normals, uvs, colors, triangleMaterial, materials, textures, texels } = scene;
    const before = [wide.nodes, wide.packets, triangles, normals, uvs].map((array) => this.store(array));
    const coloured = colors.length > 0 ? this.store(colors) : 0;
    const after = [triangleMaterial, passes, materials, textures, texels, SRGB].map((array) => this.store(array));
    return [...before, coloured, ...after];
  }

  private store(array: Float32Array | Int32Array | Uint16Array | Uint8Array): number {
    const address = this.reserve(array.byteLength);
    new Uint8Array(this.memory.buffer, address, array.byteLength).set(
      new Uint8Array(array.buffer, array.byteOffset, array.byteLength),
    );
    return address;
  }

  private reserve(bytes: number): number {
    const address = this.top;
    this.top = address + Math.ceil(bytes / ALIGN) * ALIGN;
    const missing = Math.ceil((this.top - this.memory.buffer.byteLength) / PAGE);
    if (missing > 0) this.memory.grow(missing);
    return address;
  }
}
