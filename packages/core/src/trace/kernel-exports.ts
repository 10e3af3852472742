/** What the kernel module exports; addresses are bytes. */
export interface KernelExports {
  scratchBytes(lightPasses: number): number;
  tableBytes(): number;
  workBytes(count: number): number;
  fillTables(tables: number, room: number): void;
  fillSheen(tables: number): void;
  fillGlass(tables: number, room: number): void;
  brushedBytes(): number;
  fillBrushed(table: number, strength: number, room: number): void;
  planMesh(mesh: number, start: number): number;
  emitMesh(mesh: number, start: number, out: number, target: number): number;
  buildInstances(scene: number, room: number, start: number, out: number, first: number, count: number): number;
  bandBytes(stride: number, rows: number, patch: number, offsets: number, channels: number): number;
  filterBand(filter: number, y0: number, y1: number, room: number): void;
  makePoints(out: number, first: number, count: number, seed: number): void;
  begin(scene: number, job: number, scratch: number): void;
  traceTiles(job: number, scratch: number, limit: number): number;
  castRays(scratch: number, rays: number, out: number, count: number): void;
  raysCast(scratch: number): number;
  evaluateLobes(scratch: number, instance: number, triangle: number, from: number, count: number, out: number): void;
  sampleLobes(scratch: number, instance: number, triangle: number, from: number, count: number, out: number): void;
  evaluateGlass(
    scratch: number,
    roughness: number,
    eta: number,
    thin: boolean,
    from: number,
    count: number,
    out: number,
  ): void;
  sampleGlass(
    scratch: number,
    roughness: number,
    eta: number,
    thin: boolean,
    from: number,
    count: number,
    out: number,
  ): void;
  sampleLight(scratch: number, room: boolean, from: number, count: number, out: number): void;
}

/** The kernel with the memory it was instantiated on. Core has no host objects, so each host does that for it. */
export interface KernelInstance {
  memory: { readonly buffer: ArrayBufferLike; grow(pages: number): number };
  exports: unknown;
}

/** What another thread needs to help with a picture: its own instance on the same memory, and these addresses. */
export interface Share {
  job: number;
  scratch: number;
}

/** Traces tiles of a picture that another thread's tracer began, until there are none left. */
export function helpTrace(instance: KernelInstance, { job, scratch }: Share): void {
  (instance.exports as KernelExports).traceTiles(job, scratch, 0x7fffffff);
}
