/** What a person can do, by group: everything that has a button, a key, a line in a menu or a place in the search. */
export interface ActionEntry {
  label: string;
  group: ActionGroup;
  /** Other words that people look for it by. */
  words?: string;
  /** Where it works; the search goes there first. Absent: everywhere in a campaign. */
  station?: Station;
}

export const ACTION_GROUPS = [
  'Campaign',
  'Shot and time',
  'Viewer',
  'Things',
  'Add to the set',
  'Products',
  'Work',
] as const;
export type ActionGroup = (typeof ACTION_GROUPS)[number];
export type Station = 'brief' | 'products' | 'set' | 'moves' | 'composite' | 'promo' | 'release';

const entry = (group: ActionGroup, label: string, words = '', station?: Station): ActionEntry => ({
  group,
  label,
  words,
  station,
});

export const ACTIONS = {
  'edit.undo': entry('Campaign', 'Undo', 'take back revert'),
  'edit.redo': entry('Campaign', 'Redo', 'again repeat'),
  'find.open': entry('Campaign', 'Search actions and things', 'find command'),
  'keys.open': entry('Campaign', 'Shortcuts', 'keys keyboard bindings help'),
  'revisions.open': entry('Campaign', 'Saved revisions', 'history versions restore bring back'),
  'go.campaigns': entry('Campaign', 'All campaigns', 'home projects jobs'),
  'go.brief': entry('Campaign', 'Go to Brief', 'storyboard boards'),
  'go.products': entry('Campaign', 'Go to Products', 'models'),
  'go.set': entry('Campaign', 'Go to Set', 'studio stage lights'),
  'go.moves': entry('Campaign', 'Go to Moves', 'animation keyframes'),
  'go.composite': entry('Campaign', 'Go to Composite', 'render takes'),
  'go.promo': entry('Campaign', 'Go to Promo', 'edit cut music titles'),
  'go.release': entry('Campaign', 'Go to Release', 'export deliver files video'),

  'shot.next': entry('Shot and time', 'Next shot'),
  'shot.previous': entry('Shot and time', 'Previous shot'),
  'shot.add': entry('Shot and time', 'New shot', 'add board'),
  'shot.duplicate': entry('Shot and time', 'Duplicate shot with its moves', 'copy board'),
  'shot.continue': entry('Shot and time', 'New shot from the last pose', 'continue end pose'),
  'time.play': entry('Shot and time', 'Play or stop', 'pause preview'),
  'time.next': entry('Shot and time', 'One frame on', 'next frame step'),
  'time.previous': entry('Shot and time', 'One frame back', 'previous frame step'),
  'time.start': entry('Shot and time', 'To the first frame', 'beginning'),
  'time.end': entry('Shot and time', 'To the last frame', 'end'),

  'view.lit': entry('Viewer', 'Lit view', 'realtime preview', 'set'),
  'view.clay': entry('Viewer', 'Clay view', 'neutral grey', 'set'),
  'view.traced': entry('Viewer', 'Traced view', 'path tracer render preview', 'set'),
  'view.camera': entry('Viewer', 'Look through the camera', 'back', 'set'),
  'view.top': entry('Viewer', 'Look from the top', 'above plan', 'set'),
  'view.front': entry('Viewer', 'Look from the front', '', 'set'),
  'view.right': entry('Viewer', 'Look from the right', 'side', 'set'),
  'view.side': entry('Viewer', 'Side by side', 'split two views', 'set'),
  'view.measure': entry('Viewer', 'Measure between two places', 'distance tape', 'set'),
  'view.place-camera': entry('Viewer', 'Bring the camera here', 'align camera to view', 'set'),
  'view.frame': entry('Viewer', 'Frame products', 'fit zoom all', 'set'),
  'handles.move': entry('Viewer', 'Move handles', 'translate', 'set'),
  'handles.turn': entry('Viewer', 'Turn handle', 'rotate', 'set'),

  'moves.turntable': entry('Work', 'Turntable', 'rotate spin recipe', 'moves'),
  'moves.push-in': entry('Work', 'Push-in', 'dolly recipe', 'moves'),
  'moves.clear': entry('Work', 'Clear all moves', 'delete keys', 'moves'),
  'moves.record': entry('Work', 'Record keys', 'auto key recording switch', 'moves'),
  'motion.drop': entry('Work', 'Drop as bodies', 'physics rigid fall simulation', 'moves'),
  'motion.copy': entry('Work', 'Copy or remove motion', 'paste keys attributes things', 'moves'),
  'key.delete': entry('Work', 'Delete chosen keys', 'remove', 'moves'),
  'key.copy': entry('Work', 'Copy chosen keys', 'clipboard', 'moves'),
  'key.paste': entry('Work', 'Paste keys at the playhead', 'clipboard', 'moves'),
  'key.duplicate': entry('Work', 'Duplicate chosen keys', 'copy after', 'moves'),
  'key.reverse': entry('Work', 'Reverse chosen keys', 'backwards time', 'moves'),
  'key.mirror': entry('Work', 'Mirror chosen keys', 'flip values', 'moves'),
  'key.on': entry('Work', 'Chosen keys one frame later', 'nudge', 'moves'),
  'key.back': entry('Work', 'Chosen keys one frame earlier', 'nudge', 'moves'),
  'key.beats': entry('Work', 'Fit chosen keys to beats', 'music snap', 'moves'),
  'key.place': entry('Work', 'Key the whole place', 'position turn aim', 'moves'),
  'key.moving': entry('Work', 'Key all that moves', 'every track', 'moves'),
  'key.next': entry('Shot and time', 'To the next key', 'jump', 'moves'),
  'key.previous': entry('Shot and time', 'To the key before', 'jump', 'moves'),
  'take.start': entry('Work', 'Start take', 'render', 'composite'),
  'promo.title': entry('Work', 'Add title', 'text', 'promo'),
  'promo.captions': entry('Work', 'Bring in captions', 'subtitles webvtt vtt subrip srt', 'promo'),
  'promo.music': entry('Work', 'Add or change music', 'sound track', 'promo'),
  'promo.split': entry('Work', 'Split the clip at the playhead', 'cut blade two', 'promo'),
  'promo.delete': entry('Work', 'Delete chosen clip, title or music', 'remove', 'promo'),
  'release.make': entry('Work', 'Make the file', 'encode export mp4 webm', 'release'),

  'thing.next': entry('Things', 'Choose the next thing', 'select', 'set'),
  'thing.previous': entry('Things', 'Choose the previous thing', 'select', 'set'),
  'thing.none': entry('Things', 'Choose nothing', 'deselect clear selection', 'set'),
  'thing.rename': entry('Things', 'Rename', 'name', 'set'),
  'thing.duplicate': entry('Things', 'Duplicate', 'copy', 'set'),
  'thing.delete': entry('Things', 'Delete', 'remove', 'set'),
  'thing.hide': entry('Things', 'Hide or show', 'visible off on', 'set'),
  'thing.only': entry('Things', 'Only this light', 'solo', 'set'),
  'thing.lock': entry('Things', 'Lock or unlock', 'fix', 'set'),
  'thing.isolate': entry('Things', 'Isolate', 'alone', 'set'),
  'thing.group': entry('Things', 'Group', 'together', 'set'),
  'thing.ungroup': entry('Things', 'Ungroup', '', 'set'),
  'thing.copy-place': entry('Things', 'Copy place and turn', 'transform position', 'set'),
  'thing.paste-place': entry('Things', 'Paste place and turn', 'transform position', 'set'),
  'thing.seat': entry('Things', 'Seat on the ground or not', 'floor drop', 'set'),
  'thing.highlight': entry('Things', 'Place highlight', 'reflection light', 'set'),

  'add.key': entry('Add to the set', 'Add key light', 'softbox lamp', 'set'),
  'add.fill': entry('Add to the set', 'Add fill light', 'softbox lamp', 'set'),
  'add.rim': entry('Add to the set', 'Add rim light', 'softbox lamp back edge', 'set'),
  'add.top': entry('Add to the set', 'Add top light', 'softbox lamp overhead', 'set'),
  'add.background': entry('Add to the set', 'Add background light', 'softbox lamp', 'set'),
  'add.flag': entry('Add to the set', 'Add flag', 'black card negative fill', 'set'),
  'add.bounce': entry('Add to the set', 'Add bounce card', 'white reflector', 'set'),
  'add.plinth': entry('Add to the set', 'Add plinth', 'box stand podium', 'set'),
  'add.drum': entry('Add to the set', 'Add round plinth', 'cylinder podium', 'set'),
  'add.steps': entry('Add to the set', 'Add steps', 'stairs', 'set'),
  'add.tabletop': entry('Add to the set', 'Add tabletop', 'table', 'set'),
  'add.floor': entry('Add to the set', 'Add floor', 'ground', 'set'),
  'add.wall': entry('Add to the set', 'Add wall or backdrop', 'background', 'set'),
  'add.panel': entry('Add to the set', 'Add floating panel', 'plate', 'set'),
  'add.camera': entry('Add to the set', 'Add camera', 'view', 'set'),
  'add.smoke-reveal': entry('Add to the set', 'Add smoke reveal', 'effect simulation cloud', 'set'),
  'add.smoke-wipe': entry('Add to the set', 'Add smoke wipe', 'effect simulation', 'set'),
  'add.floor-fog': entry('Add to the set', 'Add floor fog', 'effect simulation smoke mist', 'set'),
  'add.steam': entry('Add to the set', 'Add steam', 'effect simulation smoke vapour', 'set'),
  'add.plain-smoke': entry('Add to the set', 'Add plain smoke', 'effect simulation', 'set'),
  'add.dust-in-light': entry('Add to the set', 'Add dust in light', 'effect simulation particles', 'set'),
  'add.petal-burst': entry('Add to the set', 'Add petal burst', 'effect simulation particles', 'set'),
  'add.falling-petals': entry('Add to the set', 'Add falling petals', 'effect simulation particles', 'set'),
  'add.falling-leaves': entry('Add to the set', 'Add falling leaves', 'effect simulation particles', 'set'),
  'add.falling-seeds': entry('Add to the set', 'Add falling seeds', 'effect simulation particles', 'set'),
  'add.snow': entry('Add to the set', 'Add snow', 'effect simulation particles', 'set'),
  'add.falling-ice': entry('Add to the set', 'Add falling ice', 'effect simulation particles', 'set'),
  'add.falling-beads': entry('Add to the set', 'Add falling beads', 'effect simulation particles', 'set'),
  'add.specks-from-the-product': entry(
    'Add to the set',
    'Add specks from the product',
    'effect simulation particles',
    'set',
  ),
  'kit.keep': entry('Add to the set', 'Keep these lights as a kit', 'save light setup', 'set'),
  'set.export': entry('Add to the set', 'Export set as .glb', 'gltf download', 'set'),

  'product.import': entry('Products', 'Import model', 'glb gltf obj stl ply open file', 'products'),
  'product.stand': entry('Products', 'Put product on the set', 'stage', 'products'),
  'product.duplicate': entry('Products', 'Duplicate product', 'copy', 'products'),
  'product.delete': entry('Products', 'Delete product', 'remove', 'products'),
  'variant.add': entry('Products', 'New variant', 'look', 'products'),
  'product.frame': entry('Products', 'Frame product', 'fit zoom', 'products'),
} as const satisfies Record<string, ActionEntry>;

export type ActionId = keyof typeof ACTIONS;

/** The catalogue with its entries as what they have in common. */
export const ENTRIES: Readonly<Record<ActionId, ActionEntry>> = ACTIONS;
export const ACTION_IDS = Object.keys(ACTIONS) as ActionId[];
