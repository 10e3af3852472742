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
    ...rest: [y: number, x0: number, x1: number, width: number, height: number, samples: number, ...planes: number[]]
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

/** Names of the scene header's words, in the order of the kernel's Scene class (assembly/scene.ts). */
const POINTERS = [
  'nodes',
  'packets',
  'triangles',
  'normals',
  'uvs',
  'colors',
  'triangleMaterial',
  'passes',
  'materials',
  'textures',
  'texels',
  'srgb',
  'lights',
] as const;
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

  constructor(instance: KernelInstance) {
    this.memory = instance.memory;
    this.kernel = instance.exports as KernelExports;
  }

  /** Takes a scene in the place of the one before; the memory is used again. */
  load(scene: PackedScene): this {
    this.scene = scene;
    this.top = BASE;
    this.header = this.reserve(HEADER);
    const at = this.loadArrays(scene);
    const panels = scene.lights.length / LIGHT.stride;
    this.scratch = this.reserve(this.kernel.scratchBytes(panels));
    const words = new Uint32Array(this.memory.buffer, this.header, HEADER / 4);
    words.set(POINTERS.map((name) => at[name]));
    const { environmentWidth, environmentHeight } = scene;
    words.set(
      [
        panels,
        at.environment,
        at.environmentCdf,
        environmentWidth,
        environmentHeight,
        at.camera,
        scene.triangleMaterial.length,
      ],
      POINTERS.length,
    );
    return this;
  }

  /** Bytes of memory the scene and its results take. */
  get bytes(): number {
    return this.top;
  }

  /** Traces one picture, as traceFrame() does. @returns null when stopped by `onRow`. */
  traceFrame({ width, height, samples, limits, frame, onRow }: TraceOptions): Passes | null {
    if (!this.scene) throw new Error('The tracer holds no scene yet: load() one first.');
    const { environmentRotation, seed } = this.scene;
    const before = this.top;
    const count = width * height;
    const planes = [3, 3, 3, 1, 1, 1].map((channels) => this.reserve(count * channels * 4));
    const words = new Uint32Array(this.memory.buffer, this.header, HEADER / 4);
    words.set([limits.maxDepth, limits.maxBounces], POINTERS.length + 7);
    new Float64Array(this.memory.buffer, this.header + DOUBLES, 4).set([
      Math.cos(environmentRotation),
      Math.sin(environmentRotation),
      limits.clamp,
      limits.exposureScale,
    ]);
    this.kernel.begin(this.header, this.scratch, frameSeed(seed, frame));
    for (let y = 0; y < height; y++) {
      this.kernel.traceRow(this.scratch, y, 0, width, width, height, samples, ...planes);
      if (onRow?.((y + 1) / height) === false) {
        this.top = before;
        return null;
      }
    }
    const [beauty, albedo, normal, variance, alpha, depth] = planes.map((address, i) =>
      new Float32Array(this.memory.buffer, address, count * (i < 3 ? 3 : 1)).slice(),
    );
    this.top = before;
    return { width, height, samples, beauty, albedo, normal, variance, alpha, depth };
  }

  /** Nearest hits of rays (8 floats each: origin, direction, near, far): distances and triangle numbers, -1 for none. */
  castRays(rays: Float32Array): { t: Float32Array; triangle: Int32Array } {
    const before = this.top;
    const count = rays.length / 8;
    const from = this.store(rays);
    const out = this.reserve(count * 8);
    this.kernel.begin(this.header, this.scratch, 0);
    this.kernel.castRays(this.scratch, from, out, count);
    const floats = new Float32Array(this.memory.buffer, out, count * 2);
    const ints = new Int32Array(this.memory.buffer, out, count * 2);
    this.top = before;
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

  private loadArrays(
    scene: PackedScene,
  ): Record<(typeof POINTERS)[number] | 'environment' | 'environmentCdf' | 'camera', number> {
    const wide = widenBvh(scene);
    const passes = Uint8Array.from(scene.triangleMaterial, (m) =>
      scene.materials[m * MATERIAL.stride + MATERIAL.transmission] > 0 ||
      scene.materials[m * MATERIAL.stride + MATERIAL.alphaMode] > 0
        ? 1
        : 0,
    );
    return {
      nodes: this.store(wide.nodes),
      packets: this.store(wide.packets),
      triangles: this.store(scene.triangles),
      normals: this.store(scene.normals),
      uvs: this.store(scene.uvs),
      colors: scene.colors.length > 0 ? this.store(scene.colors) : 0,
      triangleMaterial: this.store(scene.triangleMaterial),
      passes: this.store(passes),
      materials: this.store(scene.materials),
      textures: this.store(scene.textures),
      texels: this.store(scene.texels),
      srgb: this.store(SRGB),
      lights: this.store(scene.lights),
      environment: this.store(scene.environment),
      environmentCdf: this.store(scene.environmentCdf),
      camera: this.store(scene.camera),
    };
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
