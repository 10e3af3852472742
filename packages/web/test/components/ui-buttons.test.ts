import './page.ts';
import { expect } from 'chai';
import {
  confirm,
  ConfirmDialog,
  ContextMenu,
  DialogCard,
  FieldRow,
  IconButton,
  MenuButton,
  MoreFields,
  openContextMenu,
  PickCard,
  ProgressBar,
  SHORTCUT_LABEL,
  SortList,
  SplitPanels,
  StackField,
  TabRow,
  ToggleRow,
  UiButton,
} from '../../src/ui/index.ts';
import { byRole, clearPage, nameOf, rest, show } from './mounted.ts';

const ICON = 'M0 0h24v24H0z';
const keysOf = { [SHORTCUT_LABEL as symbol]: (action: string) => (action === 'thing.hide' ? 'H' : '') };

afterEach(clearPage);

describe('ui: buttons', () => {
  it('are native buttons that do not send forms, and pass on what a button takes', async () => {
    const button = show(UiButton, { slots: { default: 'Add art' }, attrs: { 'data-test': 'add' } });
    expect(button.element.tagName).equal('BUTTON');
    expect(button.attributes()).include({ type: 'button', 'data-test': 'add' });
    expect(button.attributes('aria-pressed')).equal(undefined);
    await button.trigger('click');
    expect(button.emitted('click')).length(1);
  });

  it('say whether they are on only when they are switches', async () => {
    const button = show(UiButton, { props: { pressed: false }, slots: { default: 'Clay' } });
    expect(button.attributes('aria-pressed')).equal('false');
    await button.setProps({ pressed: true });
    expect(button.attributes('aria-pressed')).equal('true');
    expect(button.classes()).include('on');
  });

  it('cannot be pressed while they are disabled or busy', async () => {
    const button = show(UiButton, { props: { disabled: true }, slots: { default: 'Start' } });
    expect((button.element as HTMLButtonElement).disabled).equal(true);
    const busy = show(UiButton, { props: { busy: true }, slots: { default: 'Start' } });
    expect(busy.attributes('aria-busy')).equal('true');
  });

  it('with a picture alone have a name, and a tooltip with their keys', async () => {
    const button = show(IconButton, {
      props: { icon: ICON, label: 'Hide Key', action: 'thing.hide' },
      global: { provide: keysOf },
    });
    expect(button.attributes('aria-label')).equal('Hide Key');
    await button.trigger('mouseenter');
    await rest(600);
    expect(document.body.textContent).contain('Hide Key (H)');
  });

  it('without keys have no brackets in their tooltip', async () => {
    const button = show(UiButton, { props: { tip: 'At the end', action: 'none' }, global: { provide: keysOf } });
    await button.trigger('mouseenter');
    await rest(600);
    expect(document.body.textContent).contain('At the end').not.contain('(');
  });

  it('that choose something are cards one can press, with their state', async () => {
    const card = show(PickCard, { props: { label: 'Show Heather', on: true } });
    expect(card.element.tagName).equal('BUTTON');
    expect(card.attributes()).include({ 'aria-label': 'Show Heather', 'aria-pressed': 'true' });
    await card.trigger('click');
    expect(card.emitted('click')).length(1);
  });
});

