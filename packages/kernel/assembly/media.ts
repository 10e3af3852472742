import { M_IOR, M_PRIORITY, material, Scene } from './scene';

/** The volumes a path is inside of, with priorities where they overlap (Schmidt and Budge 2002). */
const DEPTH: i32 = 8;


@unmanaged
export class Media {
  scene: Scene;
  count: i32;
  m0: i32;
  m1: i32;
  m2: i32;
  m3: i32;
  m4: i32;
  m5: i32;
  m6: i32;
  m7: i32;

  // @ts-ignore: decorator
  @inline
  get(i: i32): i32 {
    return load<i32>(changetype<usize>(this) + offsetof<Media>('m0') + ((<usize>i) << 2));
  }
  // @ts-ignore: decorator
  @inline
  set(i: i32, m: i32): void {
    store<i32>(changetype<usize>(this) + offsetof<Media>('m0') + ((<usize>i) << 2), m);
  }

  /** The material that fills the space here, -1 for air. `without` is left out once. */
  current(without: i32): i32 {
    let best: i32 = -1;
    let skip = without;
    for (let i = this.count - 1; i >= 0; i--) {
      const m = this.get(i);
      if (m == skip) {
        skip = -2;
        continue;
      }
      if (best < 0 || this.priority(m) > this.priority(best)) best = m;
    }
    return best;
  }

  // @ts-ignore: decorator
  @inline
  priority(m: i32): f64 {
    return material(this.scene, m, M_PRIORITY);
  }

  // @ts-ignore: decorator
  @inline
  ior(m: i32): f64 {
    return m < 0 ? 1.0 : material(this.scene, m, M_IOR);
  }

  enter(m: i32): void {
    if (this.count < DEPTH) this.set(this.count++, m);
  }

  leave(m: i32): void {
    for (let i = this.count - 1; i >= 0; i--) {
      if (this.get(i) != m) continue;
      for (let k = i; k + 1 < this.count; k++) this.set(k, this.get(k + 1));
      this.count--;
      return;
    }
  }
}
