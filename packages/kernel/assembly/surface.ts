import {
  at,
  M_ALPHA,
  M_BASE_TEXTURE,
  M_EMISSION,
  M_EMISSIVE_TEXTURE,
  M_METALLIC,
  M_NORMAL_STRENGTH,
  M_NORMAL_TEXTURE,
  M_ORM_TEXTURE,
  M_ROUGHNESS,
  M_TRANSMISSION,
  M_TRANSMISSION_TEXTURE,
  material,
  Scene,
  TEXTURE_STRIDE,
} from './scene';

const WRAP_MIRROR: i32 = 1;
const WRAP_CLAMP: i32 = 2;

/** The surface at a hit, as core's trace/surface.ts has it. */
@unmanaged
export class Surface {
  scene: Scene;
  x: f64;
  y: f64;
  z: f64;
  /** Geometric normal, on the side the triangle faces. */
  gx: f64;
  gy: f64;
  gz: f64;
  /** Shading normal, same side. */
  nx: f64;
  ny: f64;
  nz: f64;
  r: f64;
  g: f64;
  b: f64;
  alpha: f64;
  metallic: f64;
  roughness: f64;
  transmission: f64;
  er: f64;
  eg: f64;
  eb: f64;
  /** The last texture sample. */
  t0: f64;
  t1: f64;
  t2: f64;
  t3: f64;
  material: i32;

  /** Fills the fields for a hit on `triangle` at barycentrics (u, v). */
  at(triangle: i32, u: f64, v: f64): void {
    const scene = this.scene;
    const tri = scene.triangles;
    const normals = scene.normals;
    const uvs = scene.uvs;
    const colors = scene.colors;
    const p = triangle * 9;
    const w = 1.0 - u - v;
    this.x = at(tri, p) + at(tri, p + 3) * u + at(tri, p + 6) * v;
    this.y = at(tri, p + 1) + at(tri, p + 4) * u + at(tri, p + 7) * v;
    this.z = at(tri, p + 2) + at(tri, p + 5) * u + at(tri, p + 8) * v;
    const gx = at(tri, p + 4) * at(tri, p + 8) - at(tri, p + 5) * at(tri, p + 7);
    const gy = at(tri, p + 5) * at(tri, p + 6) - at(tri, p + 3) * at(tri, p + 8);
    const gz = at(tri, p + 3) * at(tri, p + 7) - at(tri, p + 4) * at(tri, p + 6);
    const area = Math.sqrt(gx * gx + gy * gy + gz * gz);
    const gl = area > 0 ? 1.0 / area : 1.0;
    this.gx = gx * gl;
    this.gy = gy * gl;
    this.gz = gz * gl;
    let nx = at(normals, p) * w + at(normals, p + 3) * u + at(normals, p + 6) * v;
    let ny = at(normals, p + 1) * w + at(normals, p + 4) * u + at(normals, p + 7) * v;
    let nz = at(normals, p + 2) * w + at(normals, p + 5) * u + at(normals, p + 8) * v;
    let nl = Math.sqrt(nx * nx + ny * ny + nz * nz);
    if (nl < 1e-9) {
      nx = this.gx;
      ny = this.gy;
      nz = this.gz;
      nl = 1;
    }
    this.nx = nx / nl;
    this.ny = ny / nl;
    this.nz = nz / nl;
    this.material = <i32>load<u16>(scene.triangleMaterial + (<usize>triangle << 1));
    const m = this.material;
    this.r = material(scene, m, 0);
    this.g = material(scene, m, 1);
    this.b = material(scene, m, 2);
    this.alpha = material(scene, m, M_ALPHA);
    this.metallic = material(scene, m, M_METALLIC);
    this.roughness = material(scene, m, M_ROUGHNESS);
    this.transmission = material(scene, m, M_TRANSMISSION);
    this.er = material(scene, m, M_EMISSION);
    this.eg = material(scene, m, M_EMISSION + 1);
    this.eb = material(scene, m, M_EMISSION + 2);
    if (colors != 0) {
      const c = triangle * 12;
      this.r *= at(colors, c) * w + at(colors, c + 4) * u + at(colors, c + 8) * v;
      this.g *= at(colors, c + 1) * w + at(colors, c + 5) * u + at(colors, c + 9) * v;
      this.b *= at(colors, c + 2) * w + at(colors, c + 6) * u + at(colors, c + 10) * v;
      this.alpha *= at(colors, c + 3) * w + at(colors, c + 7) * u + at(colors, c + 11) * v;
    }
    this.lookUp(
      m,
      triangle,
      at(uvs, triangle * 6) * w + at(uvs, triangle * 6 + 2) * u + at(uvs, triangle * 6 + 4) * v,
      at(uvs, triangle * 6 + 1) * w + at(uvs, triangle * 6 + 3) * u + at(uvs, triangle * 6 + 5) * v,
    );
  }