describe('ui: one of a few', () => {
  const options = [
    { value: 'clay', label: 'Clay' },
    { value: 'lit', label: 'Lit', disabled: true },
    { value: 'traced', label: 'Traced', icon: ICON },
  ];
  const radios = (): HTMLElement[] => [...document.querySelectorAll<HTMLElement>('[role=radio]')];

  it('are radio buttons in a group with a name, of which one can be reached by Tab', () => {
    const row = show(ToggleRow, { props: { label: 'Drawing', options, value: 'traced' } });
    expect(row.attributes()).include({ role: 'radiogroup', 'aria-label': 'Drawing' });
    expect(radios().map((r) => [nameOf(r), r.getAttribute('aria-checked'), r.tabIndex])).deep.equal([
      ['Clay', 'false', -1],
      ['Lit', 'false', -1],
      ['Traced', 'true', 0],
    ]);
  });

  it('the first is reached when none is chosen', () => {
    show(ToggleRow, { props: { label: 'Drawing', options, value: undefined } });
    expect(radios().map((r) => r.tabIndex)).deep.equal([0, -1, -1]);
  });

  it('are chosen by a press, and by arrows, which pass over what is disabled and go round', async () => {
    const row = show(ToggleRow, { props: { label: 'Drawing', options, value: 'clay' } });
    radios()[2].click();
    await row.trigger('keydown', { key: 'ArrowRight' });
    await row.trigger('keydown', { key: 'ArrowLeft' });
    await row.trigger('keydown', { key: 'a' });
    expect(row.emitted('change')).deep.equal([['traced'], ['traced'], ['traced']]);
    expect(document.activeElement).equal(radios()[2]);
  });

  it('tabs tell which of them is open', async () => {
    const tabs = [
      { value: 'body', label: 'Body' },
      { value: 'finish', label: 'Finish', test: 'tab-finish' },
    ];
    const row = show(TabRow, { props: { label: 'What of it', tabs, value: 'body' } });
    await rest();
    const all = row.findAll('[role=tab]');
    expect(all.map((t) => t.attributes('aria-selected'))).deep.equal(['true', 'false']);
    await row.find('[data-test=tab-finish]').trigger('click');
    expect(row.emitted('change')).deep.equal([['finish']]);
  });
});

describe('ui: menus', () => {
  it('a button opens its lines; one that is pressed is done once and the menu closes', async () => {
    const done: string[] = [];
    const lines = [
      { heading: 'Light kits' },
      { title: 'Window', action: 'thing.hide', run: () => done.push('window') },
      null,
      { title: 'Never', disabled: true, run: () => done.push('never') },
    ];
    show(MenuButton, { props: { lines, label: 'Add light', icon: ICON }, global: { provide: keysOf } });
    byRole('button', 'Add light')!.click();
    await rest();
    const items = [...document.querySelectorAll<HTMLElement>('.v-list-item')];
    expect(items.map((i) => i.textContent?.trim())).deep.equal(['WindowH', 'Never']);
    expect(document.querySelector('.v-list-subheader')?.textContent).contain('Light kits');
    items[1].click();
    items[0].click();
    await rest();
    expect(done).deep.equal(['window']);
  });

  it('a line can be taken out of the menu for good without being done', async () => {
    const done: string[] = [];
    const lines = [
      {
        title: 'My kit',
        drop: { label: 'Delete kit My kit', run: () => done.push('drop') },
        run: () => done.push('run'),
      },
    ];
    show(MenuButton, { props: { lines, label: 'Kits' }, slots: { default: 'Kits' } });
    byRole('button', 'Kits')!.click();
    await rest();
    byRole('button', 'Delete kit My kit')!.click();
    expect(done).deep.equal(['drop']);
  });

  it('the context menu opens where the pointer is, and an empty one leaves the browser its own', async () => {
    show(ContextMenu);
    const empty = new MouseEvent('contextmenu', { cancelable: true });
    openContextMenu(empty, []);
    expect(empty.defaultPrevented).equal(false);
    const event = new MouseEvent('contextmenu', { cancelable: true, clientX: 300, clientY: 200 });
    let renamed = 0;
    openContextMenu(event, [{ title: 'Rename', run: () => renamed++ }]);
    await rest();
    expect(event.defaultPrevented).equal(true);
    document.querySelector<HTMLElement>('[data-test=context-menu] .v-list-item')!.click();
    await rest();
    expect(renamed).equal(1);
    expect(document.querySelector('[data-test=context-menu]')).equal(null);
  });
});

