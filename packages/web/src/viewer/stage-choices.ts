import { mdiArrowAll, mdiRotate360 } from '@mdi/js';
import type { ActionId } from '../actions/index.ts';
import type { ToggleOption } from '../ui/index.ts';

/** How the viewer draws the set. */
export type Drawing = 'clay' | 'lit' | 'traced';

export const DRAWINGS: ReadonlyArray<ToggleOption<Drawing>> = [
  { value: 'clay', label: 'Clay' },
  { value: 'lit', label: 'Lit' },
  { value: 'traced', label: 'Traced' },
];
/** What the handles on the chosen thing do. */
export const HANDLES: ReadonlyArray<ToggleOption<'move' | 'turn'>> = [
  { value: 'move', label: 'Move handles', icon: mdiArrowAll },
  { value: 'turn', label: 'Turn handle', icon: mdiRotate360 },
];

/** What a right click beside all things offers. */
export const SET_MENU: ReadonlyArray<ActionId | null> = [
  ...(['view.camera', 'view.top', 'view.front', 'view.right', 'view.side', 'view.frame', null] as const),
  ...(['view.lit', 'view.clay', 'view.traced', null, 'view.measure', 'view.place-camera', null] as const),
  ...(['add.key', 'add.fill', 'add.rim', 'add.flag', 'add.bounce', 'add.plinth'] as const),
];
