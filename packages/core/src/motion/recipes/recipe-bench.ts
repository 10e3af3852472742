import type {
  AppliedRecipe,
  Ease,
  Key,
  LinkedEase,
  MovePath,
  Rule,
  RuleDoes,
  SetCamera,
  SetThing,
  Track,
} from '../../document/index.ts';
import type { PropertyValue } from '../../properties/index.ts';
import { hypot } from '../../maths/index.ts';
import type { Vec3 } from '../../geometry/index.ts';
import { easeFunction, resolveEase, type EaseFunction } from '../ease.ts';
import type { Placed } from '../pose.ts';

/** What a recipe makes: the same things that can be made by hand. */
export interface RecipeMoves {
  tracks: Track[];
  rules: Rule[];
  paths: MovePath[];
}

/** What a recipe finds when its turn comes: the set, moved by keys and by recipes that begin before it. */
export interface RecipeScene {
  /** Frames of the shot. */
  length: number;
  seed: number;
  linked: readonly LinkedEase[];
  thing: (id: string) => SetThing | undefined;
  /** The shot's camera; null when it is gone. */
  camera: SetCamera | null;
  /** A number of a thing at a frame. */
  number: (thing: string, path: string, frame: number) => number;
}

/** Where a recipe puts what it makes. */
export class RecipeBench {
  private readonly keys = new Map<string, Track>();
  private readonly rules: Rule[] = [];
  private readonly paths: MovePath[] = [];
  readonly ease: EaseFunction;
  readonly end: number;

  constructor(
    readonly recipe: AppliedRecipe,
    readonly scene: RecipeScene,
  ) {
    this.end = recipe.start + recipe.length;
    this.ease = shareOf(recipe.ease, scene.linked);
  }

  get moves(): RecipeMoves {
    for (const track of this.keys.values()) track.keys.sort((a, b) => a.frame - b.frame);
    return { tracks: [...this.keys.values()], rules: this.rules, paths: this.paths };
  }

  option(name: string): number {
    return this.recipe.options[name] as number;
  }

  is(name: string): boolean {
    return this.recipe.options[name] as boolean;
  }

  chosen(name: string): string {
    return this.recipe.options[name] as string;
  }

  /** What it moves that is still there, in the order in which they begin, with the frame at which each does. */
  inTurn(): Array<{ id: string; start: number; end: number; turn: number }> {
    const { recipe } = this;
    const apart = (recipe.options.apart as number | undefined) ?? 0;
    return this.ordered().map((id, turn) => {
      const start = recipe.start + (recipe.at[turn] ?? turn * apart);
      return { id, start, end: start + recipe.length, turn };
    });
  }

  key(thing: string, path: string, frame: number, value: PropertyValue, ease: Ease = 'eased'): void {
    const name = `${thing} ${path}`;
    const track = this.keys.get(name) ?? { thing, path, keys: [] };
    this.keys.set(name, track);
    track.keys.push({ frame, value, ease } satisfies Key);
  }

  /** From one value to another by the recipe's ease. */
  span(thing: string, path: string, start: number, end: number, from: number, to: number): void {
    this.key(thing, path, start, from, this.recipe.ease);
    this.key(thing, path, end, to);
  }

  /** A way that is no straight line: keyed at every frame. @param at gives the place for the share of the way. */
  course(thing: string, path: 'position' | 'aim', start: number, end: number, at: (share: number) => Vec3): void {
    const steps = Math.max(1, Math.ceil(end - start));
    for (let i = 0; i <= steps; i++) {
      const frame = i === steps ? end : start + i;
      const point = at(this.ease((frame - start) / (end - start)));
      point.forEach((v, axis) => this.key(thing, `${path}.${axis}`, frame, v, 'linear'));
    }
  }

  /** Hidden until a frame; what is hidden in the set stays so. */
  appear(thing: string, frame: number): void {
    const shown = (this.scene.thing(thing) as { visible?: boolean } | undefined)?.visible;
    if (!shown || frame <= 0) return;
    this.key(thing, 'visible', -1, false, 'hold');
    this.key(thing, 'visible', frame, true, 'hold');
  }

  rule(thing: string, path: string, does: RuleDoes, tracks: Readonly<Record<string, readonly Key[]>> = {}): void {
    const id = `${this.recipe.id}-${this.rules.length}`;
    this.rules.push({ id, name: this.recipe.name, thing, path, muted: false, ...does });
    for (const [name, keys] of Object.entries(tracks))
      for (const { frame, value, ease } of keys) this.key(id, name, frame, value, ease);
  }

  /** A path through points, its id. */
  path(points: readonly Vec3[]): string {
    const id = `${this.recipe.id}-way`;
    this.paths.push({
      id,
      name: this.recipe.name,
      closed: false,
      points: points.map((at, i) => ({ id: `${id}-${i}`, at, handles: null })),
    });
    return id;
  }

  /** Place, or aim, of a thing at a frame. */
  point(thing: string, path: 'position' | 'aim', frame: number): Vec3 {
    return [0, 1, 2].map((axis) => this.scene.number(thing, `${path}.${axis}`, frame)) as Vec3;
  }

  /** Level unit vector to the right of the picture, as the shot's camera rests. */
  right(): Vec3 {
    const { camera } = this.scene;
    if (!camera) return [1, 0, 0];
    const [x, z] = [camera.aim[0] - camera.position[0], camera.aim[2] - camera.position[2]];
    const long = hypot(x, z);
    return long < 1e-9 ? [1, 0, 0] : [-z / long, 0, x / long];
  }

  private ordered(): string[] {
    const { recipe, scene } = this;
    const there = recipe.things.filter((id) => scene.thing(id));
    const place = (id: string): Vec3 => (scene.thing(id) as Partial<Placed>).position ?? [0, 0, 0];
    const by = (rank: (id: string) => number): string[] => {
      const ranks = new Map(there.map((id) => [id, rank(id)]));
      return [...there].sort((a, b) => ranks.get(a)! - ranks.get(b)!);
    };
    switch (recipe.options.sequence) {
      case 'left to right': {
        const right = this.right();
        return by((id) => place(id).reduce((sum, v, axis) => sum + v * right[axis], 0));
      }
      case 'near to far': {
        const eye = scene.camera?.position ?? [0, 0, 0];
        return by((id) => hypot(...place(id).map((v, axis) => v - eye[axis])));
      }
      case 'random':
        return by((id) => scrambled(`${scene.seed} ${id}`));
      default:
        return there;
    }
  }
}

/** An ease as a share of the way at a share of the time. */
function shareOf(ease: Ease, linked: readonly LinkedEase[]): EaseFunction {
  const resolved = resolveEase(ease, linked);
  if (typeof resolved !== 'string') return easeFunction(resolved);
  if (resolved === 'hold') return (t) => (t < 1 ? 0 : 1);
  return resolved === 'linear' ? (t) => t : (t) => t * t * t * (t * (t * 6 - 15) + 10);
}

/** A number by a text (FNV-1a), for orders that look random but stay. */
function scrambled(text: string): number {
  let h = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193);
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  return (h ^ (h >>> 13)) >>> 0;
}
