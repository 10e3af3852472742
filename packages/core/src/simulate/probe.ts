import { boundsOf, inverse, transformPoint, type Bounds, type Mat4, type Vec3 } from '../geometry/index.ts';
import type { Solid } from './bodies-in.ts';
import { FAR, localField, sampled } from './distance.ts';
import type { CellField } from './fields.ts';

/** A solid that single places are measured against: by a field of its own, so that it costs nothing where it is not. */
export class SolidProbe {
  private readonly field: CellField;
  private readonly into: Mat4;
  private readonly box: Bounds;
  /** Metres in the world for a cell of the field. */
  private readonly metres: number;
  private readonly back: Mat4;
  private readonly onwards: Mat4;
  readonly moves: boolean;
  private readonly reach: number;

  /**
   * @param cell how fine its shape is told, @param reach how far round its surface distances are told; metres in the world.
   */
  constructor(
    readonly solid: Solid,
    cell: number,
    reach = FAR * cell,
  ) {
    const { mesh, matrix: m, back, moves } = solid;
    const scale = Math.sqrt(m[0] * m[0] + m[1] * m[1] + m[2] * m[2]);
    this.field = localField(mesh, cell / scale, reach / scale);
    this.metres = this.field.cell * scale;
    this.into = inverse(m);
    this.box = boundsOf([mesh], m);
    for (let a = 0; a < 3; a++) {
      this.box.min[a] -= reach;
      this.box.max[a] += reach;
    }
    this.moves = moves;
    this.reach = reach;
    this.back = back;
    this.onwards = moves ? inverse(back) : back;
  }

  /** Signed distance from its surface in metres; Infinity where it is not near, and never less than the band's depth inside. */
  distance(x: number, y: number, z: number): number {
    const { min, max } = this.box;
    if (x < min[0] || y < min[1] || z < min[2] || x > max[0] || y > max[1] || z > max[2]) return Infinity;
    const { field, into: m } = this;
    const { cell, origin } = field;
    return (
      sampled(
        field,
        (m[0] * x + m[4] * y + m[8] * z + m[12] - origin[0]) / cell - 0.5,
        (m[1] * x + m[5] * y + m[9] * z + m[13] - origin[1]) / cell - 0.5,
        (m[2] * x + m[6] * y + m[10] * z + m[14] - origin[2]) / cell - 0.5,
      ) * this.metres
    );
  }

  /** The way out at a place near its surface, of length 1. @returns false where there is none: deep inside. */
  normal(x: number, y: number, z: number, out: Float64Array): boolean {
    const e = this.metres * 0.75;
    const near = (a: number, b: number, c: number): number => Math.min(this.distance(a, b, c), this.reach);
    out[0] = near(x + e, y, z) - near(x - e, y, z);
    out[1] = near(x, y + e, z) - near(x, y - e, z);
    out[2] = near(x, y, z + e) - near(x, y, z - e);
    const long = Math.sqrt(out[0] * out[0] + out[1] * out[1] + out[2] * out[2]);
    if (long < e * 1e-3) return false;
    for (let a = 0; a < 3; a++) out[a] /= long;
    return true;
  }

  /** How far its matter at a place came in the last frame, metres. */
  travel(x: number, y: number, z: number, out: Float64Array): void {
    const m = this.back;
    out[0] = x - (m[0] * x + m[4] * y + m[8] * z + m[12]);
    out[1] = y - (m[1] * x + m[5] * y + m[9] * z + m[13]);
    out[2] = z - (m[2] * x + m[6] * y + m[10] * z + m[14]);
  }

  /** Where its matter is now that was at a place a frame ago. */
  carried(place: Vec3): Vec3 {
    return this.moves ? transformPoint(this.onwards, place) : place;
  }
}
