import { MATERIAL, TEXTURE, type PackedScene } from './layout.ts';
import { srgbToLinear } from '@tender-orbit/core/finish';

const SRGB = Float32Array.from({ length: 256 }, (_, i) => srgbToLinear(i / 255));
const LINEAR = Float32Array.from({ length: 256 }, (_, i) => i / 255);

/** The surface at a hit: geometry, shading frame and finish values with their textures looked up. */
export class Surface {
  x = 0;
  y = 0;
  z = 0;
  /** Geometric normal, on the side the triangle faces. */
  gx = 0;
  gy = 0;
  gz = 0;
  /** Shading normal, same side. */
  nx = 0;
  ny = 0;
  nz = 0;
  material = 0;
  thing = 0;
  r = 0;
  g = 0;
  b = 0;
  alpha = 1;
  metallic = 0;
  roughness = 0;
  transmission = 0;
  er = 0;
  eg = 0;
  eb = 0;

  private readonly scene: PackedScene;
  private readonly uvBits: Float32Array;
  private readonly texel = new Float64Array(4);

  constructor(scene: PackedScene) {
    this.scene = scene;
    this.uvBits = new Float32Array(scene.textures.buffer, scene.textures.byteOffset, scene.textures.length);
  }

  /** Fills the fields for a hit on `triangle` at barycentrics (u, v). */
  at(triangle: number, u: number, v: number): void {
    const { triangles: tri, normals, uvs, colors, materials, triangleMaterial, triangleThing } = this.scene;
    const p = triangle * 9;
    const w = 1 - u - v;
    this.x = tri[p] + tri[p + 3] * u + tri[p + 6] * v;
    this.y = tri[p + 1] + tri[p + 4] * u + tri[p + 7] * v;
    this.z = tri[p + 2] + tri[p + 5] * u + tri[p + 8] * v;
    const gx = tri[p + 4] * tri[p + 8] - tri[p + 5] * tri[p + 7];
    const gy = tri[p + 5] * tri[p + 6] - tri[p + 3] * tri[p + 8];
    const gz = tri[p + 3] * tri[p + 7] - tri[p + 4] * tri[p + 6];
    const gl = 1 / (Math.sqrt(gx * gx + gy * gy + gz * gz) || 1);
    this.gx = gx * gl;
    this.gy = gy * gl;
    this.gz = gz * gl;
    let nx = normals[p] * w + normals[p + 3] * u + normals[p + 6] * v;
    let ny = normals[p + 1] * w + normals[p + 4] * u + normals[p + 7] * v;
    let nz = normals[p + 2] * w + normals[p + 5] * u + normals[p + 8] * v;
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
    this.material = triangleMaterial[triangle];
    this.thing = triangleThing[triangle];
    const m = this.material * MATERIAL.stride;
    this.r = materials[m];
    this.g = materials[m + 1];
    this.b = materials[m + 2];
    this.alpha = materials[m + MATERIAL.alpha];
    this.metallic = materials[m + MATERIAL.metallic];
    this.roughness = materials[m + MATERIAL.roughness];
    this.transmission = materials[m + MATERIAL.transmission];
    this.er = materials[m + MATERIAL.emission];
    this.eg = materials[m + MATERIAL.emission + 1];
    this.eb = materials[m + MATERIAL.emission + 2];
    if (colors.length > 0) {
      const c = triangle * 12;
      this.r *= colors[c] * w + colors[c + 4] * u + colors[c + 8] * v;
      this.g *= colors[c + 1] * w + colors[c + 5] * u + colors[c + 9] * v;
      this.b *= colors[c + 2] * w + colors[c + 6] * u + colors[c + 10] * v;
      this.alpha *= colors[c + 3] * w + colors[c + 7] * u + colors[c + 11] * v;
    }
    this.lookUp(
      m,
      triangle,
      uvs[triangle * 6] * w + uvs[triangle * 6 + 2] * u + uvs[triangle * 6 + 4] * v,
      uvs[triangle * 6 + 1] * w + uvs[triangle * 6 + 3] * u + uvs[triangle * 6 + 5] * v,
    );
  }

  private lookUp(m: number, triangle: number, s: number, t: number): void {
    const { materials } = this.scene;
    const texel = this.texel;
    const base = materials[m + MATERIAL.baseTexture];
    if (base >= 0) {
      this.sample(base, s, t);
      this.r *= texel[0];
      this.g *= texel[1];
      this.b *= texel[2];
      this.alpha *= texel[3];
    }
    const orm = materials[m + MATERIAL.ormTexture];
    if (orm >= 0) {
      this.sample(orm, s, t);
      this.roughness *= texel[1];
      this.metallic *= texel[2];
    }
    const transmission = materials[m + MATERIAL.transmissionTexture];
    if (transmission >= 0) {
      this.sample(transmission, s, t);
      this.transmission *= texel[0];
    }
    const emissive = materials[m + MATERIAL.emissiveTexture];
    if (emissive >= 0) {
      this.sample(emissive, s, t);
      this.er *= texel[0];
      this.eg *= texel[1];
      this.eb *= texel[2];
    }
    const normal = materials[m + MATERIAL.normalTexture];
    if (normal >= 0) {
      this.sample(normal, s, t);
      this.bend(
        triangle,
        (texel[0] * 2 - 1) * materials[m + MATERIAL.normalStrength],
        (texel[1] * 2 - 1) * materials[m + MATERIAL.normalStrength],
        texel[2] * 2 - 1,
      );
    }
  }

