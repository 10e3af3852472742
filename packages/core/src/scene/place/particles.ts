import type { ParticlesEffect, SetProduct } from '../../document/index.ts';
import { hexToLinear, makeFinish, type Finish, type Rgb } from '../../finish/index.ts';
import { boundsOf, buildGrain, type Bounds, type Mesh, type Vec3 } from '../../geometry/index.ts';
import { tan } from '../../maths/index.ts';
import { PARTICLE, particleSize, particleTone, type SimulatedParticles } from '../particles.ts';
import type { SwarmLook, TableauCamera, TableauSwarm } from '../tableau.ts';
import { partsOf, type Body } from './product.ts';

/** Colours between an effect's two that are told apart. */
const TONES = 6;
/** Share of the picture's height from which a particle is drawn with all its triangles; flakes have fine arms. */
const NEAR = 0.012;
const NEAR_FLAKE = 0.06;
const PLATES = ['petal', 'leaf', 'flake'];

const ramp = (t: number): number => (t >= 1 ? 1 : t <= 0 ? 0 : t * t * (3 - 2 * t));

/** How far a particle has grown, or shrunk again, at its age. */
export function grown({ growing, shrinking }: ParticlesEffect, age: number, life: number): number {
  const at = age / life;
  const up = growing > 0 ? ramp(at / growing) : 1;
  const down = shrinking > 0 ? ramp((1 - at) / shrinking) : 1;
  return Math.min(up, down);
}

const looks = new Map<string, SwarmLook[]>();
const KEEP = 32;

/** What particles of an effect look like: each tone from near, then from afar. Made once for the same settings. */
function looksOf(effect: ParticlesEffect): SwarmLook[] {
  const { form, colour, otherColour, roughness, transmission } = effect;
  const key = JSON.stringify([effect.name, form, colour, otherColour, roughness, transmission]);
  let known = looks.get(key);
  if (!known) {
    if (form === 'product') return [];
    const [from, to] = [colour, otherColour].map((hex) => hexToLinear(hex) ?? ([1, 1, 1] as Rgb));
    known = Array.from({ length: TONES * 2 }, (_, i) => {
      const t = (i >> 1) / (TONES - 1);
      const finish = dressed(effect, from.map((v, a) => v + (to[a] - v) * t) as Rgb, i >> 1);
      return { key: `grain ${form} ${i & 1}`, parts: [{ mesh: buildGrain(form, (i & 1) === 0), finish }] };
    });
    if (looks.size >= KEEP) looks.delete(looks.keys().next().value!);
    looks.set(key, known);
  }
  return known;
}

function dressed({ name, form, roughness, transmission }: ParticlesEffect, baseColor: Rgb, tone: number): Finish {
  const plate = PLATES.includes(form);
  return makeFinish(`${name} ${tone + 1}`, {
    ...{ baseColor, roughness, transmission, doubleSided: plate },
    // Plates let light through; bodies bend it.
    ...(plate || transmission === 0 ? {} : { ior: form === 'ice' ? 1.31 : 1.45, thickness: 0.01 }),
  });
}

/** A product that flies: its parts, the middle of its box and the longest side of that. */
export interface FlyingProduct {
  body: Body;
  item: SetProduct;
}

const measured = new WeakMap<Mesh, Bounds>();
const numbersOf = new WeakMap<object, number>();
let last = 0;

/** A number that parts are known by while this program runs: another variant, label or finish is another row of parts. */
function numberOf(parts: object): number {
  let number = numbersOf.get(parts);
  if (number === undefined) numbersOf.set(parts, (number = ++last));
  return number;
}

