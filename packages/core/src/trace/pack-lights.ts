import { cos, hypot, tan } from '../maths/index.ts';
import type { TextureUse } from '../finish/index.ts';
import { identity, type Mat4 } from '../geometry/index.ts';
import { goboPicture, gradientPicture, meanOf, srgbD65Luminance, type LightPicture } from '../light/index.ts';
import { EMITTERS, type LightLinking, type TableauLight } from '../scene/index.ts';
import { LIGHT, LIGHT_KIND, type LightTree, type PackedInstance, type PackedMesh, type Rows } from './layout.ts';
import { buildLightTree, type TreeLight } from './light-tree.ts';
import type { TexturePool } from './pack-materials.ts';

export interface PackedLights {
  lights: Float32Array;
  sunCount: number;
  tree: LightTree;
  links: Uint8Array;
}

/** A part of an instance whose finish glows, as lights for its triangles. */
export interface GlowingPart {
  instance: number;
  mesh: PackedMesh;
  /** Emission by slot; null where the slot does not glow. */
  emission: Array<[number, number, number] | null>;
}

/** More glowing triangles than this are found by chance only. */
const MOST_TRIANGLES = 20000;
const pictures = new Map<string, LightPicture>();

function remembered(key: string, make: () => LightPicture): LightPicture {
  const picture = pictures.get(key) ?? make();
  pictures.set(key, picture);
  return picture;
}

/** All lights of a tableau, suns first, then shapes and points, then glowing triangles. */
export function packLights(
  lights: readonly TableauLight[],
  things: readonly string[],
  glowing: readonly GlowingPart[],
  instances: PackedInstance[],
  pool: TexturePool,
): PackedLights {
  const rows: number[][] = [];
  const tree: TreeLight[] = [];
  const links: number[][] = [];
  for (const light of lightOrder(lights)) {
    const row = lightRow(light, lights.indexOf(light), pool);
    if (light.lightLinking) {
      row[LIGHT.link] = links.length;
      links.push(linkRow(light.lightLinking, things));
    }
    if (!distant(light)) tree.push({ light: rows.length, ...treeLight(light, row) });
    rows.push(row);
  }
  const glowPass = lights.length + 1;
  for (const part of glowing) addTriangles(part, instances[part.instance], glowPass, rows, tree);
  const sunCount = lights.filter(distant).length;
  return {
    lights: Float32Array.from(rows.flat()),
    sunCount,
    tree: buildLightTree(tree, rows.length),
    links: Uint8Array.from(links.flat()),
  };
}

const distant = (light: TableauLight): boolean => EMITTERS[light.kind].distant;

/** Lights by their number in the kernel. */
export function lightOrder(lights: readonly TableauLight[]): TableauLight[] {
  return [...lights.filter(distant), ...lights.filter((l) => !distant(l))];
}

function linkRow({ mode, things: named }: LightLinking, things: readonly string[]): number[] {
  return things.map((id) => (named.includes(id) === (mode === 'only') ? 1 : 0));
}

function frameOf(light: TableauLight, m: Mat4): number[] {
  const half = EMITTERS[light.kind].half(light) ?? [1, 1];
  return [
    ...[m[12], m[13], m[14]],
    ...[m[0] * half[0], m[1] * half[0], m[2] * half[0]],
    ...[m[4] * half[1], m[5] * half[1], m[6] * half[1]],
    ...[-m[8], -m[9], -m[10]],
  ];
}

/** A picture that covers a face once. */
function onFace(): Omit<TextureUse, 'image' | 'strength'> {
  return { offset: [0, 0], rotation: 0, scale: [1, 1], wrap: ['clamp', 'clamp'] };
}

function lightRow(light: TableauLight, pass: number, pool: TexturePool): number[] {
  const row = new Array<number>(LIGHT.stride).fill(0);
  const put = (at: number, values: readonly number[]): void => values.forEach((v, i) => (row[at + i] = v));
  const m = light.matrix ?? identity();
  row[LIGHT.kind] = LIGHT_KIND[light.kind];
  row[LIGHT.pass] = pass;
  put(LIGHT.centre, frameOf(light, m));
  put(LIGHT.close, frameOf(light, light.close ?? m));
  row[LIGHT.moving] = light.close ? 1 : 0;
  put(LIGHT.radiance, light.radiance);
  row[LIGHT.area] = EMITTERS[light.kind].area(light);
  row[LIGHT.radius] = distant(light) ? cos((light.angle ?? 0) / 2) : light.width / 2;
  row[LIGHT.gridAngle] = light.gridAngle ? tan(light.gridAngle) : 0;
  put(LIGHT.coneInner, light.cone ? [cos(light.cone.inner), cos(light.cone.outer)] : [-2, -2]);
  row[LIGHT.texture] = -1;
  row[LIGHT.gobo] = -1;
  row[LIGHT.link] = -1;
  const { gradient, gobo } = light;
  if (gradient && gradient !== 'even') {
    const picture = remembered(gradient, () => gradientPicture(gradient));
    row[LIGHT.texture] = pool.add(`gradient ${gradient}`, onFace(), picture, false);
    // Lumens stay lumens: what the gradient takes at the edge it gives in the middle.
    put(
      LIGHT.radiance,
      light.radiance.map((v) => v / meanOf(picture)),
    );
  }
  if (gobo && gobo.pattern !== 'none') {
    const { pattern, repeat, seed } = gobo;
    const key = `gobo ${pattern} ${repeat} ${seed}`;
    row[LIGHT.gobo] = pool.add(
      key,
      onFace(),
      remembered(key, () => goboPicture(pattern, repeat, seed)),
      false,
    );
    put(LIGHT.goboDistance, [gobo.distance, gobo.width / 2, gobo.height / 2]);
  }
  return row;
}

