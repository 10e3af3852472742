/** Numbers equal corners of a mesh alike: position, texture coordinate and normal make one vertex. An open hash table. */
export class CornerTable {
  /** Four numbers an entry: the three indices, and the vertex plus one; 0 is free. */
  private slots = new Int32Array(4 * 64);
  count = 0;

  /** The vertex of a corner; `fresh` is called with it when the corner is new. */
  vertex(position: number, uv: number, normal: number, fresh: (vertex: number) => void): number {
    if (this.count * 2 > this.slots.length / 4) this.grow();
    const at = this.find(position, uv, normal);
    const known = this.slots[at + 3];
    if (known > 0) return known - 1;
    this.put(at, position, uv, normal, this.count + 1);
    fresh(this.count);
    return this.count++;
  }

  private find(position: number, uv: number, normal: number): number {
    const mask = this.slots.length / 4 - 1;
    let hash = Math.imul(position, 0x9e3779b1) ^ Math.imul(uv + 1, 0x85ebca6b) ^ Math.imul(normal + 1, 0xc2b2ae35);
    hash = Math.imul(hash ^ (hash >>> 15), 0x2c1b3c6d);
    let slot = (hash ^ (hash >>> 13)) & mask;
    for (;;) {
      const at = slot * 4;
      const { slots } = this;
      if (slots[at + 3] === 0) return at;
      if (slots[at] === position && slots[at + 1] === uv && slots[at + 2] === normal) return at;
      slot = (slot + 1) & mask;
    }
  }

  private put(at: number, position: number, uv: number, normal: number, vertex: number): void {
    this.slots[at] = position;
    this.slots[at + 1] = uv;
    this.slots[at + 2] = normal;
    this.slots[at + 3] = vertex;
  }

  private grow(): void {
    const old = this.slots;
    this.slots = new Int32Array(old.length * 2);
    for (let i = 0; i < old.length; i += 4) {
      if (old[i + 3] === 0) continue;
      this.put(this.find(old[i], old[i + 1], old[i + 2]), old[i], old[i + 1], old[i + 2], old[i + 3]);
    }
  }
}