/** How a product looks that flies, and what its size is measured by. */
export function productLook(
  { body, item }: FlyingProduct,
  frame: number,
): { look: SwarmLook; centre: Vec3; long: number } {
  const parts = partsOf(item, body, frame);
  const [min, max] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  for (const { index } of parts) {
    const mesh = body.meshes[index];
    const box = measured.get(mesh) ?? boundsOf([mesh]);
    measured.set(mesh, box);
    for (let a = 0; a < 3; a++) {
      min[a] = Math.min(min[a], box.min[a]);
      max[a] = Math.max(max[a], box.max[a]);
    }
  }
  const centre = min.map((v, a) => (v + max[a]) / 2) as Vec3;
  const long = Math.max(1e-6, ...max.map((v, a) => v - min[a]));
  const shown = parts.map(({ shell, index, finish }) => ({ mesh: shell ?? body.meshes[index], finish }));
  const key = `product ${body.model} ${numberOf(parts)}`;
  return { look: { key, model: body.model, parts: shown }, centre, long };
}

/** Particles as they are drawn and traced; null when none is to be seen. */
export function placeParticles(
  effect: ParticlesEffect,
  particles: SimulatedParticles,
  camera: TableauCamera,
  frame: number,
  product: FlyingProduct | null,
): TableauSwarm | null {
  const flying = effect.form === 'product' && product ? productLook(product, frame) : null;
  const all = flying ? [flying.look] : looksOf(effect);
  if (all.length === 0) return null;
  const { count, data, numbers } = particles;
  const look = new Uint8Array(count);
  const matrices = rowsAt(effect, particles, flying ?? undefined);
  const near = effect.form === 'flake' ? NEAR_FLAKE : NEAR;
  const [cx, cy, cz] = camera.position;
  const height = 2 * tan(camera.verticalFov / 2);
  if (!flying)
    for (let i = 0; i < count; i++) {
      const at = i * PARTICLE.stride;
      const [x, y, z] = [data[at] - cx, data[at + 1] - cy, data[at + 2] - cz];
      const far = Math.sqrt(x * x + y * y + z * z);
      const tone = Math.min(TONES - 1, Math.floor(particleTone(effect, numbers[i]) * TONES));
      const share = particleSize(effect, numbers[i]) / Math.max(1e-6, far * height);
      look[i] = tone * 2 + (share >= near ? 0 : 1);
    }
  const { id, name } = effect;
  // Apart from where they are, size and colour differ by what is set now.
  const own = flying?.look.key ?? '';
  const key = particles.key && `${particles.key} ${own} ${JSON.stringify(effect)} ${camera.position.join()}`;
  return { id, name, looks: all, count, look, numbers, matrices, key };
}

/** Rows of the 3 x 4 matrices to the world of each particle. */
export function rowsAt(
  effect: ParticlesEffect,
  { count, data, numbers }: SimulatedParticles,
  flying?: { centre: Vec3; long: number },
): Float32Array {
  const rows = new Float32Array(count * 12);
  const { place: P, turn: Q, age, life } = PARTICLE;
  for (let i = 0; i < count; i++) {
    const at = i * PARTICLE.stride;
    const full = particleSize(effect, numbers[i]) * grown(effect, data[at + age], data[at + life]);
    // What has no size would have no way back from the world to itself.
    const s = Math.max(1e-6, full) / (flying?.long ?? 1);
    const [x, y, z, w] = [data[at + Q], data[at + Q + 1], data[at + Q + 2], data[at + Q + 3]];
    const out = i * 12;
    rows[out] = s * (1 - 2 * (y * y + z * z));
    rows[out + 1] = s * 2 * (x * y - w * z);
    rows[out + 2] = s * 2 * (x * z + w * y);
    rows[out + 4] = s * 2 * (x * y + w * z);
    rows[out + 5] = s * (1 - 2 * (x * x + z * z));
    rows[out + 6] = s * 2 * (y * z - w * x);
    rows[out + 8] = s * 2 * (x * z - w * y);
    rows[out + 9] = s * 2 * (y * z + w * x);
    rows[out + 10] = s * (1 - 2 * (x * x + y * y));
    for (let r = 0; r < 3; r++) {
      const own = flying
        ? rows[out + r * 4] * flying.centre[0] +
          rows[out + r * 4 + 1] * flying.centre[1] +
          rows[out + r * 4 + 2] * flying.centre[2]
        : 0;
      rows[out + r * 4 + 3] = data[at + P + r] - own;
    }
  }
  return rows;
}
