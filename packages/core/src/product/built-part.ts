import type { Mesh } from '../geometry/index.ts';

/** One part of a built product. */
export interface BuiltPart {
  name: string;
  mesh: Mesh;
  /** Which of the builder's finishes it starts with. */
  finish: BuiltFinish;
  /** Width and height in metres of a part that takes art: what the art's proportion should be. */
  panel?: readonly [number, number];
}
export type BuiltFinish = 'body' | 'inside' | 'liquid' | 'cap' | 'cork' | 'label' | 'screen';
