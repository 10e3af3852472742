import { choice, toggle, type ChoiceProperty } from '../../properties/index.ts';
import { field, flag, id, list, shape, text, type Field } from '../fields.ts';

/** Which rays meet a thing: those of the camera, of mirrors and glass, of shadows, and of light bounced off matt things. */
export interface RayVisibility {
  camera: boolean;
  reflections: boolean;
  shadows: boolean;
  lighting: boolean;
}

export const RAY_VISIBILITY = {
  'rayVisibility.camera': toggle('Seen by camera'),
  'rayVisibility.reflections': toggle('Seen in reflections'),
  'rayVisibility.shadows': toggle('Casts shadows'),
  'rayVisibility.lighting': toggle('Bounces light'),
} as const;

export const rayVisibilitySchema = shape<RayVisibility>({
  camera: field(RAY_VISIBILITY['rayVisibility.camera']),
  reflections: field(RAY_VISIBILITY['rayVisibility.reflections']),
  shadows: field(RAY_VISIBILITY['rayVisibility.shadows']),
  lighting: field(RAY_VISIBILITY['rayVisibility.lighting']),
});

export function visibleToAll(): RayVisibility {
  return { camera: true, reflections: true, shadows: true, lighting: true };
}

/** How a thing is kept: with others, or in its place. */
export interface Arranged {
  /** Things of the same group move together; empty for none. */
  group: string;
  /** A locked thing is not moved by dragging. */
  locked: boolean;
}

export const arrangedFields: { group: Field<string>; locked: Field<boolean> } = {
  group: text('Group', 120),
  locked: flag('Locked'),
};

export function loose(): Arranged {
  return { group: '', locked: false };
}

/** Which things a light reaches (light linking). */
export interface LightLinking {
  mode: 'all' | 'only' | 'except';
  things: string[];
}

export const LINK_MODE: ChoiceProperty<LightLinking['mode']> = choice('Light linking', ['all', 'only', 'except']);

export const lightLinkingSchema = shape<LightLinking>({
  mode: field(LINK_MODE),
  things: list('Linked things', id('Thing'), 500),
});
