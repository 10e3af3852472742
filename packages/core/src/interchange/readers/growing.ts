/** A run of numbers that grows, without the cost of an array of boxed values. */
export class GrowingFloats {
  private data = new Float32Array(1024);
  length = 0;

  push(value: number): void {
    if (this.length === this.data.length) this.data = doubled(this.data, new Float32Array(this.length * 2));
    this.data[this.length++] = value;
  }

  at(index: number): number {
    return this.data[index];
  }

  done(): Float32Array {
    return this.data.slice(0, this.length);
  }
}

export class GrowingIndices {
  private data = new Uint32Array(1024);
  length = 0;

  push(value: number): void {
    if (this.length === this.data.length) this.data = doubled(this.data, new Uint32Array(this.length * 2));
    this.data[this.length++] = value;
  }

  at(index: number): number {
    return this.data[index];
  }

  done(): Uint32Array {
    return this.data.slice(0, this.length);
  }
}

function doubled<T extends Float32Array | Uint32Array>(from: T, to: T): T {
  to.set(from as never);
  return to;
}
