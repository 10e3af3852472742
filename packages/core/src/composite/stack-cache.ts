import type { ComposeInput } from './input.ts';
import type { SeenLayer } from './layers-at.ts';
import type { Plate } from './plate.ts';

/** What a composite was made from, step by step from the lowest layer up, and its plate at one of the steps. */
interface Kept {
  keys: readonly string[];
  /** Steps that the plate has. */
  steps: number;
  numbers: Float32Array | null;
}

/** What says how layers are drawn besides themselves. */
export interface Sources {
  input: ComposeInput;
  /** Layers that are held by others, or are part of them, by those. */
  of: (id: string) => readonly SeenLayer[];
}

/** Sizes of pictures that are made in turn: a quick one and the whole. */
const SIZES = 3;

/**
 * Keeps a composite's plate below what was changed last, so that a change high in the stack does not make anew what lies under it. What
 * a step is made from is compared whole: what is equal gives the same bytes as making it anew.
 */
export class StackCache {
  private readonly kept = new Map<string, Kept>();
  private readonly ids = new WeakMap<object, number>();
  private next = 1;

  /** Steps that need not be made, for which the plate is filled. */
  begin(plate: Plate, keys: readonly string[]): number {
    const size = `${plate.width} ${plate.height}`;
    const known = this.kept.get(size);
    const same = known ? common(known.keys, keys) : 0;
    const usable = known?.numbers && known.steps <= same ? known : null;
    // Where the two part is where the next change is expected too.
    const steps = known ? same : 0;
    const kept: Kept = { keys, steps, numbers: usable?.steps === steps ? usable.numbers : null };
    this.kept.delete(size);
    this.kept.set(size, kept);
    for (const old of this.kept.keys()) {
      if (this.kept.size <= SIZES) break;
      this.kept.delete(old);
    }
    if (usable) plate.data.set(usable.numbers!);
    return usable ? usable.steps : 0;
  }

  /** Tells that so many steps are made: the plate is kept where that is wanted. */
  made(plate: Plate, steps: number): void {
    const kept = this.kept.get(`${plate.width} ${plate.height}`);
    if (kept && kept.steps === steps && steps > 0 && !kept.numbers) kept.numbers = plate.data.slice();
  }

  /** What everything in a picture follows from. */
  base(layers: readonly SeenLayer[], input: ComposeInput): string {
    const { width, height, frame, seconds, view } = input;
    const takes = layers.filter((l) => l.kind === 'take');
    const shown = takes.map((l) => [l, this.id(input.take(l.take))]);
    return JSON.stringify([width, height, frame, seconds, view, this.id(input.take('')), shown]);
  }

  /** What layers of a step are made from. */
  key(layers: readonly SeenLayer[], sources: Sources, within: readonly string[] = []): string {
    return JSON.stringify(layers.map((layer) => this.of(layer, sources, within)));
  }

  private of(layer: SeenLayer, sources: Sources, within: readonly string[]): unknown {
    if (within.includes(layer.id)) return null;
    const inner = [...within, layer.id];
    const matte = layer.matteFrom;
    return [
      ...[layer, this.sourcesOf(layer, sources.input), this.key(sources.of(layer.id), sources, inner)],
      matte && [this.sourcesOf(matte, sources.input), this.key(sources.of(matte.id), sources, [...inner, matte.id])],
    ];
  }

  /** Which pictures a layer shows; the same one has the same number for as long as it is there. */
  private sourcesOf(layer: SeenLayer, input: ComposeInput): number[] {
    switch (layer.kind) {
      case 'take':
        return [this.id(input.take(layer.take)), this.id(input.parts?.(layer.take))];
      case 'still':
        return [this.id(input.still?.(layer.asset))];
      case 'footage':
        return [this.id(input.footage?.(layer))];
      case 'composite':
        return [this.id(input.nested?.(layer.id))];
      case 'lut':
        return [this.id(input.cube?.(layer.asset))];
      case 'logo':
        return [this.id(input.vector?.(layer.asset))];
      default:
        return [];
    }
  }

  private id(of: object | null | undefined): number {
    if (!of) return 0;
    const known = this.ids.get(of) ?? this.next++;
    this.ids.set(of, known);
    return known;
  }
}

/** How many first entries two lists share. */
function common(a: readonly string[], b: readonly string[]): number {
  let n = 0;
  while (n < a.length && n < b.length && a[n] === b[n]) n++;
  return n;
}
