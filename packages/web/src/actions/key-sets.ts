import type { KeySet } from '@tender-orbit/core/contract';
import type { ActionId } from './catalogue.ts';

type Keys = Partial<Record<ActionId, string>>;

/** What both sets share: what browsers and people expect of any application, and stations by number. */
const COMMON: Keys = {
  'edit.undo': '$mod+Z',
  'edit.redo': '$mod+Shift+Z',
  'find.open': '$mod+K',
  'keys.open': '?',
  'go.brief': 'Alt+1',
  'go.products': 'Alt+2',
  'go.set': 'Alt+3',
  'go.moves': 'Alt+4',
  'go.composite': 'Alt+5',
  'go.promo': 'Alt+6',
  'go.release': 'Alt+7',
  'time.play': 'Space',
  'time.start': 'Home',
  'time.end': 'End',
  'thing.none': 'Escape',
  'thing.rename': 'F2',
  'thing.duplicate': '$mod+D',
  'key.delete': 'Delete',
  'promo.delete': 'Delete',
  'thing.delete': 'Delete',
};

/**
 * The two sets of keys that come with the application. Initials: the first letter of the word, with Shift to add. Left
 * hand: everything that is used while staging lies under the left hand, so that the right one keeps the mouse.
 */
export const KEYS: Readonly<Record<KeySet, Keys>> = {
  initials: {
    ...COMMON,
    'time.next': '.',
    'time.previous': ',',
    'shot.next': ']',
    'shot.previous': '[',
    'handles.move': 'M',
    'handles.turn': 'T',
    'view.clay': 'C',
    'view.lit': 'L',
    'view.traced': 'P',
    'view.camera': 'E',
    'view.side': 'B',
    'view.measure': 'D',
    'view.frame': 'F',
    'thing.next': 'N',
    'thing.previous': 'Shift+N',
    'thing.hide': 'H',
    'thing.only': 'O',
    'thing.lock': 'K',
    'thing.isolate': 'I',
    'add.key': 'Shift+K',
    'add.fill': 'Shift+F',
    'add.rim': 'Shift+R',
    'add.top': 'Shift+T',
    'add.background': 'Shift+B',
    'add.flag': 'Shift+L',
    'add.bounce': 'Shift+O',
    'add.camera': 'Shift+C',
    'add.plinth': 'Shift+P',
  },
  'left-hand': {
    ...COMMON,
    'time.next': 'E',
    'time.previous': 'Q',
    'shot.next': 'Shift+E',
    'shot.previous': 'Shift+Q',
    'handles.move': 'D',
    'handles.turn': 'F',
    'view.clay': '1',
    'view.lit': '2',
    'view.traced': '3',
    'view.camera': 'A',
    'view.side': 'Shift+A',
    'view.measure': 'R',
    'view.frame': 'S',
    'thing.next': 'T',
    'thing.previous': 'Shift+T',
    'thing.hide': 'X',
    'thing.only': 'Z',
    'thing.lock': 'C',
    'thing.isolate': 'V',
    'add.key': 'Shift+1',
    'add.fill': 'Shift+2',
    'add.rim': 'Shift+3',
    'add.top': 'Shift+4',
    'add.background': 'Shift+5',
    'add.flag': 'Shift+F',
    'add.bounce': 'Shift+W',
    'add.camera': 'Shift+C',
    'add.plinth': 'Shift+S',
  },
};

export const KEY_SET_NAMES: Readonly<Record<KeySet, string>> = { initials: 'Initials', 'left-hand': 'Left hand' };
