import { ref } from 'vue';

/** Words over the lines that follow. */
export interface MenuHeading {
  heading: string;
}

/** Something that a menu does. */
export interface MenuLine {
  title: string;
  /** SVG path. */
  icon?: string;
  /** Id of the action it is, for its keys. */
  action?: string;
  disabled?: boolean;
  /** Takes it out of the menu for good, by a button of its own with this name. */
  drop?: { label: string; run: () => void };
  run: () => void;
}
/** `null` between lines draws a rule. */
export type MenuLines = ReadonlyArray<MenuLine | MenuHeading | null>;

/** The one context menu: what it shows and where, in pixels of the window. */
export const contextMenu = ref<{ lines: MenuLines; at: [number, number] } | null>(null);

/**
 * Opens the context menu where a thing was pressed, or under it when a key asked for it. An empty menu stays closed, and
 * the browser's own comes.
 */
export function openContextMenu(event: MouseEvent | KeyboardEvent, lines: MenuLines): void {
  if (lines.length === 0) return;
  event.preventDefault();
  event.stopPropagation();
  // The menu key gives no place of the pointer.
  const box = (event.currentTarget as Element | null)?.getBoundingClientRect();
  const pointed = 'clientX' in event && (event.clientX !== 0 || event.clientY !== 0);
  contextMenu.value = {
    lines,
    at: pointed || !box ? pointOf(event) : [box.left + 8, Math.min(box.bottom, box.top + 28)],
  };
}

const pointOf = (event: MouseEvent | KeyboardEvent): [number, number] =>
  'clientX' in event ? [event.clientX, event.clientY] : [0, 0];
