import { expect } from 'chai';
import { KEY_SETS, NO_PREFERENCES, preferencesBody } from '@tender-orbit/core/contract';
import { effectScope, ref, type EffectScope } from 'vue';
import {
  ACTION_GROUPS,
  ACTION_IDS,
  comboLabel,
  comboOf,
  ENTRIES,
  isPressed,
  KEYS,
  search,
  useActions,
  useFinds,
  useHandlers,
  type ActionId,
  type Handlers,
} from '../src/actions/index.ts';
import { useSession } from '../src/stores/index.ts';
import { freshPage } from './fresh-page.ts';

interface Press {
  key: string;
  code?: string;
  ctrl?: boolean;
  shift?: boolean;
  alt?: boolean;
  within?: string;
}
/** A key as it is pressed on a page; `within` is the kind of thing in focus. */
function press({ key, code, ctrl = false, shift = false, alt = false, within = '' }: Press): KeyboardEvent {
  const codeOf = (): string => {
    if (/^[a-z]$/i.test(key)) return `Key${key.toUpperCase()}`;
    if (/^\d$/.test(key)) return `Digit${key}`;
    return key === ' ' ? 'Space' : key;
  };
  const held: Record<string, boolean> = { Control: ctrl, Shift: shift, Alt: alt, Meta: false };
  const event = {
    ...{ key, code: code ?? codeOf(), ctrlKey: ctrl, shiftKey: shift, altKey: alt, metaKey: false },
    defaultPrevented: false,
    getModifierState: (name: string) => held[name] ?? false,
    preventDefault: () => (event.defaultPrevented = true),
    target: { closest: (selector: string) => (within && selector.split(/, ?/).some((s) => s === within) ? {} : null) },
  };
  return event as unknown as KeyboardEvent;
}

describe('web: keys', () => {
  it('are matched with exactly their modifiers, letters and digits by their place', () => {
    expect(isPressed('$mod+Z', press({ key: 'z', ctrl: true }))).equal(true);
    expect(isPressed('$mod+Z', press({ key: 'Z', ctrl: true, shift: true }))).equal(false);
    expect(isPressed('$mod+Shift+Z', press({ key: 'Z', ctrl: true, shift: true }))).equal(true);
    expect(isPressed('Shift+1', press({ key: '!', code: 'Digit1', shift: true }))).equal(true);
    expect(isPressed('Alt+3', press({ key: '3', alt: true }))).equal(true);
    expect(isPressed('M', press({ key: 'm' }))).equal(true);
    expect(isPressed('M', press({ key: 'm', ctrl: true }))).equal(false);
    expect(isPressed('Space', press({ key: ' ' }))).equal(true);
    expect(isPressed('', press({ key: 'm' }))).equal(false);
  });

  it('that are signs count however the keyboard makes them', () => {
    expect(isPressed('?', press({ key: '?', code: 'Slash', shift: true }))).equal(true);
    expect(isPressed('?', press({ key: '?', code: 'Minus' }))).equal(true);
    expect(isPressed('[', press({ key: '[', code: 'Digit8' }))).equal(true);
    expect(isPressed('[', press({ key: '[', code: 'Digit8', ctrl: true }))).equal(false);
  });

  it('read back as what was pressed, and are written for people', () => {
    for (const [event, combo, label] of [
      [press({ key: 'z', ctrl: true }), '$mod+Z', 'Ctrl+Z'],
      [press({ key: 'K', shift: true }), 'Shift+K', 'Shift+K'],
      [press({ key: '!', code: 'Digit1', shift: true }), 'Shift+1', 'Shift+1'],
      [press({ key: ' ' }), 'Space', 'Space'],
      [press({ key: '?', code: 'Slash', shift: true }), '?', '?'],
      [press({ key: 'ArrowLeft', alt: true }), 'Alt+ArrowLeft', 'Alt+Left'],
      [press({ key: 'F2' }), 'F2', 'F2'],
    ] as const) {
      expect(comboOf(event), label).equal(combo);
      expect(comboLabel(combo)).equal(label);
      expect(isPressed(combo, event), label).equal(true);
    }
    expect(comboOf(press({ key: 'Shift', shift: true }))).equal('');
    expect(comboLabel('')).equal('');
  });

  for (const set of KEY_SETS) {
    it(`the set "${set}" gives no keys twice where both could be meant, and names only actions`, () => {
      // Deleting goes by what is chosen: keys, then clips, then things.
      const taken = new Map<string, string>();
      for (const [id, combo] of Object.entries(KEYS[set])) {
        expect(ACTION_IDS, id).include(id as ActionId);
        if (combo === 'Delete') continue;
        expect(taken.get(combo), `${combo} of ${id}`).equal(undefined);
        taken.set(combo, id);
      }
    });
  }

  it('every action has words and a group that is shown', () => {
    for (const id of ACTION_IDS) {
      expect(ENTRIES[id].label, id).match(/^[A-Z]/);
      expect(ACTION_GROUPS).include(ENTRIES[id].group);
    }
    expect(new Set(ACTION_IDS.map((id) => ENTRIES[id].label)).size).equal(ACTION_IDS.length);
  });
});