/** Where a light is and what it gives, for the tree: flux, roughly, and the cone it goes into. */
function treeLight(light: TableauLight, row: number[]): Omit<TreeLight, 'light'> {
  const at = (i: number): number[] => [row[i], row[i + 1], row[i + 2]];
  const centres = [at(LIGHT.centre), at(LIGHT.close)];
  const { flat, radius, projectedArea } = EMITTERS[light.kind];
  const reach = [0, 1, 2].map((a) => radius(light) ?? Math.abs(row[LIGHT.u + a]) + Math.abs(row[LIGHT.v + a]));
  const luminance = srgbD65Luminance(light.radiance);
  const outer = light.cone?.outer ?? (light.gridAngle ? Math.min(Math.PI / 2, light.gridAngle) : Math.PI / 2);
  return {
    min: [0, 1, 2].map((a) => Math.min(...centres.map((c) => c[a] - reach[a]))),
    max: [0, 1, 2].map((a) => Math.max(...centres.map((c) => c[a] + reach[a]))),
    power: luminance * projectedArea(light),
    axis: at(LIGHT.normal),
    // A face that turns while the shutter is open points somewhere near both.
    cosNormals: flat ? (light.close ? 0.95 : 1) : -1,
    cosReach: flat ? cos(outer) : -1,
  };
}

function addTriangles(
  { mesh, emission, instance: number }: GlowingPart,
  instance: PackedInstance,
  pass: number,
  rows: number[][],
  tree: TreeLight[],
): void {
  const glowing = [...mesh.slots].filter((slot) => emission[slot]).length;
  if (glowing === 0 || glowing > MOST_TRIANGLES) return;
  instance.lights = new Int32Array(mesh.count).fill(-1);
  const m = instance.open;
  for (let t = 0; t < mesh.count; t++) {
    const light = emission[mesh.slots[t]];
    if (!light) continue;
    const corner = (matrix: Rows): number[] => {
      const turn = (k: number): number[] =>
        [0, 4, 8].map(
          (r) =>
            matrix[r] * mesh.triangles[t * 9 + k] +
            matrix[r + 1] * mesh.triangles[t * 9 + k + 1] +
            matrix[r + 2] * mesh.triangles[t * 9 + k + 2],
        );
      const [origin, u, v] = [turn(0), turn(3), turn(6)];
      const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
      const length = hypot(...n) || 1;
      return [...origin.map((o, a) => o + matrix[a * 4 + 3]), ...u, ...v, ...n.map((x) => x / length), length / 2];
    };
    const open = corner(m);
    const close = instance.close ? corner(instance.close) : open;
    const area = open[12];
    if (!(area > 0)) continue;
    const row = new Array<number>(LIGHT.stride).fill(0);
    row[LIGHT.kind] = LIGHT_KIND.triangle;
    row[LIGHT.pass] = pass;
    for (let i = 0; i < 12; i++) {
      row[LIGHT.centre + i] = open[i];
      row[LIGHT.close + i] = close[i];
    }
    row[LIGHT.moving] = instance.close ? 1 : 0;
    light.forEach((v, i) => (row[LIGHT.radiance + i] = v));
    row[LIGHT.area] = area;
    row[LIGHT.coneInner] = row[LIGHT.coneOuter] = -2;
    row[LIGHT.texture] = row[LIGHT.gobo] = row[LIGHT.link] = -1;
    row[LIGHT.instance] = number;
    row[LIGHT.triangle] = t;
    instance.lights[t] = rows.length;
    const corners = [open, close].flatMap((c) => [
      c.slice(0, 3),
      [0, 1, 2].map((a) => c[a] + c[3 + a]),
      [0, 1, 2].map((a) => c[a] + c[6 + a]),
    ]);
    tree.push({
      light: rows.length,
      min: [0, 1, 2].map((a) => Math.min(...corners.map((c) => c[a]))),
      max: [0, 1, 2].map((a) => Math.max(...corners.map((c) => c[a]))),
      power: srgbD65Luminance(light) * area,
      axis: open.slice(9, 12),
      cosNormals: -1,
      cosReach: -1,
    });
    rows.push(row);
  }
}
