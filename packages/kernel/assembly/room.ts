import { Lights } from './lights';
import { cosTurn, sinTurn } from './maths';
import { at, word } from './scene';

/** Light of the room: a panorama far away, whose results lie where those of a light do. */

/** Radiance of the room in a direction, into r, g, b; its sampling density into pdf. */
export function roomAt(lights: Lights, dx: f64, dy: f64, dz: f64): void {
  const scene = lights.scene;
  const w = scene.environmentWidth;
  const h = scene.environmentHeight;
  const c = <f64>scene.environmentCos;
  const s = <f64>scene.environmentSin;
  const x = dx * c + dz * s;
  const z = dz * c - dx * s;
  const u = Math.atan2(x, -z) / (2.0 * Math.PI) + 0.5;
  const theta = Math.acos(Math.min(1.0, Math.max(-1.0, dy)));
  const column = min(w - 1, <i32>(u * <f64>w));
  const row = min(h - 1, <i32>((theta / Math.PI) * <f64>h));
  take(lights, row, column, Math.sqrt(Math.max(0.0, 1.0 - dy * dy)));
}

/** One cell of the panorama: its radiance and density. */
function take(lights: Lights, row: i32, column: i32, sinTheta: f64): void {
  const scene = lights.scene;
  const w = scene.environmentWidth;
  const h = scene.environmentHeight;
  const cell = row * w + column;
  lights.r = at(scene.environment, cell * 4);
  lights.g = at(scene.environment, cell * 4 + 1);
  lights.b = at(scene.environment, cell * 4 + 2);
  const weight = at(scene.environment, cell * 4 + 3);
  lights.pdf =
    sinTheta > 1e-6
      ? ((weight / <f64>scene.environmentSum) * <f64>w * <f64>h) / (2.0 * Math.PI * Math.PI * sinTheta)
      : 0.0;
}

/** A direction towards the room by luminance: an alias table gives the cell in one look (Walker 1977, Vose 1991). */
export function sampleRoom(lights: Lights, u: f64, v: f64): bool {
  const scene = lights.scene;
  const w = scene.environmentWidth;
  const h = scene.environmentHeight;
  const place = u * <f64>(w * h);
  let cell = min(w * h - 1, <i32>place);
  const rest = place - <f64>cell;
  const threshold = at(scene.environmentAlias, cell * 2);
  let fu: f64 = 0;
  if (rest < threshold) fu = rest / threshold;
  else {
    fu = (rest - threshold) / (1.0 - threshold);
    cell = word(scene.environmentAlias, cell * 2 + 1);
  }
  const row = cell / w;
  const column = cell - row * w;
  const theta = ((<f64>row + v) / <f64>h) * Math.PI;
  const turn = (<f64>column + Math.min(0.999999, fu)) / <f64>w;
  // The middle column looks along -Z: azimuth is half a turn off.
  const sinTheta = sinTurn(theta * (0.5 / Math.PI));
  const x = -sinTurn(turn) * sinTheta;
  const z = cosTurn(turn) * sinTheta;
  const c = <f64>scene.environmentCos;
  const s = <f64>scene.environmentSin;
  lights.dx = x * c - z * s;
  lights.dy = cosTurn(theta * (0.5 / Math.PI));
  lights.dz = z * c + x * s;
  lights.distance = Infinity;
  lights.only = false;
  lights.light = -1;
  take(lights, row, column, sinTheta);
  return lights.pdf > 0;
}