  lookUp(m: i32, triangle: i32, s: f64, t: f64): void {
    const scene = this.scene;
    const base = material(scene, m, M_BASE_TEXTURE);
    if (base >= 0) {
      this.sample(<i32>base, s, t);
      this.r *= this.t0;
      this.g *= this.t1;
      this.b *= this.t2;
      this.alpha *= this.t3;
    }
    const orm = material(scene, m, M_ORM_TEXTURE);
    if (orm >= 0) {
      this.sample(<i32>orm, s, t);
      this.roughness *= this.t1;
      this.metallic *= this.t2;
    }
    const transmission = material(scene, m, M_TRANSMISSION_TEXTURE);
    if (transmission >= 0) {
      this.sample(<i32>transmission, s, t);
      this.transmission *= this.t0;
    }
    const emissive = material(scene, m, M_EMISSIVE_TEXTURE);
    if (emissive >= 0) {
      this.sample(<i32>emissive, s, t);
      this.er *= this.t0;
      this.eg *= this.t1;
      this.eb *= this.t2;
    }
    const normal = material(scene, m, M_NORMAL_TEXTURE);
    if (normal >= 0) {
      this.sample(<i32>normal, s, t);
      this.bend(
        triangle,
        (this.t0 * 2 - 1) * material(scene, m, M_NORMAL_STRENGTH),
        (this.t1 * 2 - 1) * material(scene, m, M_NORMAL_STRENGTH),
        this.t2 * 2 - 1,
      );
    }
  }

  /** Tilts the shading normal by a tangent-space one; the tangent comes from the triangle's uv gradient. */
  bend(triangle: i32, tx: f64, ty: f64, tz: f64): void {
    const tri = this.scene.triangles;
    const uvs = this.scene.uvs;
    const p = triangle * 9;
    const q = triangle * 6;
    const du1 = at(uvs, q + 2) - at(uvs, q);
    const dv1 = at(uvs, q + 3) - at(uvs, q + 1);
    const du2 = at(uvs, q + 4) - at(uvs, q);
    const dv2 = at(uvs, q + 5) - at(uvs, q + 1);
    const det = du1 * dv2 - du2 * dv1;
    if (Math.abs(det) < 1e-14) return;
    let ax = (at(tri, p + 3) * dv2 - at(tri, p + 6) * dv1) / det;
    let ay = (at(tri, p + 4) * dv2 - at(tri, p + 7) * dv1) / det;
    let az = (at(tri, p + 5) * dv2 - at(tri, p + 8) * dv1) / det;
    const d = ax * this.nx + ay * this.ny + az * this.nz;
    ax -= this.nx * d;
    ay -= this.ny * d;
    az -= this.nz * d;
    const l = Math.max(1e-30, Math.sqrt(ax * ax + ay * ay + az * az));
    ax /= l;
    ay /= l;
    az /= l;
    // v points down in glTF images, so the bitangent's sign follows the uv winding.
    const h = det < 0 ? 1.0 : -1.0;
    const bx = (this.ny * az - this.nz * ay) * h;
    const by = (this.nz * ax - this.nx * az) * h;
    const bz = (this.nx * ay - this.ny * ax) * h;
    const x = ax * tx + bx * ty + this.nx * tz;
    const y = ay * tx + by * ty + this.ny * tz;
    const z = az * tx + bz * ty + this.nz * tz;
    const n = Math.max(1e-30, Math.sqrt(x * x + y * y + z * z));
    this.nx = x / n;
    this.ny = y / n;
    this.nz = z / n;
  }

