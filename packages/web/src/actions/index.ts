export { ACTION_GROUPS, ACTION_IDS, ENTRIES, type ActionGroup, type ActionId, type Station } from './catalogue.ts';
export { comboLabel, comboOf, isPressed, type Combo } from './combos.ts';
export { KEY_SET_NAMES, KEYS } from './key-sets.ts';
export { search, type Hit } from './search.ts';
export { useActions, useFinds, useHandlers, type Find, type Handler, type Handlers } from './store.ts';
