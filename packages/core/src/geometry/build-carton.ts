import { cos, sin } from '../maths/index.ts';
import { buildExtrusion, roundedRectangle } from './build-extrusion.ts';
import { buildGrid, type GridPoint } from './build-grid.ts';
import { mergeMeshes, transformMesh, type Mesh } from './mesh.ts';
import { DEGREES, multiply, type Mat4, type Vec3 } from './transform.ts';

export interface CartonOptions {
  /** Outer size of the closed carton in metres: width (x), height (y), depth (z). */
  size: Vec3;
  /** Thickness of the board, metres. */
  board: number;
  /** Radius of the folded edges, metres; at least the board's thickness. */
  bevel: number;
  /** How far the lid is open, degrees about its back edge. */
  open: number;
}

/** A face that takes art, with its real size. */
export interface CartonFace {
  name: string;
  mesh: Mesh;
  /** Metres, width and height as the art is seen. */
  panel?: readonly [number, number];
}

const WALLS = ['Front', 'Right', 'Back', 'Left'] as const;
const CORNER_STEPS = 4;

/**
 * A folding carton standing on y = 0: four walls and a bottom of real board, hollow, closed by a lid with a tuck flap
 * that hinges at the back and two dust flaps under it. Each outer face is a part of its own whose uv is 0..1 over the
 * whole face, round the folded edges to the neighbouring face; the inner sides are one part, those of the lid another.
 */
export function buildCarton({ size, board, bevel, open }: CartonOptions): CartonFace[] {
  const [w, h, d] = size;
  const t = Math.min(board, w / 8, h / 8, d / 8);
  const b = Math.min(Math.max(bevel, t * 1.05), w / 2.1, d / 2.1, h / 4);
  const core: [number, number] = [w / 2 - b, d / 2 - b];
  const top = h - t;
  const walls = WALLS.map((name, k): CartonFace => {
    const width = k % 2 ? d : w;
    return { name, mesh: band(k, core, outerRows(b, top)), panel: [width, top] };
  });
  const inner = WALLS.map((_, k) => band(k, core, innerRows(b, t, top)));
  return [
    ...walls,
    { name: 'Bottom', mesh: floorOf(core, 0, -1), panel: [w, d] },
    ...lid({ w, d, t, b, top, open }),
    { name: 'Inside', mesh: mergeMeshes([...inner, floorOf(core, t, 1)]) },
  ];
}

/** A row of a wall: how far outside the core rectangle, how high, the normal's share outward and up, and its v. */
interface Row {
  r: number;
  y: number;
  out: number;
  up: number;
  v: number;
}

function outerRows(b: number, top: number): Row[] {
  const rows: Row[] = [];
  const total = (b * Math.PI) / 2 + top - b;
  for (let k = 0; k <= CORNER_STEPS; k++) {
    const a = (k / CORNER_STEPS) * (Math.PI / 2);
    rows.push({
      r: b * sin(a),
      y: b * (1 - cos(a)),
      out: sin(a),
      up: -cos(a),
      v: 1 - (b * a) / total,
    });
  }
  rows.push({ r: b, y: top, out: 1, up: 0, v: 0 });
  return rows;
}

/** From the outer rim over the board's edge, down the inner wall and in to the floor; doubled rows keep edges hard. */
function innerRows(b: number, t: number, top: number): Row[] {
  const inner = b - t;
  return [
    { r: b, y: top, out: 0, up: 1, v: 0 },
    { r: inner, y: top, out: 0, up: 1, v: 0.02 },
    { r: inner, y: top, out: -1, up: 0, v: 0.02 },
    { r: inner, y: t, out: -1, up: 0, v: 0.9 },
    { r: inner, y: t, out: 0, up: 1, v: 0.9 },
    { r: 0, y: t, out: 0, up: 1, v: 1 },
  ];
}