  /** Bilinear lookup into t0..t3. */
  sample(texture: i32, s: f64, t: f64): void {
    const e = this.scene.textures + <usize>(texture * TEXTURE_STRIDE) * 4;
    const texels = this.scene.texels + <usize>load<i32>(e);
    const width = load<i32>(e, 4);
    const height = load<i32>(e, 8);
    const wrapU = load<i32>(e, 12);
    const wrapV = load<i32>(e, 16);
    const srgb = load<i32>(e, 20) != 0;
    const x = (<f64>load<f32>(e, 24) * s + <f64>load<f32>(e, 28) * t + <f64>load<f32>(e, 32)) * <f64>width - 0.5;
    const y = (<f64>load<f32>(e, 36) * s + <f64>load<f32>(e, 40) * t + <f64>load<f32>(e, 44)) * <f64>height - 0.5;
    const x0 = Math.floor(x);
    const y0 = Math.floor(y);
    const fx = x - x0;
    const fy = y - y0;
    const xa = wrapped(<i32>x0, width, wrapU);
    const xb = wrapped(<i32>x0 + 1, width, wrapU);
    const ya = wrapped(<i32>y0, height, wrapV) * width;
    const yb = wrapped(<i32>y0 + 1, height, wrapV) * width;
    const p00 = texels + <usize>((ya + xa) << 2);
    const p10 = texels + <usize>((ya + xb) << 2);
    const p01 = texels + <usize>((yb + xa) << 2);
    const p11 = texels + <usize>((yb + xb) << 2);
    const w00 = (1.0 - fx) * (1.0 - fy);
    const w10 = fx * (1.0 - fy);
    const w01 = (1.0 - fx) * fy;
    const w11 = fx * fy;
    this.t0 = this.decode(srgb, p00, 0) * w00 + this.decode(srgb, p10, 0) * w10 + this.decode(srgb, p01, 0) * w01 + this.decode(srgb, p11, 0) * w11;
    this.t1 = this.decode(srgb, p00, 1) * w00 + this.decode(srgb, p10, 1) * w10 + this.decode(srgb, p01, 1) * w01 + this.decode(srgb, p11, 1) * w11;
    this.t2 = this.decode(srgb, p00, 2) * w00 + this.decode(srgb, p10, 2) * w10 + this.decode(srgb, p01, 2) * w01 + this.decode(srgb, p11, 2) * w11;
    this.t3 = this.decode(false, p00, 3) * w00 + this.decode(false, p10, 3) * w10 + this.decode(false, p01, 3) * w01 + this.decode(false, p11, 3) * w11;
  }

  // @ts-ignore: decorator
  @inline
  decode(srgb: bool, pixel: usize, channel: usize): f64 {
    const byte = <i32>load<u8>(pixel + channel);
    return srgb ? at(this.scene.srgb, byte) : <f64>byte / 255.0;
  }
}

function wrapped(i: i32, size: i32, mode: i32): i32 {
  if (mode == WRAP_CLAMP) return i < 0 ? 0 : i >= size ? size - 1 : i;
  if (mode == WRAP_MIRROR) {
    const n = ((i % (2 * size)) + 2 * size) % (2 * size);
    return n < size ? n : 2 * size - 1 - n;
  }
  return ((i % size) + size) % size;
}
