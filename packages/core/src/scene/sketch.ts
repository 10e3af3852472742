import { inverse, multiply, type Mat4, type Mesh, type Vec3 } from '../geometry/index.ts';
import { hypot, tan } from '../maths/index.ts';
import { surfaceTraits, meshOfShape } from './place/surface.ts';
import type { Tableau, TableauLight } from './tableau.ts';

/** A small drawing of a tableau: sRGB with alpha, rows from the top. */
export interface Sketch {
  width: number;
  height: number;
  pixels: Uint8ClampedArray<ArrayBuffer>;
}

export interface SketchOptions {
  /** Meshes of a model by its key. */
  meshes: (model: string) => readonly Mesh[] | undefined;
  width: number;
  height: number;
  /** What all lights together are when they are full; see lightPower(). */
  power: number;
}

interface Lamp {
  at: Vec3;
  share: number;
}

/** Share of light that comes from nowhere, so that shapes are seen in the dark. */
const AMBIENT = 0.3;
const NEAR = 0.01;
const FLOOR = 66;
const BACK = 40;

/** All that the lights of a tableau give, to measure later frames by. */
export function lightPower(tableau: Tableau): number {
  return tableau.lights.reduce((sum, light) => sum + powerOf(light), 0);
}

function powerOf({ radiance, width, height, kind }: TableauLight): number {
  const luminance = 0.2126 * radiance[0] + 0.7152 * radiance[1] + 0.0722 * radiance[2];
  return luminance * (kind === 'point' || kind === 'sun' ? 1 : width * height);
}

/**
 * Draws a tableau without a graphics card, in a few milliseconds: flat-shaded triangles with a depth buffer, lit by its lights
 * as points, with a shadow straight below. For thumbnails; it knows no pictures, glass or mirrors.
 */
export function sketch(tableau: Tableau, options: SketchOptions): Sketch {
  const { width, height, meshes, power } = options;
  const canvas = new Canvas(width, height, tableau);
  canvas.ground();
  const lamps = tableau.lights.map((light): Lamp => ({
    at: [light.matrix[12], light.matrix[13], light.matrix[14]],
    share: power > 0 ? powerOf(light) / power : 0,
  }));
  const bodies = tableau.instances
    .filter((i) => i.rayVisibility.camera)
    .flatMap(({ model, matrix, parts }) =>
      parts.flatMap(({ index, finish, shell, place, shape }) => {
        const mesh = shape?.mesh ?? shell ?? meshes(model)?.[index];
        return mesh
          ? [{ mesh, matrix: place ? multiply(matrix, place.matrix) : matrix, colour: finish.baseColor }]
          : [];
      }),
    );
  for (const body of bodies) canvas.shadow(body.mesh, body.matrix);
  for (const body of bodies) canvas.body(body.mesh, body.matrix, body.colour, lamps);
  for (const { shape, matrix, finish, rayVisibility } of tableau.surfaces)
    if (!surfaceTraits(shape).backdrop && rayVisibility.camera)
      canvas.body(meshOfShape(shape), matrix, finish.baseColor, lamps);
  return { width, height, pixels: canvas.pixels };
}

/** Values are square roots of light, near enough to sRGB for a thumbnail. */
class Canvas {
  readonly pixels: Uint8ClampedArray<ArrayBuffer>;
  private readonly depth: Float32Array;
  private readonly view: Mat4;
  private readonly focal: number;
  private readonly eye: Vec3;
  private points = new Float32Array(0);
  private world = new Float32Array(0);

  constructor(
    private readonly width: number,
    private readonly height: number,
    private readonly tableau: Tableau,
  ) {
    this.pixels = new Uint8ClampedArray(width * height * 4);
    this.depth = new Float32Array(width * height).fill(Infinity);
    this.view = inverse(tableau.camera.matrix);
    this.eye = tableau.camera.position;
    // The whole height of the camera's picture is kept, whatever the shape of the thumbnail.
    this.focal = height / 2 / tan(tableau.camera.verticalFov / 2);
  }

