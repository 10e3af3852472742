import { MATERIAL } from './layout.ts';

const DEPTH = 8;

/**
 * The volumes a path is inside of, by material. Where two overlap the one with the higher priority fills the space
 * (Schmidt and Budge 2002, "Simple Nested Dielectrics"), so a filling may be modelled slightly into its vessel.
 */
export class MediaStack {
  private readonly inside = new Int32Array(DEPTH);
  private count = 0;
  private readonly materials: Float32Array;

  constructor(materials: Float32Array) {
    this.materials = materials;
  }

  clear(): void {
    this.count = 0;
  }

  /** The material that fills the space here, -1 for air. `without` is left out once. */
  current(without = -1): number {
    let best = -1;
    let skip = without;
    for (let i = this.count - 1; i >= 0; i--) {
      const m = this.inside[i];
      if (m === skip) {
        skip = -2;
        continue;
      }
      if (best < 0 || this.priority(m) > this.priority(best)) best = m;
    }
    return best;
  }

  priority(material: number): number {
    return this.materials[material * MATERIAL.stride + MATERIAL.priority];
  }

  ior(material: number): number {
    return material < 0 ? 1 : this.materials[material * MATERIAL.stride + MATERIAL.ior];
  }

  enter(material: number): void {
    if (this.count < DEPTH) this.inside[this.count++] = material;
  }

  leave(material: number): void {
    for (let i = this.count - 1; i >= 0; i--) {
      if (this.inside[i] === material) {
        this.inside.copyWithin(i, i + 1, this.count);
        this.count--;
        return;
      }
    }
  }
}