/** One wall of a rounded rectangle, from the middle of the corner on its left to that on its right, seen from outside. */
function band(k: number, [cx, cz]: readonly [number, number], rows: Row[]): Mesh {
  const [half, away] = k % 2 ? [cz, cx] : [cx, cz];
  // Whole degrees, so that neighbours meet in exactly the same points.
  const arc = Array.from({ length: CORNER_STEPS + 1 }, (_, i) => (45 * i) / CORNER_STEPS);
  const columns = [...arc.map((a) => ({ x: -half, a: a - 45 })), ...arc.map((a) => ({ x: half, a }))];
  const b = rows[0].r > 0 ? rows[0].r : rows[rows.length - 1].r;
  const lengths = columns.map(({ x, a }) => x + a * DEGREES * b);
  const [first, last] = [lengths[0], lengths[lengths.length - 1]];
  const [cosine, sine] = [
    [1, 0],
    [0, 1],
    [-1, 0],
    [0, -1],
  ][k];
  const at = (s: number, j: number): GridPoint => {
    const i = Math.round(s * (columns.length - 1));
    const { x, a } = columns[i];
    const row = rows[Math.round(j * (rows.length - 1))];
    const [nx, nz] = [sin(a * DEGREES), cos(a * DEGREES)];
    const [px, pz] = [x + nx * row.r, away + nz * row.r];
    // A quarter turn about the vertical for each wall: the front looks to +Z, the right to +X.
    const place = (qx: number, qz: number): [number, number] => [qx * cosine + qz * sine, qz * cosine - qx * sine];
    const [gx, gz] = place(px, pz);
    const [mx, mz] = place(nx, nz);
    return {
      p: [gx, row.y, gz],
      n: [mx * row.out, row.up, mz * row.out],
      uv: [(lengths[i] - first) / (last - first), row.v],
    };
  };
  return buildGrid(columns.length - 1, rows.length - 1, at);
}

function floorOf([cx, cz]: readonly [number, number], y: number, facing: 1 | -1): Mesh {
  return buildGrid(1, 1, (s, t) => ({
    p: [(s * 2 - 1) * cx, y, (t * 2 - 1) * cz],
    n: [0, facing, 0],
    uv: [s, facing > 0 ? t : 1 - t],
  }));
}

interface LidSize {
  w: number;
  d: number;
  t: number;
  b: number;
  top: number;
  open: number;
}

function lid({ w, d, t, b, top, open }: LidSize): CartonFace[] {
  // The board lies in x and y, its front up; these lay it down with its far edge at the hinge.
  const turn = (degrees: number): Mat4 => {
    const [c, s] = [cos(degrees * DEGREES), sin(degrees * DEGREES)];
    return [1, 0, 0, 0, 0, c, s, 0, 0, -s, c, 0, 0, 0, 0, 1];
  };
  const move = (x: number, y: number, z: number): Mat4 => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1];
  const hinge = multiply(move(0, top, -d / 2), turn(-open));
  const flat = multiply(multiply(hinge, move(0, 0, d / 2)), turn(-90));
  const board = buildExtrusion([{ outer: roundedRectangle(w, d, b, CORNER_STEPS * 2), holes: [] }], { depth: t });
  const tuckLength = Math.min(d * 0.4, w * 0.3, top * 0.6);
  const tuck = buildExtrusion([{ outer: tuckOutline(w - t * 4, tuckLength), holes: [] }], { depth: t * 0.8 });
  // Under the lid's front edge, folded down behind the front wall.
  const down = multiply(multiply(hinge, move(0, -0.5 * t, d - t * 2.4)), turn(2));
  const parts: CartonFace[] = [
    { name: 'Top', mesh: transformMesh(board.front, flat), panel: [w, d] },
    { name: 'Tuck flap', mesh: transformMesh(tuck.front, down), panel: [w - t * 4, tuckLength] },
  ];
  const inside = [board.back, board.sides].map((m) => transformMesh(m, flat));
  inside.push(...[tuck.back, tuck.sides].map((m) => transformMesh(m, down)));
  const reach = Math.min(w / 2 - t * 2, d * 0.6);
  const flap = buildExtrusion([{ outer: tuckOutline(d - t * 5, reach), holes: [] }], { depth: t * 0.8 });
  for (const [side, name] of [
    [-1, 'Left dust flap'],
    [1, 'Right dust flap'],
  ] as const) {
    // Closed it lies under the lid; it follows the lid, but not as far.
    const quarter: Mat4 = [0, 0, side, 0, 0, 1, 0, 0, -side, 0, 0, 0, 0, 0, 0, 1];
    const at = multiply(multiply(move(side * (w / 2 - t * 1.5), top - t * 1.2, 0), quarter), turn(-90 - open * 0.6));
    parts.push({ name, mesh: transformMesh(flap.front, at), panel: [d - t * 5, reach] });
    inside.push(...[flap.back, flap.sides].map((m) => transformMesh(m, at)));
  }
  return [...parts, { name: 'Lid inside', mesh: mergeMeshes(inside) }];
}

/** A flap hanging from y = 0 down, its free corners cut off. */
function tuckOutline(width: number, length: number): Array<[number, number]> {
  const cut = Math.min(width, length) * 0.22;
  return [
    [-width / 2, 0],
    [-width / 2, -length + cut],
    [-width / 2 + cut, -length],
    [width / 2 - cut, -length],
    [width / 2, -length + cut],
    [width / 2, 0],
  ];
}