describe('ui: dialogs', () => {
  it('have a title that names them, and close by their button unless they must be answered', async () => {
    const dialog = show(DialogCard, { props: { open: true, title: 'Shortcuts' }, slots: { default: 'Words' } });
    await rest();
    const box = document.querySelector('[role=dialog]')!;
    expect(document.getElementById(box.getAttribute('aria-labelledby')!)?.textContent).equal('Shortcuts');
    byRole('button', 'Close')!.click();
    expect(dialog.emitted('close')).length(1);
    await dialog.setProps({ persistent: true });
    expect(byRole('button', 'Close')).equal(undefined);
  });

  it('ask before something is lost, and tell the answer', async () => {
    show(ConfirmDialog);
    const ask = (): Promise<boolean> =>
      confirm({ title: 'Delete the take?', text: 'Its frames go.', yes: 'Delete take', danger: true });
    const first = ask();
    await rest();
    expect(document.body.textContent).contain('Its frames go.');
    byRole('button', 'Delete take')!.click();
    expect(await first).equal(true);
    const second = ask();
    await rest();
    byRole('button', 'Leave it')!.click();
    expect(await second).equal(false);
  });

  it('a second question answers the first with no', async () => {
    show(ConfirmDialog);
    const first = confirm({ title: 'A', text: 'a', yes: 'A' });
    const second = confirm({ title: 'B', text: 'b', yes: 'B' });
    expect(await first).equal(false);
    await rest();
    byRole('button', 'B')!.click();
    expect(await second).equal(true);
  });
});

describe('ui: lists and panels', () => {
  const items = ['a', 'b', 'c'].map((id) => ({ id }));
  const orders = (list: ReturnType<typeof show>): string[] =>
    (list.emitted('order') ?? []).map(([order]) => (order as typeof items).map((item) => item.id).join(''));

  it('are put into another order by Alt and arrows, not past their ends', async () => {
    const list = show(SortList, {
      props: { items },
      slots: { default: `<template #default="{ item }"><button>{{ item.id }}</button></template>` },
    });
    const rows = list.findAll('button');
    await rows[1].trigger('keydown', { key: 'ArrowUp', altKey: true });
    await rows[1].trigger('keydown', { key: 'ArrowDown', altKey: true });
    await rows[0].trigger('keydown', { key: 'ArrowUp', altKey: true });
    await rows[1].trigger('keydown', { key: 'ArrowUp' });
    expect(orders(list)).deep.equal(['bac', 'acb']);
  });

  it('follow their owner’s order', async () => {
    const list = show(SortList, {
      props: { items },
      slots: { default: `<template #default="{ item }"><i>{{ item.id }}</i></template>` },
    });
    await list.setProps({ items: [...items].reverse() });
    expect(list.text()).equal('cba');
  });

  it('panels have edges that keys can move', () => {
    show(SplitPanels, {
      props: { name: 'test', left: 200, right: 300 },
      slots: { left: 'L', default: 'M', right: 'R' },
    });
    const edges = [...document.querySelectorAll('[role=separator]')];
    expect(edges.map((e) => e.getAttribute('aria-label'))).deep.equal([
      'Width of the left panel',
      'Width of the right panel',
    ]);
    expect(edges.every((e) => (e as HTMLElement).tabIndex === 0)).equal(true);
  });

  it('progress says how far it is', () => {
    const bar = show(ProgressBar, { props: { value: 0.426, label: 'Encoding Launch' } });
    expect(bar.attributes()).include({
      role: 'progressbar',
      'aria-label': 'Encoding Launch',
      'aria-valuenow': '43',
    });
  });

  it('seldom fields are behind a line that opens', async () => {
    const more = show(MoreFields, { props: { title: 'More' }, slots: { default: '<b>Sheen</b>' } });
    expect(more.text()).not.contain('Sheen');
    await more.find('button').trigger('click');
    await rest(50);
    expect(more.text()).contain('Sheen');
  });

  it('rows name what stands in them', () => {
    expect(show(FieldRow, { props: { label: 'Size' }, slots: { default: '9 cm' } }).text()).equal('Size9 cm');
    expect(show(StackField, { props: { label: 'Client' }, slots: { default: 'x' } }).text()).equal('Clientx');
  });
});