  /** The floor below the horizon, the wall above it. */
  ground(): void {
    const { width, height, pixels, tableau, focal } = this;
    const m = tableau.camera.matrix;
    for (let y = 0; y < height; y++) {
      const up = (height / 2 - y - 0.5) / focal + tableau.camera.shift[1] * (height / 2 / focal);
      const rise = m[5] * up - m[9];
      const value = rise < 0 ? FLOOR : BACK + 14 * Math.max(0, 1 - rise * 4);
      for (let x = 0; x < width; x++) pixels.set([value, value, value, 255], (y * width + x) * 4);
    }
  }

  /** Darkens the floor under a mesh, the less the higher it is. */
  shadow(mesh: Mesh, matrix: Mat4): void {
    let lowest = Infinity;
    const { positions } = mesh;
    for (let v = 0; v < positions.length; v += 3)
      lowest = Math.min(lowest, matrix[1] * positions[v] + matrix[5] * positions[v + 1] + matrix[9] * positions[v + 2]);
    lowest += matrix[13];
    if (lowest < -0.02) return;
    const flat = matrix.map((value, i) => (i % 4 === 1 ? 0 : value));
    this.project(mesh, flat);
    const dark = Math.round(FLOOR * (0.4 + 0.55 * Math.min(1, lowest / 0.25)));
    for (let t = 0; t < mesh.indices.length; t += 3) this.fill(mesh, t, [dark, dark, dark], false);
  }

  body(mesh: Mesh, matrix: Mat4, colour: readonly number[], lamps: readonly Lamp[]): void {
    this.project(mesh, matrix);
    const { indices, positions } = mesh;
    const world = this.placed(positions, matrix);
    const shade = [0, 0, 0];
    for (let t = 0; t < indices.length; t += 3) {
      if (!this.inPicture(indices, t)) continue;
      const light = this.lightOn(world, indices[t] * 3, indices[t + 1] * 3, indices[t + 2] * 3, lamps);
      for (let c = 0; c < 3; c++) shade[c] = 255 * Math.sqrt(Math.min(1, (0.15 + 0.85 * colour[c]) * light));
      this.fill(mesh, t, shade, true);
    }
  }

  private placed(positions: Float32Array, m: Mat4): Float32Array {
    if (this.world.length < positions.length) this.world = new Float32Array(positions.length);
    const w = this.world;
    for (let v = 0; v < positions.length; v += 3) {
      const [x, y, z] = [positions[v], positions[v + 1], positions[v + 2]];
      w[v] = m[0] * x + m[4] * y + m[8] * z + m[12];
      w[v + 1] = m[1] * x + m[5] * y + m[9] * z + m[13];
      w[v + 2] = m[2] * x + m[6] * y + m[10] * z + m[14];
    }
    return w;
  }

  /** Whether a triangle holds the middle of a pixel, as far as its box tells: most of a fine mesh's do not. */
  private inPicture(indices: Uint32Array, t: number): boolean {
    const p = this.points;
    const [i, j, k] = [indices[t] * 3, indices[t + 1] * 3, indices[t + 2] * 3];
    const from = Math.ceil(Math.min(p[i], p[j], p[k]) - 0.5);
    const top = Math.ceil(Math.min(p[i + 1], p[j + 1], p[k + 1]) - 0.5);
    return from <= Math.max(p[i], p[j], p[k]) - 0.5 && top <= Math.max(p[i + 1], p[j + 1], p[k + 1]) - 0.5;
  }

