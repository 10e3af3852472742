import { buildBox } from './build-box.ts';
import { buildExtrusion, roundedRectangle, type Point2 } from './build-extrusion.ts';
import { buildGrid } from './build-grid.ts';
import { buildTurned } from './build-turned.ts';
import { filletProfile } from './fillet-profile.ts';
import { mergeMeshes, transformMesh, type Mesh } from './mesh.ts';

export interface BlockOptions {
  form: 'floor' | 'wall' | 'plinth' | 'drum' | 'steps' | 'tabletop' | 'panel';
  /** Metres. */
  width: number;
  height: number;
  depth: number;
  /** Radius of rounded edges; of a tabletop's corners. */
  bevel: number;
  steps: number;
}

/** What things stand on or before, its base on y = 0 and its middle on the vertical axis. uv is 0..1 over each face. */
export function buildBlock({ form, width, height, depth, bevel, steps }: BlockOptions): Mesh {
  switch (form) {
    case 'floor':
      return buildGrid(1, 1, (s, t) => ({ p: [(s - 0.5) * width, height, (t - 0.5) * depth], n: [0, 1, 0] }));
    case 'wall':
      return buildGrid(1, 1, (s, t) => ({ p: [(s - 0.5) * width, (1 - t) * height, 0], n: [0, 0, 1] }));
    case 'drum':
      return buildTurned({
        segments: 96,
        profile: filletProfile([
          [0, 0],
          [width / 2, 0, bevel],
          [width / 2, height, bevel],
          [0, height],
        ]),
      });
    case 'steps':
      return flight(width, height, depth, bevel, Math.max(1, Math.round(steps)));
    case 'tabletop': {
      const edge = Math.min(height / 2, bevel / 4, 0.004);
      const slab = buildExtrusion([{ outer: roundedRectangle(width, depth, bevel, 8), holes: [] }], {
        depth: height,
        bevel: edge,
      });
      // The slab is drawn upright, its front up once it is laid down.
      return transformMesh(mergeMeshes([slab.front, slab.back, slab.sides]), LAID);
    }
    case 'plinth':
    case 'panel': {
      const { panels, edges } = buildBox({ size: [width, height, Math.max(depth, 1e-4)], bevel });
      return mergeMeshes([...panels, edges]);
    }
  }
}

/** x stays, y becomes -z, z becomes y. */
const LAID = [1, 0, 0, 0, 0, 0, -1, 0, 0, 1, 0, 0, 0, 0, 0, 1];

/** Steps that rise away from the front, cut from one piece. */
function flight(width: number, height: number, depth: number, bevel: number, steps: number): Mesh {
  const side: Point2[] = [[0, 0]];
  for (let i = 0; i < steps; i++) {
    side.push(
      [(i / steps) * depth, ((i + 1) / steps) * height],
      [((i + 1) / steps) * depth, ((i + 1) / steps) * height],
    );
  }
  side.push([depth, 0]);
  const cut = buildExtrusion([{ outer: side, holes: [] }], {
    depth: width,
    bevel: Math.min(bevel, height / steps / 3),
  });
  const whole = mergeMeshes([cut.front, cut.back, cut.sides]);
  // The outline runs from the front to the back, its depth across.
  return transformMesh(whole, [0, 0, -1, 0, 0, 1, 0, 0, 1, 0, 0, 0, -width / 2, 0, depth / 2, 1]);
}