  /** Tilts the shading normal by a tangent-space one; the tangent comes from the triangle's uv gradient. */
  private bend(triangle: number, tx: number, ty: number, tz: number): void {
    const { triangles: tri, uvs } = this.scene;
    const p = triangle * 9;
    const q = triangle * 6;
    const du1 = uvs[q + 2] - uvs[q];
    const dv1 = uvs[q + 3] - uvs[q + 1];
    const du2 = uvs[q + 4] - uvs[q];
    const dv2 = uvs[q + 5] - uvs[q + 1];
    const det = du1 * dv2 - du2 * dv1;
    if (Math.abs(det) < 1e-14) return;
    let ax = (tri[p + 3] * dv2 - tri[p + 6] * dv1) / det;
    let ay = (tri[p + 4] * dv2 - tri[p + 7] * dv1) / det;
    let az = (tri[p + 5] * dv2 - tri[p + 8] * dv1) / det;
    const d = ax * this.nx + ay * this.ny + az * this.nz;
    ax -= this.nx * d;
    ay -= this.ny * d;
    az -= this.nz * d;
    const l = Math.sqrt(ax * ax + ay * ay + az * az) || 1;
    ax /= l;
    ay /= l;
    az /= l;
    // v points down in glTF images, so the bitangent's sign follows the uv winding.
    const h = det < 0 ? 1 : -1;
    const bx = (this.ny * az - this.nz * ay) * h;
    const by = (this.nz * ax - this.nx * az) * h;
    const bz = (this.nx * ay - this.ny * ax) * h;
    const x = ax * tx + bx * ty + this.nx * tz;
    const y = ay * tx + by * ty + this.ny * tz;
    const z = az * tx + bz * ty + this.nz * tz;
    const n = Math.sqrt(x * x + y * y + z * z) || 1;
    this.nx = x / n;
    this.ny = y / n;
    this.nz = z / n;
  }

  /** Bilinear lookup into `texel`. */
  private sample(texture: number, s: number, t: number): void {
    const { textures, texels } = this.scene;
    const e = texture * TEXTURE.stride;
    const f = this.uvBits;
    const offset = textures[e];
    const width = textures[e + 1];
    const height = textures[e + 2];
    const decode = textures[e + 5] ? SRGB : LINEAR;
    const x = (f[e + 6] * s + f[e + 7] * t + f[e + 8]) * width - 0.5;
    const y = (f[e + 9] * s + f[e + 10] * t + f[e + 11]) * height - 0.5;
    const x0 = Math.floor(x);
    const y0 = Math.floor(y);
    const fx = x - x0;
    const fy = y - y0;
    const xa = wrapped(x0, width, textures[e + 3]);
    const xb = wrapped(x0 + 1, width, textures[e + 3]);
    const ya = wrapped(y0, height, textures[e + 4]) * width;
    const yb = wrapped(y0 + 1, height, textures[e + 4]) * width;
    const p00 = offset + (ya + xa) * 4;
    const p10 = offset + (ya + xb) * 4;
    const p01 = offset + (yb + xa) * 4;
    const p11 = offset + (yb + xb) * 4;
    const w00 = (1 - fx) * (1 - fy);
    const w10 = fx * (1 - fy);
    const w01 = (1 - fx) * fy;
    const w11 = fx * fy;
    for (let c = 0; c < 3; c++) {
      this.texel[c] =
        decode[texels[p00 + c]] * w00 +
        decode[texels[p10 + c]] * w10 +
        decode[texels[p01 + c]] * w01 +
        decode[texels[p11 + c]] * w11;
    }
    this.texel[3] =
      (texels[p00 + 3] * w00 + texels[p10 + 3] * w10 + texels[p01 + 3] * w01 + texels[p11 + 3] * w11) / 255;
  }
}

function wrapped(i: number, size: number, mode: number): number {
  if (mode === TEXTURE.wrapClamp) return i < 0 ? 0 : i >= size ? size - 1 : i;
  if (mode === TEXTURE.wrapMirror) {
    const n = ((i % (2 * size)) + 2 * size) % (2 * size);
    return n < size ? n : 2 * size - 1 - n;
  }
  return ((i % size) + size) % size;
}
