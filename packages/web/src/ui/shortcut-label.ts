import { inject, type InjectionKey } from 'vue';

/** How the keys of an action are written for the person, by the action's id; empty when it has none. */
export const SHORTCUT_LABEL: InjectionKey<(action: string) => string> = Symbol('shortcut label');

/** @returns what a tooltip says: the words, and the keys of the action where it has some. */
export function useTipText(): (text: string, action: string) => string {
  const labelOf = inject(SHORTCUT_LABEL, () => '');
  return (text, action) => {
    const keys = action ? labelOf(action) : '';
    return keys ? `${text} (${keys})` : text;
  };
}