describe('web: actions', () => {
  const real = globalThis.fetch;
  let sent: unknown[] = [];
  let scope: EffectScope;
  before(() => {
    globalThis.fetch = (async (_: string, init: { body?: string }) => {
      sent.push(init.body && JSON.parse(init.body));
      return new Response(null, { status: 204 });
    }) as unknown as typeof fetch;
  });
  after(() => void (globalThis.fetch = real));
  beforeEach(async () => {
    await freshPage();
    sent = [];
    scope = effectScope();
  });
  afterEach(() => scope.stop());
  const give = (handlers: Handlers): void => scope.run(() => useHandlers(handlers));

  it('are done by their keys while whoever can do them is there', () => {
    let hidden = 0;
    give({ 'thing.hide': () => hidden++ });
    const event = press({ key: 'h' });
    useActions().press(event);
    expect([hidden, event.defaultPrevented]).deep.equal([1, true]);
    scope.stop();
    const later = press({ key: 'h' });
    useActions().press(later);
    expect([hidden, later.defaultPrevented]).deep.equal([1, false]);
  });

  it('the last one that offers an action does it, and the one before when that has gone', () => {
    const done: string[] = [];
    give({ 'time.play': () => done.push('shot') });
    const promo = effectScope();
    promo.run(() => useHandlers({ 'time.play': () => done.push('promo') }));
    useActions().press(press({ key: ' ' }));
    promo.stop();
    useActions().press(press({ key: ' ' }));
    expect(done).deep.equal(['promo', 'shot']);
  });

  it('that cannot be done let others of the same keys be done', () => {
    const done: string[] = [];
    const chosen = ref(1);
    give({
      'key.delete': { run: () => done.push('key'), enabled: () => chosen.value > 0 },
      'thing.delete': () => done.push('thing'),
    });
    useActions().press(press({ key: 'Delete' }));
    chosen.value = 0;
    useActions().press(press({ key: 'Delete' }));
    expect(done).deep.equal(['key', 'thing']);
  });

  it('leave alone what belongs to the field or button in focus', () => {
    let times = 0;
    give({ 'thing.hide': () => times++, 'time.play': () => times++, 'find.open': () => times++ });
    const actions = useActions();
    const TEXT = 'textarea';
    actions.press(press({ key: 'h', within: '.v-overlay' }));
    actions.press(press({ key: 'k', ctrl: true, within: '.v-overlay' }));
    actions.press(press({ key: 'h', within: TEXT }));
    actions.press(press({ key: ' ', within: TEXT }));
    actions.press(press({ key: ' ', within: 'button' }));
    expect(times).equal(0);
    actions.press(press({ key: 'k', ctrl: true, within: TEXT }));
    actions.press(press({ key: 'h', within: 'button' }));
    expect(times).equal(2);
  });

  it('get keys of the person’s own, kept with the account; who had them loses them', () => {
    const actions = useActions();
    expect(actions.bind('thing.isolate', 'H')).equal('thing.hide');
    expect([actions.keysOf('thing.isolate'), actions.keysOf('thing.hide')]).deep.equal(['H', '']);
    expect(actions.bind('thing.isolate', '')).equal(null);
    expect(sent.at(-1)).deep.equal({
      keySet: 'initials',
      bindings: { 'thing.isolate': '', 'thing.hide': '' },
    });
    let hidden = 0;
    give({ 'thing.hide': () => hidden++ });
    actions.press(press({ key: 'h' }));
    expect(hidden).equal(0);
  });

  it('another key set counts at once, own keys before it', () => {
    const { choose } = useSession();
    void choose({ keySet: 'left-hand', bindings: { 'view.clay': '9' } });
    const actions = useActions();
    expect([actions.keysOf('thing.hide'), actions.keysOf('view.clay')]).deep.equal(['X', '9']);
  });

  it('make menus of what can be done, with rules only between lines', () => {
    give({
      'edit.undo': { run: () => undefined, label: () => 'Undo Move', enabled: () => false },
      'thing.hide': () => undefined,
    });
    const { lines } = useActions();
    const menu = lines([null, 'edit.undo', null, 'thing.lock', null, 'thing.hide', null]);
    expect(menu.map((line) => line && 'title' in line && [line.title, line.disabled])).deep.equal([
      ['Undo Move', true],
      null,
      ['Hide or show', false],
    ]);
    expect(lines(['thing.hide'], (label) => label.toUpperCase())[0]).include({ title: 'HIDE OR SHOW' });
    expect(lines(['thing.lock'])).deep.equal([]);
  });

  it('of another station wait until it stands', async () => {
    const actions = useActions();
    let started = 0;
    expect(actions.run('take.start')).equal(false);
    actions.defer('take.start');
    give({ 'take.start': () => started++ });
    await new Promise((done) => setTimeout(done, 5));
    expect([started, actions.awaited]).deep.equal([1, null]);
  });

  describe('search', () => {
    const titles = (typed: string): string[] => {
      const { finds, can, labelOf } = useActions();
      return search(typed, finds, can, labelOf).map((hit) => hit.title);
    };

    it('shows what can be done here when nothing is typed', () => {
      give({ 'thing.hide': () => undefined, 'find.open': () => undefined });
      expect(titles('')).deep.equal(['Hide or show']);
    });

    it('finds actions by their words, by other words for them, and with a slip of the finger', () => {
      expect(titles('rename')[0]).equal('Rename');
      expect(titles('reflector')[0]).equal('Add bounce card');
      expect(titles('path tracer')[0]).equal('Traced view');
      expect(titles('dupliacte')).include('Duplicate');
      expect(titles('gltf').slice(0, 2)).have.members(['Import model', 'Export set as .glb']);
    });

    it('finds every action by its own label, among the first', () => {
      for (const id of ACTION_IDS.filter((i) => i !== 'find.open'))
        expect(titles(ENTRIES[id].label).slice(0, 3), id).include(ENTRIES[id].label);
    });

    it('finds things by name while they are there, and nothing for nonsense', () => {
      scope.run(() => useFinds(() => [{ title: 'Heather jar', hint: 'Product', run: () => undefined }]));
      expect(titles('heather')[0]).equal('Heather jar');
      scope.stop();
      expect(titles('heather')).not.include('Heather jar');
      expect(titles('qqqqxxxx')).deep.equal([]);
    });

    it('puts what can be done now before what another station must do', () => {
      give({ 'view.right': () => undefined });
      expect(titles('look from the')[0]).equal('Look from the right');
    });
  });
});

describe('contract: preferences', () => {
  it('are a key set and keys by action', () => {
    const kept = { keySet: 'left-hand', bindings: { 'thing.hide': 'X', 'view.place-camera': '' } };
    expect(preferencesBody.validateSync(kept)).deep.equal(kept);
    expect(preferencesBody.isValidSync(NO_PREFERENCES)).equal(true);
  });

  for (const [why, value] of [
    ['a set that does not exist', { keySet: 'mine', bindings: {} }],
    ['no keys', { keySet: 'initials' }],
    ['a list', { keySet: 'initials', bindings: [] }],
    ['a name that is no action', { keySet: 'initials', bindings: { '__proto__.x y': 'A' } }],
    ['keys that are no text', { keySet: 'initials', bindings: { 'thing.hide': 4 } }],
    ['very long keys', { keySet: 'initials', bindings: { 'thing.hide': 'x'.repeat(41) } }],
    ['what is not known', { keySet: 'initials', bindings: {}, theme: 'pink' }],
  ] as const)
    it(`refuse ${why}`, () => expect(preferencesBody.isValidSync(value)).equal(false));
});
