import {
  at,
  FLAG_DEFORMS,
  FLAG_MOVING,
  I_FLAGS,
  I_MESH,
  I_SLOTS,
  I_THING,
  instance,
  M_ALPHA,
  M_ANISOTROPY,
  M_ANISOTROPY_ROTATION,
  M_BASE_TEXTURE,
  M_CLEARCOAT,
  M_CLEARCOAT_TEXTURE,
  M_EMISSION,
  M_EMISSIVE_TEXTURE,
  M_METALLIC,
  M_NORMAL_STRENGTH,
  M_NORMAL_TEXTURE,
  M_ORM_TEXTURE,
  M_ROUGHNESS,
  M_TEXTURED,
  M_TRANSMISSION,
  M_TRANSMISSION_TEXTURE,
  material,
  Mesh,
  Scene,
  SHADING_BYTES,
  word,
} from './scene';
import { sampleTexture } from './texture';
import { IN_LIST } from './triangles';
import { placeAt } from './placement';

/** The surface at a hit, with everything its textures say, in world space. */
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
  /** Tangent along which a brushed finish shines least; only set when anisotropy is. */
  tx: f64;
  ty: f64;
  tz: f64;
  r: f64;
  g: f64;
  b: f64;
  alpha: f64;
  metallic: f64;
  roughness: f64;
  transmission: f64;
  coat: f64;
  anisotropy: f64;
  /** Nothing but the material says what the finish is here. */
  plain: bool;
  er: f64;
  eg: f64;
  eb: f64;
  /** The last texture sample. */
  t0: f64;
  t1: f64;
  t2: f64;
  t3: f64;
  /** Width of the ray here over the root of triangle's world area per uv area. */
  coverage: f64;
  /** The instance whose place lies at `place`: 12 doubles thing to world, 12 world to thing. */
  placed: i32;
  place: usize;
  /** Nine f32: a listed triangle of a mesh that deforms, as it is when it is looked at. */
  listed: usize;
  material: i32;
  thing: i32;
  number: i32;
  triangle: i32;
  /** Its line of the mesh's shading. */
  record: usize;
  corner: usize;
  step: usize;
  u: f64;
  v: f64;
  time: f64;

  /**
   * Fills the fields for a hit.
   * @param corner where the triangle's nine numbers begin, @param step from one to the next: IN_PACKET or IN_LIST.
   * @param width of the ray there, metres, for filtering textures; 0: none.
   */
  at(number: i32, triangle: i32, corner: usize, step: usize, u: f64, v: f64, time: f64, width: f64): void {
    const scene = this.scene;
    const it = instance(scene, number);
    const mesh = changetype<Mesh>(<usize>word(it, I_MESH));
    const record = mesh.shading + <usize>triangle * SHADING_BYTES;
    const w = 1.0 - u - v;
    this.number = number;
    this.triangle = triangle;
    this.record = record;
    this.corner = corner;
    this.step = step;
    this.u = u;
    this.v = v;
    this.time = time;
    const ax = this.edge(3);
    const ay = this.edge(4);
    const az = this.edge(5);
    const bx = this.edge(6);
    const by = this.edge(7);
    const bz = this.edge(8);
    const lx = this.edge(0) + ax * u + bx * v;
    const ly = this.edge(1) + ay * u + by * v;
    const lz = this.edge(2) + az * u + bz * v;
    const gx = ay * bz - az * by;
    const gy = az * bx - ax * bz;
    const gz = ax * by - ay * bx;
    let nx = at(record, 0) * w + at(record, 3) * u + at(record, 6) * v;
    let ny = at(record, 1) * w + at(record, 4) * u + at(record, 7) * v;
    let nz = at(record, 2) * w + at(record, 5) * u + at(record, 8) * v;
    if (word(it, I_FLAGS) & FLAG_DEFORMS) {
      const close = mesh.closeNormals + <usize>triangle * 36;
      nx += (at(close, 0) * w + at(close, 3) * u + at(close, 6) * v - nx) * time;
      ny += (at(close, 1) * w + at(close, 4) * u + at(close, 7) * v - ny) * time;
      nz += (at(close, 2) * w + at(close, 5) * u + at(close, 8) * v - nz) * time;
    }
    if (nx * nx + ny * ny + nz * nz < 1e-12) {
      nx = gx;
      ny = gy;
      nz = gz;
    }
    if (number != this.placed || (word(it, I_FLAGS) & FLAG_MOVING) != 0) {
      this.placed = number;
      placeAt(it, time, this.place);
    }
    this.x = this.forward(0, lx, ly, lz) + this.element(3);
    this.y = this.forward(4, lx, ly, lz) + this.element(7);
    this.z = this.forward(8, lx, ly, lz) + this.element(11);
    // Normals go by the inverse transposed, so that stretched and mirrored things keep theirs.
    const wx = this.normal(0, gx, gy, gz);
    const wy = this.normal(1, gx, gy, gz);
    const wz = this.normal(2, gx, gy, gz);
    const gl = 1.0 / Math.max(1e-300, Math.sqrt(wx * wx + wy * wy + wz * wz));
    this.gx = wx * gl;
    this.gy = wy * gl;
    this.gz = wz * gl;
    const sx = this.normal(0, nx, ny, nz);
    const sy = this.normal(1, nx, ny, nz);
    const sz = this.normal(2, nx, ny, nz);
    const nl = 1.0 / Math.max(1e-300, Math.sqrt(sx * sx + sy * sy + sz * sz));
    this.nx = sx * nl;
    this.ny = sy * nl;
    this.nz = sz * nl;
    const slot = <usize>load<u32>(record, 60);
    const m = <i32>load<u16>(<usize>word(it, I_SLOTS) + (slot << 1));
    this.material = m;
    this.thing = word(it, I_THING);
    this.r = material(scene, m, 0);
    this.g = material(scene, m, 1);
    this.b = material(scene, m, 2);
    this.alpha = material(scene, m, M_ALPHA);
    this.metallic = material(scene, m, M_METALLIC);
    this.roughness = material(scene, m, M_ROUGHNESS);
    this.transmission = material(scene, m, M_TRANSMISSION);
    this.coat = material(scene, m, M_CLEARCOAT);
    this.anisotropy = material(scene, m, M_ANISOTROPY);
    this.er = material(scene, m, M_EMISSION);
    this.eg = material(scene, m, M_EMISSION + 1);
    this.eb = material(scene, m, M_EMISSION + 2);
    if (mesh.colors != 0) {
      const colors = mesh.colors;
      const c = triangle * 12;
      this.r *= at(colors, c) * w + at(colors, c + 4) * u + at(colors, c + 8) * v;
      this.g *= at(colors, c + 1) * w + at(colors, c + 5) * u + at(colors, c + 9) * v;
      this.b *= at(colors, c + 2) * w + at(colors, c + 6) * u + at(colors, c + 10) * v;
      this.alpha *= at(colors, c + 3) * w + at(colors, c + 7) * u + at(colors, c + 11) * v;
    }
    const textured = material(scene, m, M_TEXTURED) != 0;
    this.plain = !textured && mesh.colors == 0;
    if (textured || this.anisotropy > 0) this.lookUp(m, textured, width, w, u, v, gx, gy, gz);
  }

  /** The same for a triangle that no ray has met. */
  atListed(number: i32, triangle: i32, u: f64, v: f64, time: f64): void {
    const mesh = changetype<Mesh>(<usize>word(instance(this.scene, number), I_MESH));
    const offset = <usize>triangle * 36;
    let corner = mesh.triangles + offset;
    if (mesh.closeTriangles != 0) {
      const close = mesh.closeTriangles + offset;
      for (let k = 0; k < 9; k++) {
        const from = at(corner, k);
        store<f32>(this.listed + ((<usize>k) << 2), <f32>(from + (at(close, k) - from) * time));
      }
      corner = this.listed;
    }
    this.at(number, triangle, corner, IN_LIST, u, v, time, 0);
  }

  /** Number `k` of the triangle: 0..2 first vertex, 3..5 edge to the second, 6..8 edge to the third. */
  // @ts-ignore: decorator
  @inline
  edge(k: usize): f64 {
    return <f64>load<f32>(this.corner + (k << this.step));
  }

  // @ts-ignore: decorator
  @inline
  element(k: i32): f64 {
    return load<f64>(this.place + ((<usize>k) << 3));
  }

  // @ts-ignore: decorator
  @inline
  forward(k: i32, x: f64, y: f64, z: f64): f64 {
    return this.element(k) * x + this.element(k + 1) * y + this.element(k + 2) * z;
  }

  // @ts-ignore: decorator
  @inline
  normal(k: i32, x: f64, y: f64, z: f64): f64 {
    return this.element(12 + k) * x + this.element(16 + k) * y + this.element(20 + k) * z;
  }

  lookUp(m: i32, textured: bool, width: f64, w: f64, u: f64, v: f64, gx: f64, gy: f64, gz: f64): void {
    const scene = this.scene;
    const uvs = this.record;
    const q = 9;
    const du1 = at(uvs, q + 2) - at(uvs, q);
    const dv1 = at(uvs, q + 3) - at(uvs, q + 1);
    const du2 = at(uvs, q + 4) - at(uvs, q);
    const dv2 = at(uvs, q + 5) - at(uvs, q + 1);
    const det = du1 * dv2 - du2 * dv1;
    if (this.anisotropy > 0 || (textured && material(scene, m, M_NORMAL_TEXTURE) >= 0)) {
      const bad = Math.abs(det) < 1e-14;
      // Where uvs say nothing the first edge is as good a direction as any.
      const a1 = bad ? 1.0 : dv2 / det;
      const a2 = bad ? 0.0 : dv1 / det;
      const ex = this.edge(3) * a1 - this.edge(6) * a2;
      const ey = this.edge(4) * a1 - this.edge(7) * a2;
      const ez = this.edge(5) * a1 - this.edge(8) * a2;
      this.tx = this.forward(0, ex, ey, ez);
      this.ty = this.forward(4, ex, ey, ez);
      this.tz = this.forward(8, ex, ey, ez);
    }
    if (textured) {
      const s = at(uvs, q) * w + at(uvs, q + 2) * u + at(uvs, q + 4) * v;
      const t = at(uvs, q + 1) * w + at(uvs, q + 3) * u + at(uvs, q + 5) * v;
      if (width > 0) {
        // World area: the local one times how much the transform stretches its normal direction's plane.
        const volume = this.determinant();
        const nx = this.normal(0, gx, gy, gz);
        const ny = this.normal(1, gx, gy, gz);
        const nz = this.normal(2, gx, gy, gz);
        const area = Math.sqrt(nx * nx + ny * ny + nz * nz) * Math.abs(volume);
        this.coverage = area > 0 ? width * Math.sqrt(Math.abs(det) / area) : 0.0;
      } else this.coverage = 0;
      this.textures(m, s, t, det);
    }
    if (this.anisotropy > 0) this.turnTangent(material(scene, m, M_ANISOTROPY_ROTATION), det);
  }

  determinant(): f64 {
    const a = this.element(0);
    const b = this.element(1);
    const c = this.element(2);
    const d = this.element(4);
    const e = this.element(5);
    const f = this.element(6);
    const g = this.element(8);
    const h = this.element(9);
    const i = this.element(10);
    return a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  }

  textures(m: i32, s: f64, t: f64, det: f64): void {
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
    const coat = material(scene, m, M_CLEARCOAT_TEXTURE);
    if (coat >= 0) {
      this.sample(<i32>coat, s, t);
      this.coat *= this.t0;
    }
    const emissive = material(scene, m, M_EMISSIVE_TEXTURE);
    if (emissive >= 0) {
      this.sample(<i32>emissive, s, t);
      this.er *= this.t0;
      this.eg *= this.t1;
      this.eb *= this.t2;
    }
    const normal = material(scene, m, M_NORMAL_TEXTURE);
    if (normal >= 0 && Math.abs(det) >= 1e-14) {
      this.sample(<i32>normal, s, t);
      const strength = material(scene, m, M_NORMAL_STRENGTH);
      this.bend(det, (this.t0 * 2 - 1) * strength, (this.t1 * 2 - 1) * strength, this.t2 * 2 - 1);
    }
  }

  // @ts-ignore: decorator
  @inline
  sample(texture: i32, s: f64, t: f64): void {
    sampleTexture(this.scene, texture, s, t, this.coverage, changetype<usize>(this) + offsetof<Surface>('t0'));
  }

  /** Makes the tangent perpendicular to the shading normal and of length one. */
  squareTangent(): void {
    const d = this.tx * this.nx + this.ty * this.ny + this.tz * this.nz;
    this.tx -= this.nx * d;
    this.ty -= this.ny * d;
    this.tz -= this.nz * d;
    const l = 1.0 / Math.max(1e-300, Math.sqrt(this.tx * this.tx + this.ty * this.ty + this.tz * this.tz));
    this.tx *= l;
    this.ty *= l;
    this.tz *= l;
  }

  /** Tilts the shading normal by a tangent-space one. */
  bend(det: f64, tx: f64, ty: f64, tz: f64): void {
    this.squareTangent();
    // v points down in glTF images, so the bitangent's sign follows the uv winding.
    const h = det < 0 ? 1.0 : -1.0;
    const bx = (this.ny * this.tz - this.nz * this.ty) * h;
    const by = (this.nz * this.tx - this.nx * this.tz) * h;
    const bz = (this.nx * this.ty - this.ny * this.tx) * h;
    const x = this.tx * tx + bx * ty + this.nx * tz;
    const y = this.ty * tx + by * ty + this.ny * tz;
    const z = this.tz * tx + bz * ty + this.nz * tz;
    const n = 1.0 / Math.max(1e-300, Math.sqrt(x * x + y * y + z * z));
    this.nx = x * n;
    this.ny = y * n;
    this.nz = z * n;
  }

  /** Turns the tangent round the normal, counter-clockwise in uv space (KHR_materials_anisotropy). */
  turnTangent(angle: f64, det: f64): void {
    this.squareTangent();
    const h = det < 0 ? 1.0 : -1.0;
    const c = Math.cos(angle);
    const s = Math.sin(angle) * h;
    const bx = this.ny * this.tz - this.nz * this.ty;
    const by = this.nz * this.tx - this.nx * this.tz;
    const bz = this.nx * this.ty - this.ny * this.tx;
    this.tx = this.tx * c + bx * s;
    this.ty = this.ty * c + by * s;
    this.tz = this.tz * c + bz * s;
  }
}
