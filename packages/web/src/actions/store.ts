import { defineStore } from 'pinia';
import { computed, onScopeDispose, ref, shallowReactive } from 'vue';
import { useSession } from '../stores/index.ts';
import type { MenuLine, MenuLines } from '../ui/index.ts';
import { ACTION_IDS, ENTRIES, type ActionId } from './catalogue.ts';
import { belongsToFocus, comboLabel, isPressed, type Combo } from './combos.ts';
import { KEYS } from './key-sets.ts';

/** How an action is done where it can be done now. */
export interface Handler {
  run: () => void;
  /** Absent: always. */
  enabled?: () => boolean;
  /** Says what it would do now, like "Undo Move Key"; absent: the catalogue's label. */
  label?: () => string;
  /** SVG path in menus. */
  icon?: string;
}
export type Handlers = Partial<Record<ActionId, Handler | (() => void)>>;

/** Something that the search finds besides the actions: a thing, a shot, a product, a kit. */
export interface Find {
  title: string;
  /** What it is. */
  hint: string;
  run: () => void;
}

/** How long an action waits for its station, ms. */
const PATIENCE = 5000;

/** What can be done now, by which keys, and what the search finds. */
export const useActions = defineStore('actions', () => {
  const session = useSession();
  /** The last one that was given counts: a dialog's handler goes before its station's. */
  const handlers = shallowReactive(new Map<ActionId, Handler[]>());
  const sources = shallowReactive(new Set<() => Find[]>());
  /** An action of another station that waits to be possible. */
  const awaited = ref<ActionId | null>(null);

  const handlerOf = (id: ActionId): Handler | undefined => handlers.get(id)?.at(-1);
  const can = (id: ActionId): boolean => {
    const handler = handlerOf(id);
    return handler !== undefined && (handler.enabled?.() ?? true);
  };
  const labelOf = (id: ActionId): string => handlerOf(id)?.label?.() ?? ENTRIES[id].label;

  /** Keys by action: the person's own, else those of the set. */
  const keys = computed<ReadonlyMap<ActionId, Combo>>(() => {
    const { keySet, bindings } = session.preferences;
    return new Map(ACTION_IDS.map((id) => [id, bindings[id] ?? KEYS[keySet][id] ?? '']));
  });
  const keysOf = (id: string): string => comboLabel(keys.value.get(id as ActionId) ?? '');

  /** @returns whether it could be done. */
  function run(id: ActionId): boolean {
    if (!can(id)) return false;
    handlerOf(id)!.run();
    return true;
  }

  function add(id: ActionId, handler: Handler): void {
    handlers.set(id, [...(handlers.get(id) ?? []), handler]);
    if (awaited.value !== id) return;
    awaited.value = null;
    // After the station stands.
    setTimeout(() => run(id));
  }
  /** Does an action as soon as its station can, unless that takes so long that nobody waits for it any more. */
  function defer(id: ActionId): void {
    awaited.value = id;
    setTimeout(() => {
      if (awaited.value === id) awaited.value = null;
    }, PATIENCE);
  }
  function drop(id: ActionId, handler: Handler): void {
    const rest = (handlers.get(id) ?? []).filter((other) => other !== handler);
    if (rest.length > 0) handlers.set(id, rest);
    else handlers.delete(id);
  }

  /** A key that was pressed: does the action that has it, if one can be done. */
  function press(event: KeyboardEvent): void {
    if (event.defaultPrevented || belongsToFocus(event)) return;
    for (const [id, combo] of keys.value) {
      if (!isPressed(combo, event) || !can(id)) continue;
      event.preventDefault();
      run(id);
      return;
    }
  }

  /** Gives an action the person's own keys; whoever had them loses them. @returns the action that lost them. */
  function bind(id: ActionId, combo: Combo): ActionId | null {
    const other = combo ? ([...keys.value].find(([had, its]) => its === combo && had !== id)?.[0] ?? null) : null;
    const bindings = { ...session.preferences.bindings, [id]: combo, ...(other && { [other]: '' }) };
    void session.choose({ bindings });
    return other;
  }

  /**
   * Lines of a menu for actions that can be done; `null` draws a rule between those that are left.
   * @param titleOf the words of a line, where the menu's own name says a part of them.
   */
  function lines(
    ids: ReadonlyArray<ActionId | null>,
    titleOf: (label: string) => string = (label) => label,
  ): MenuLines {
    const out: Array<MenuLine | null> = [];
    for (const id of ids) {
      const handler = id && handlerOf(id);
      if (id === null) {
        if (out.length > 0 && out.at(-1) !== null) out.push(null);
      } else if (handler)
        out.push({
          title: titleOf(labelOf(id)),
          icon: handler.icon,
          action: id,
          disabled: !can(id),
          run: () => run(id),
        });
    }
    if (out.at(-1) === null) out.pop();
    return out;
  }

  const finds = computed(() => [...sources].flatMap((source) => source()));

  return { awaited, keys, finds, can, labelOf, keysOf, run, add, defer, drop, press, bind, lines, sources };
});

/** Makes actions possible while the component that calls it is there. */
export function useHandlers(given: Handlers): void {
  const actions = useActions();
  const made = (Object.entries(given) as Array<[ActionId, Handler | (() => void)]>).map(
    ([id, handler]) => [id, typeof handler === 'function' ? { run: handler } : handler] as const,
  );
  for (const [id, handler] of made) actions.add(id, handler);
  onScopeDispose(() => made.forEach(([id, handler]) => actions.drop(id, handler)));
}

/** Lets the search find more while the component that calls it is there. */
export function useFinds(source: () => Find[]): void {
  const actions = useActions();
  actions.sources.add(source);
  onScopeDispose(() => actions.sources.delete(source));
}