  /** Light on a triangle from both sides, 0..1. @param a, b, c where its corners lie in `w`. */
  private lightOn(w: Float32Array, a: number, b: number, c: number, lamps: readonly Lamp[]): number {
    const [x, y, z] = [w[a], w[a + 1], w[a + 2]];
    const [ux, uy, uz] = [w[b] - x, w[b + 1] - y, w[b + 2] - z];
    const [vx, vy, vz] = [w[c] - x, w[c + 1] - y, w[c + 2] - z];
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const size = hypot(nx, ny, nz);
    if (size === 0) return 0;
    const toEye = nx * (this.eye[0] - x) + ny * (this.eye[1] - y) + nz * (this.eye[2] - z);
    const side = (toEye < 0 ? -1 : 1) / size;
    let sum = AMBIENT * (0.85 + 0.15 * ny * side);
    for (const { at, share } of lamps) {
      const [dx, dy, dz] = [at[0] - x, at[1] - y, at[2] - z];
      const facing = ((nx * dx + ny * dy + nz * dz) * side) / (hypot(dx, dy, dz) || 1);
      if (facing > 0) sum += 0.9 * share * facing;
    }
    return Math.min(1, sum);
  }

  /** Places of a mesh's vertices in the picture, with their depths. */
  private project({ positions }: Mesh, matrix: Mat4): void {
    const m = multiply(this.view, matrix);
    const [cx, cy] = [this.width / 2, this.height / 2];
    const [sx, sy] = this.tableau.camera.shift;
    if (this.points.length < positions.length) this.points = new Float32Array(positions.length);
    const p = this.points;
    for (let v = 0; v < positions.length; v += 3) {
      const [x, y, z] = [positions[v], positions[v + 1], positions[v + 2]];
      const deep = -(m[2] * x + m[6] * y + m[10] * z + m[14]);
      const scale = deep > NEAR ? this.focal / deep : 0;
      p[v] = cx + (m[0] * x + m[4] * y + m[8] * z + m[12]) * scale - sx * cx;
      p[v + 1] = cy - (m[1] * x + m[5] * y + m[9] * z + m[13]) * scale + sy * cy;
      p[v + 2] = deep;
    }
  }

  /** Fills a triangle; one that reaches behind the camera is left out. */
  private fill({ indices }: Mesh, t: number, shade: readonly number[], solid: boolean): void {
    const { points: p, depth, pixels, width, height } = this;
    const [i, j, k] = [indices[t] * 3, indices[t + 1] * 3, indices[t + 2] * 3];
    if (p[i + 2] <= NEAR || p[j + 2] <= NEAR || p[k + 2] <= NEAR) return;
    const [ax, ay, bx, by, cx, cy] = [p[i], p[i + 1], p[j], p[j + 1], p[k], p[k + 1]];
    const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
    if (area === 0) return;
    const x0 = Math.max(0, Math.ceil(Math.min(ax, bx, cx) - 0.5));
    const x1 = Math.min(width - 1, Math.floor(Math.max(ax, bx, cx) - 0.5));
    const y0 = Math.max(0, Math.ceil(Math.min(ay, by, cy) - 0.5));
    const y1 = Math.min(height - 1, Math.floor(Math.max(ay, by, cy) - 0.5));
    for (let y = y0; y <= y1; y++)
      for (let x = x0; x <= x1; x++) {
        const [px, py] = [x + 0.5, y + 0.5];
        const u = ((px - ax) * (cy - ay) - (cx - ax) * (py - ay)) / area;
        const v = ((bx - ax) * (py - ay) - (px - ax) * (by - ay)) / area;
        if (u < 0 || v < 0 || u + v > 1) continue;
        const at = y * width + x;
        const deep = p[i + 2] + u * (p[j + 2] - p[i + 2]) + v * (p[k + 2] - p[i + 2]);
        if (solid) {
          if (deep >= depth[at]) continue;
          depth[at] = deep;
        } else if (pixels[at * 4] <= shade[0]) continue;
        pixels[at * 4] = shade[0];
        pixels[at * 4 + 1] = shade[1];
        pixels[at * 4 + 2] = shade[2];
      }
  }
}
