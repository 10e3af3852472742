import './page.ts';
import { expect } from 'chai';
import { nextTick } from 'vue';
import {
  CheckField,
  ColourField,
  FilePick,
  NumberField,
  optionsOf,
  SelectField,
  TextArea,
  TextField,
} from '../../src/ui/index.ts';
import ColourPicker from '../../src/ui/ColourPicker.vue';
import { clearPage, rest, show } from './mounted.ts';

afterEach(clearPage);

describe('ui: one of many', () => {
  const options = [
    ...optionsOf({ none: 'Nothing', blinds: 'Blinds' }),
    { value: 'file', title: 'File', disabled: true },
  ];

  it('keeps the order of a table of names', () => {
    expect(options.map((o) => o.title)).deep.equal(['Nothing', 'Blinds', 'File']);
  });

  it('opens as a list, gives what is chosen, and not what is disabled', async () => {
    const field = show(SelectField, { props: { label: 'Gobo', options, value: 'none' } });
    const input = field.find('input[role=combobox]');
    expect(input.attributes()).include({ role: 'combobox', 'aria-label': 'Gobo' });
    await field.find('.v-field').trigger('mousedown');
    await rest();
    const shown = [...document.querySelectorAll<HTMLElement>('[role=option]')];
    expect(shown.map((o) => o.textContent?.trim())).deep.equal(['Nothing', 'Blinds', 'File']);
    shown[2].click();
    shown[1].click();
    expect(field.emitted('change')).deep.equal([['blinds']]);
  });
});

describe('ui: text', () => {
  it('is given when it is finished by Enter or by leaving, and on every stroke as typed', async () => {
    const field = show(TextField, { props: { label: 'Name', value: 'Jar' } });
    const input = field.find('input');
    await input.trigger('focus');
    await input.setValue('Pot');
    expect(field.emitted('typed')).deep.equal([['Pot']]);
    expect(field.emitted('change')).equal(undefined);
    await input.trigger('keydown', { key: 'Enter' });
    expect(field.emitted('change')).deep.equal([['Pot']]);
  });

  it('takes the focus when it appears, and leaves it to a field that takes it then', async () => {
    const first = show(TextField, { props: { label: 'E-mail', value: '', autofocus: true } }).find('input').element;
    const second = show(TextField, { props: { label: 'Password', value: '' } }).find('input').element;
    expect(document.activeElement).equal(first);
    // A dialog that opens takes the focus to itself for a moment.
    first.blur();
    await rest(60);
    expect(document.activeElement).equal(first);
    second.focus();
    await rest(300);
    expect(document.activeElement).equal(second);
  });

  it('goes back to what stands when it was not taken, or by Escape', async () => {
    const field = show(TextField, { props: { label: 'Name', value: 'Jar' } });
    const input = field.find('input');
    await input.setValue('   ');
    await input.trigger('keydown', { key: 'Enter' });
    await rest();
    expect(input.element.value).equal('Jar');
    await input.setValue('Other');
    await input.trigger('keydown', { key: 'Escape' });
    await nextTick();
    expect(input.element.value).equal('Jar');
    expect(field.emitted('change')).length(1);
  });

  it('follows what is changed from elsewhere, and says why it is wrong', async () => {
    const field = show(TextField, { props: { label: 'Name', value: 'Jar', error: 'Too long.' } });
    await field.setProps({ value: 'Box' });
    expect(field.find('input').element.value).equal('Box');
    expect(field.find('input').attributes('aria-invalid')).equal('true');
    expect(field.text()).contain('Too long.');
  });

  it('of several lines is given when it is left', async () => {
    const area = show(TextArea, { props: { label: 'Notes', value: 'a', rows: 3 } });
    const input = area.find('textarea');
    await input.trigger('focus');
    await input.setValue('a\nb');
    await input.trigger('blur');
    expect(area.emitted('typed')).deep.equal([['a\nb']]);
    expect(area.emitted('change')).deep.equal([['a\nb']]);
  });
});

