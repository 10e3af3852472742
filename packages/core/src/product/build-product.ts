import { hypot } from '../maths/index.ts';
import type { Builder, CutoutBuilder, DeviceBuilder } from '../document/index.ts';
import {
  buildCarton,
  buildExtrusion,
  buildPouch,
  contains,
  insetOutline,
  mergeMeshes,
  roundedRectangle,
  signedArea,
  transformMesh,
  type Mesh,
  type Outline,
  type Point2,
} from '../geometry/index.ts';
import { buildTurnedProduct } from './build-turned-product.ts';
import type { BuiltPart } from './built-part.ts';

/** A builder's parts, standing on y = 0; pure, so the same everywhere and needing no file. Lengths in metres. */
export function buildProduct(builder: Builder): BuiltPart[] {
  switch (builder.kind) {
    case 'carton': {
      const { width, height, depth, board, bevel, open } = builder;
      const faces = buildCarton({ size: [width, height, depth], board, bevel, open });
      return faces.map((face) => ({ ...face, finish: face.panel ? 'body' : 'inside' }));
    }
    case 'turned':
      return buildTurnedProduct(builder);
    case 'device':
      return buildDevice(builder);
    case 'pouch': {
      const { front, back, base } = buildPouch(builder);
      const panel = [builder.width, builder.height] as const;
      return [
        { name: 'Front', mesh: front, finish: 'body', panel },
        { name: 'Back', mesh: back, finish: 'body', panel },
        ...(base ? [{ name: 'Base', mesh: base, finish: 'body' } as const] : []),
      ];
    }
    case 'cutout':
      return buildCutout(builder);
  }
}

/** A slab standing upright; its front is a rim and a picture area whose corners are cut round. */
function buildDevice({ width, height, depth, corner, bevel, border }: DeviceBuilder): BuiltPart[] {
  const radius = Math.min(corner, width / 2, height / 2);
  const edge = Math.min(bevel, depth / 2, radius || depth / 2);
  const steps = 10;
  const centre = -depth / 2;
  const place = (mesh: Mesh): Mesh =>
    transformMesh(mesh, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, height / 2, centre, 1]);
  const body = buildExtrusion([{ outer: roundedRectangle(width, height, radius, steps), holes: [] }], {
    depth,
    bevel: edge,
  });
  const panel = [width, height] as const;
  const inset = Math.max(border, edge);
  if (inset >= Math.min(width, height) / 2 || inset === 0)
    return [
      { name: 'Front', mesh: place(body.front), finish: 'screen', panel },
      { name: 'Back', mesh: place(body.back), finish: 'body', panel },
      { name: 'Sides', mesh: place(body.sides), finish: 'body' },
    ];
  const [sw, sh] = [width - inset * 2, height - inset * 2];
  const screen = roundedRectangle(sw, sh, Math.max(0, radius - inset), steps);
  // The front face without its bevel: that is where the sides end.
  const face = insetOutline(roundedRectangle(width, height, radius, steps), edge);
  const frontOf = (outline: Outline): Mesh => {
    const { front } = buildExtrusion([outline], { depth });
    return place(front);
  };
  return [
    { name: 'Screen', mesh: frontOf({ outer: screen, holes: [] }), finish: 'screen', panel: [sw, sh] },
    ...(inset > edge + 1e-9
      ? [{ name: 'Rim', mesh: frontOf({ outer: face, holes: [screen] }), finish: 'inside' } as const]
      : []),
    { name: 'Back', mesh: place(body.back), finish: 'body', panel },
    { name: 'Sides', mesh: place(body.sides), finish: 'body' },
  ];
}

function buildCutout({ outlines, height, depth, bevel }: CutoutBuilder): BuiltPart[] {
  const rings = outlines.map((flat) =>
    Array.from({ length: Math.floor(flat.length / 2) }, (_, i): Point2 => [
      flat[i * 2] * height,
      flat[i * 2 + 1] * height,
    ]),
  );
  const shapes = nest(rings);
  if (shapes.length === 0) return [];
  const { front, back, sides } = buildExtrusion(shapes, { depth, bevel });
  let [left, right, low] = [Infinity, -Infinity, Infinity];
  for (let i = 0; i < sides.positions.length; i += 3) {
    left = Math.min(left, sides.positions[i]);
    right = Math.max(right, sides.positions[i]);
    low = Math.min(low, sides.positions[i + 1]);
  }
  const centred = (mesh: Mesh): Mesh =>
    transformMesh(mesh, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, -(left + right) / 2, -low, -depth / 2, 1]);
  const panel = [right - left, height] as const;
  return [
    { name: 'Face', mesh: centred(front), finish: 'body', panel },
    { name: 'Sides', mesh: centred(mergeMeshes([sides, back])), finish: 'inside' },
  ];
}

/** Outlines sorted into shapes with holes: an outline inside an odd number of others is a hole of the nearest. */
function nest(rings: Point2[][]): Outline[] {
  const usable = rings.map(clean).filter((ring) => ring.length > 2 && Math.abs(signedArea(ring)) > 1e-12);
  const holders = usable.map((ring, i) =>
    usable.flatMap((other, j) => (i !== j && contains(other, ring[0]) ? [j] : [])),
  );
  const shapes = new Map<number, { outer: Point2[]; holes: Point2[][] }>();
  usable.forEach((outer, i) => holders[i].length % 2 === 0 && shapes.set(i, { outer, holes: [] }));
  usable.forEach((ring, i) => {
    if (holders[i].length % 2 === 0) return;
    const parent = holders[i].find((j) => holders[j].length === holders[i].length - 1);
    if (parent !== undefined) shapes.get(parent)?.holes.push(ring);
  });
  return [...shapes.values()];
}

/** Without repeated points, the last of a closed outline among them. */
function clean(ring: Point2[]): Point2[] {
  const near = (a: Point2, b: Point2): boolean => hypot(a[0] - b[0], a[1] - b[1]) < 1e-7;
  const out = ring.filter((p, i) => i === 0 || !near(p, ring[i - 1]));
  while (out.length > 1 && near(out[0], out[out.length - 1])) out.pop();
  return out;
}
