import { matchKeyBindingPress, parseKeybinding } from 'tinykeys';

/** Keys as they are kept: modifiers and a key joined by +, `$mod` for Ctrl (Cmd on a Mac), like `$mod+Shift+Z` or `.`. */
export type Combo = string;

const MODIFIERS = ['Control', 'Meta', 'Alt', 'Shift'];
const NAMES: Readonly<Record<string, string>> = {
  ' ': 'Space',
  space: 'Space',
  escape: 'Esc',
  arrowleft: 'Left',
  arrowright: 'Right',
  arrowup: 'Up',
  arrowdown: 'Down',
  $mod: 'Ctrl',
  control: 'Ctrl',
  meta: 'Cmd',
};

/** Whether a press of keys is a combination. A sign that needs Shift on some keyboards counts with and without it. */
export function isPressed(combo: Combo, event: KeyboardEvent): boolean {
  if (!combo) return false;
  // Digits and letters with Shift change their sign: those go by the key itself.
  const [press] = parseKeybinding(coded(combo));
  if (matchKeyBindingPress(event, press)) return true;
  const sign = combo.length === 1 && !/[a-z0-9]/i.test(combo);
  return sign && event.key === combo && !event.ctrlKey && !event.metaKey && !event.altKey;
}

/** Letters and digits by the key's place, so that Shift and other modifiers do not change them. */
function coded(combo: Combo): string {
  return combo.replace(/(^|\+)([A-Z0-9])$/i, (_, before: string, key: string) =>
    /\d/.test(key) ? `${before}Digit${key}` : `${before}Key${key.toUpperCase()}`,
  );
}

/** The combination that is being pressed; empty while only modifiers are. */
export function comboOf(event: KeyboardEvent): Combo {
  if (MODIFIERS.includes(event.key)) return '';
  const key = /^Key[A-Z]$|^Digit\d$/.test(event.code) ? event.code.slice(-1) : event.key === ' ' ? 'Space' : event.key;
  const sign = key.length === 1 && !/[a-z0-9]/i.test(key);
  const parts = [
    (event.ctrlKey || event.metaKey) && '$mod',
    event.altKey && 'Alt',
    event.shiftKey && !sign && 'Shift',
    key.length === 1 ? key.toUpperCase() : key,
  ];
  return parts.filter(Boolean).join('+');
}

/** A combination as the person reads it. */
export function comboLabel(combo: Combo): string {
  if (!combo) return '';
  return combo
    .split(/\+(?=.)/)
    .map((part) => NAMES[part.toLowerCase()] ?? part)
    .join('+');
}

/** A key that does something to what is in focus, and so belongs to it before any action. */
export function belongsToFocus(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null;
  if (!target?.closest) return false;
  // A dialog or a menu lies over the work: its keys are its own.
  if (target.closest('.v-overlay') !== null) return true;
  const writing = target.closest('input:not([type=checkbox]), textarea, [contenteditable]') !== null;
  // While writing only what no text field knows goes through.
  if (writing) return !((event.ctrlKey || event.metaKey) && /^[kK]$/.test(event.key)) && !event.altKey;
  const pressing = target.closest('button, a, [role=slider], [role=radio], [role=tab], [role=option], [role=menuitem]');
  if (pressing && [' ', 'Enter'].includes(event.key)) return true;
  return (
    target.closest('[role=slider], [role=radio], [role=separator]') !== null && /^(Arrow|Home|End|Page)/.test(event.key)
  );
}