describe('ui: number field', () => {
  const of = (props: object = {}) =>
    show(NumberField, { props: { label: 'Width', value: 10, unit: 'cm', min: 0, max: 200, ...props } });

  it('takes arithmetic and units when it is left', async () => {
    const field = of();
    const input = field.find('input');
    expect([input.element.value, input.attributes('aria-label')]).deep.equal(['10', 'Width, cm']);
    await input.setValue('1.2 m');
    await input.trigger('keydown', { key: 'Enter' });
    await input.setValue('12/2 + 1');
    await input.trigger('keydown', { key: 'Enter' });
    expect(field.emitted('change')).deep.equal([
      [120, ''],
      [7, ''],
    ]);
  });

  it('says what it did not take and keeps its number', async () => {
    const field = of();
    await field.find('input').setValue('wide');
    await field.find('input').trigger('keydown', { key: 'Enter' });
    expect(field.emitted('change')).equal(undefined);
    expect(field.find('.why').text()).contain('"wide" was not taken');
    expect(field.find('input').element.value).equal('10');
  });

  it('takes the nearest of what it can be, and says so', async () => {
    const field = of();
    await field.find('input').setValue('900');
    await field.find('input').trigger('keydown', { key: 'Enter' });
    expect(field.emitted('change')).deep.equal([[200, '']]);
    expect(field.find('.why').text()).contain('from 0 to 200');
  });

  it('steps by arrows: fine with Shift, coarse with Ctrl', async () => {
    const field = of({ step: 2 });
    const input = field.find('input');
    await input.trigger('keydown', { key: 'ArrowUp' });
    await input.trigger('keydown', { key: 'ArrowDown', shiftKey: true });
    await input.trigger('keydown', { key: 'ArrowUp', ctrlKey: true });
    expect(field.emitted('change')!.map(([v]) => v)).deep.equal([12, 9.8, 30]);
  });

  it('is scrubbed by a drag as one gesture, and a press without a drag is for typing', async () => {
    const field = of();
    const root = field.find('.number');
    (root.element as HTMLElement).setPointerCapture = () => undefined;
    await root.trigger('pointerdown', { clientX: 100, button: 0 });
    await root.trigger('pointermove', { clientX: 102 });
    expect(field.emitted('change')).equal(undefined);
    await root.trigger('pointermove', { clientX: 130 });
    await root.trigger('pointermove', { clientX: 160 });
    await root.trigger('pointerup');
    const changes = field.emitted('change') as Array<[number, string]>;
    expect(changes.map(([v]) => v)).deep.equal([20, 30]);
    expect(new Set(changes.map(([, gesture]) => gesture)).size).equal(1);
    await root.trigger('pointerdown', { clientX: 100, button: 0 });
    await root.trigger('pointerup');
    expect(document.activeElement).equal(field.find('input').element);
  });

  it('goes back to the usual by a double click, and to what stands by Escape', async () => {
    const field = of({ usual: 25 });
    await field.find('input').setValue('99');
    await field.find('input').trigger('keydown', { key: 'Escape' });
    await nextTick();
    expect(field.find('input').element.value).equal('10');
    await field.find('.number').trigger('dblclick');
    expect(field.emitted('change')).deep.equal([[25, '']]);
  });

  it('has a bead that keys it where it can be keyed', async () => {
    expect(of().find('button').exists()).equal(false);
    const field = of({ keyable: true, keyed: 'key' });
    const bead = field.find('button');
    expect(bead.attributes()).include({ 'aria-label': 'Remove key of Width', 'aria-pressed': 'true' });
    await bead.trigger('click');
    expect(field.emitted('key')).length(1);
  });
});

describe('ui: colours', () => {
  it('are typed as hex, with or without the sign', async () => {
    const field = show(ColourField, { props: { label: 'Tint', value: '#FFFFFF' } });
    const input = field.find('input');
    await input.setValue('c98f6b');
    await input.trigger('keydown', { key: 'Enter' });
    expect(field.emitted('change')).deep.equal([['#C98F6B', '']]);
  });

  it('say why they were not taken', async () => {
    const field = show(ColourField, { props: { label: 'Tint', value: '#FFFFFF' } });
    await field.find('input').setValue('pink');
    await field.find('input').trigger('keydown', { key: 'Enter' });
    await rest();
    expect(field.emitted('change')).equal(undefined);
    expect(field.text()).contain('must be a hex colour like #C98F6B; "pink" was not taken');
    expect(field.find('input').element.value).equal('#FFFFFF');
  });

  it('are picked on a panel: one hold of it is one gesture, the next another', async () => {
    const panel = show(ColourPicker, { props: { label: 'Tint', value: '#FFFFFF' } });
    const picked = (hex: string): void =>
      panel.findComponent({ name: 'VColorPicker' }).vm.$emit('update:modelValue', hex);
    picked('#ff0000ff');
    picked('#00ff00');
    await panel.trigger('pointerdown');
    await rest(3);
    picked('#0000ff');
    // The colour that it has already is no change.
    picked('#ffffff');
    const changes = panel.emitted('change') as Array<[string, string]>;
    expect(changes.map(([hex]) => hex)).deep.equal(['#FF0000', '#00FF00', '#0000FF']);
    expect(changes[0][1]).equal(changes[1][1]);
  });
});

describe('ui: yes or no', () => {
  it('a check has its words and gives what it becomes', async () => {
    const field = show(CheckField, { props: { label: 'Keep layers', value: false } });
    expect(field.text()).contain('Keep layers');
    await field.find('input').setValue(true);
    expect(field.emitted('change')).deep.equal([[true]]);
  });
});

describe('ui: files', () => {
  const file = new File(['x'], 'jar.glb');
  const pick = async (wrapper: ReturnType<typeof show>, files: File[]): Promise<void> => {
    const input = wrapper.find('input').element as HTMLInputElement;
    Object.defineProperty(input, 'files', { value: files, configurable: true });
    await wrapper.find('input').trigger('change');
    await rest();
  };

  it('are given as a list, and the same file can be picked again', async () => {
    const picker = show(FilePick, { props: { label: 'Model files', accept: '.glb', multiple: true } });
    expect(picker.find('input').attributes()).include({ type: 'file', accept: '.glb', 'aria-label': 'Model files' });
    await pick(picker, [file]);
    await pick(picker, [file]);
    expect(picker.emitted('pick')!.map(([files]) => (files as File[]).map((f) => f.name))).deep.equal([
      ['jar.glb'],
      ['jar.glb'],
    ]);
  });

  it('are not given when none was picked', async () => {
    const picker = show(FilePick, { props: { label: 'Model files', accept: '.glb' } });
    await pick(picker, []);
    expect(picker.emitted('pick')).equal(undefined);
  });

  it('are asked for by whoever opens it', () => {
    const picker = show(FilePick, { props: { label: 'Model files', accept: '.glb' } });
    let asked = 0;
    picker.find('input').element.addEventListener('click', () => asked++);
    (picker.vm as unknown as { open: () => void }).open();
    expect(asked).equal(1);
  });
});
