import type { ClipPath, ClipPicture, Ease, Key } from '../document/index.ts';
import { seeded, sin } from '../maths/index.ts';

/** Values and keys that make a move of a clip's picture; frames count from the clip's first. */
export interface PictureMove {
  picture: Partial<ClipPicture>;
  keys: Partial<Record<ClipPath, Array<Key<number>>>>;
}

type Places = Partial<Record<ClipPath, number>>;

/** A move from a clip's first frame to its last; what is the same at both is no key. */
export function fromTo(length: number, from: Places, to: Places, ease: Ease = 'linear'): PictureMove {
  const keys: PictureMove['keys'] = {};
  for (const [path, end] of Object.entries(to) as Array<[ClipPath, number]>) {
    const begin = from[path];
    if (length < 2 || begin === undefined || begin === end) continue;
    keys[path] = [
      { frame: 0, value: begin, ease },
      { frame: length - 1, value: end, ease: 'eased' },
    ];
  }
  return { picture: from, keys };
}

export const PICTURE_RECIPES = [
  ...(['slow push', 'pull back', 'drift', 'slide in', 'settle'] as const),
  ...(['punch in on beats', 'pulse on beats', 'shake', 'fade in', 'fade out'] as const),
] as const;
export type PictureRecipe = (typeof PICTURE_RECIPES)[number];

export interface RecipeGround {
  /** Frames of the clip. */
  length: number;
  /** Frames of it on which beats fall. */
  beats: readonly number[];
  /** How much: 1 is usual. */
  strength: number;
  seed: number;
}

const SOFT: Ease = { kind: 'soft', start: 1, landing: 1 };
const LANDING: Ease = { kind: 'bezier', out: [1 / 3, 1], in: [2 / 3, 1] };
/** Frames between two places of a shake, and how far the frame goes at most. */
const SHAKE = { step: 2, far: 0.02, turn: 0.8 };

/** A move of a clip's picture as it is usually made; all of it can be changed afterwards. */
export function pictureRecipe(kind: PictureRecipe, ground: RecipeGround): PictureMove {
  const { length, strength } = ground;
  const rest = { scale: 1 };
  const third = Math.max(1, Math.min(length - 1, Math.round(length / 3)));
  switch (kind) {
    case 'slow push':
      return fromTo(length, rest, { scale: 1 + 0.08 * strength });
    case 'pull back':
      return fromTo(length, { scale: 1 + 0.08 * strength }, rest);
    case 'drift':
      return fromTo(length, { x: -0.05 * strength }, { x: 0.05 * strength });
    case 'slide in':
      return {
        picture: { cover: false },
        keys: {
          x: [
            { frame: 0, value: 1.8, ease: LANDING },
            { frame: third, value: 0, ease: 'eased' },
          ],
        },
      };
    case 'settle':
      return {
        picture: rest,
        keys: {
          scale: [
            { frame: 0, value: 1 + 0.25 * strength, ease: LANDING },
            { frame: third, value: 1, ease: 'eased' },
          ],
        },
      };
    case 'punch in on beats':
      return punched(ground);
    case 'pulse on beats':
      return pulsed(ground);
    case 'shake':
      return shaken(ground);
    case 'fade in':
      return {
        picture: {},
        keys: {
          opacity: [
            { frame: 0, value: 0, ease: SOFT },
            { frame: third, value: 1, ease: 'eased' },
          ],
        },
      };
    case 'fade out':
      return {
        picture: {},
        keys: {
          opacity: [
            { frame: Math.max(0, length - 1 - third), value: 1, ease: SOFT },
            { frame: length - 1, value: 0, ease: 'eased' },
          ],
        },
      };
  }
}

/** Frames of a clip on which something can happen: its beats after the first frame, or its middle where there are none. */
const accents = ({ beats, length }: RecipeGround): number[] => {
  const within = [...new Set(beats.map(Math.round))].filter((frame) => frame > 0 && frame < length - 1);
  return within.length > 0 ? within : [Math.floor(length / 2)];
};

/** Each beat steps nearer, within two frames. */
function punched(ground: RecipeGround): PictureMove {
  const keys: Array<Key<number>> = [{ frame: 0, value: 1, ease: 'hold' }];
  accents(ground).forEach((frame, i) => {
    const value = 1 + 0.12 * ground.strength * (i + 1);
    if (frame > 1) keys.push({ frame: frame - 1, value: keys.at(-1)!.value, ease: LANDING });
    keys.push({ frame: frame + 1, value, ease: 'hold' });
  });
  return { picture: { scale: 1 }, keys: { scale: distinct(keys) } };
}

/** Each beat is a little nearer at once, and comes back. */
function pulsed(ground: RecipeGround): PictureMove {
  const at = accents(ground);
  const keys: Array<Key<number>> = [{ frame: 0, value: 1, ease: 'hold' }];
  at.forEach((frame, i) => {
    const next = at[i + 1] ?? ground.length;
    keys.push({ frame, value: 1 + 0.06 * ground.strength, ease: LANDING });
    keys.push({ frame: frame + Math.max(1, Math.round((next - frame) * 0.7)), value: 1, ease: 'hold' });
  });
  return { picture: { scale: 1 }, keys: { scale: distinct(keys) } };
}

/** Out of the hand: seeded places that die away to the clip's end. */
function shaken({ length, strength, seed }: RecipeGround): PictureMove {
  const random = seeded(seed);
  const frames = Array.from({ length: Math.max(2, Math.ceil(length / SHAKE.step)) }, (_, i) => i * SHAKE.step);
  const way = (far: number): Array<Key<number>> =>
    frames.map((frame) => {
      const left = 1 - Math.min(1, frame / Math.max(1, length - 1));
      const swing = (random() * 2 - 1) * far * strength * sin((left * Math.PI) / 2);
      return { frame, value: swing, ease: 'eased' };
    });
  return { picture: { cover: true }, keys: { x: way(SHAKE.far), y: way(SHAKE.far), rotation: way(SHAKE.turn) } };
}

/** Keys in order, the later of two on one frame. */
const distinct = (keys: ReadonlyArray<Key<number>>): Array<Key<number>> =>
  [...new Map(keys.map((key) => [key.frame, key])).values()].sort((a, b) => a.frame - b.frame);
