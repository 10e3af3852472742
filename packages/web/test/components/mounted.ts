import { mount, type ComponentMountingOptions, type VueWrapper } from '@vue/test-utils';
import { createPinia, setActivePinia, type Pinia, type Store } from 'pinia';
import { createApp, type Component } from 'vue';
import { createVuetify } from 'vuetify';
import * as components from 'vuetify/components';
import ContextMenu from '../../src/ui/ContextMenu.vue';
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg';

const made: VueWrapper[] = [];

const opened: Store[] = [];
const pinia = createPinia();
// A plugin is only taken once there is an application.
createApp({}).use(pinia.use(({ store }) => void opened.push(store as Store)));

/**
 * Stores of a person who opens the application for the first time. All tests share what holds the stores:
 * were it made anew, whatever ends late in an earlier test would make the earlier one current again.
 */
export function freshStores(): Pinia {
  for (const store of opened.splice(0)) {
    store.$dispose();
    delete pinia.state.value[store.$id];
  }
  setActivePinia(pinia);
  return pinia;
}

/** Mounts a component as the application does, into a page that is empty but for it. */
export function show<T extends Component>(component: T, options: ComponentMountingOptions<T> = {}): VueWrapper {
  const vuetify = createVuetify({ components, icons: { defaultSet: 'mdi', aliases, sets: { mdi } } });
  const wrapper = mount(component as never, {
    attachTo: document.body,
    ...(options as object),
    global: {
      ...options.global,
      plugins: [vuetify, ...(options.global?.plugins ?? [])],
      stubs: { transition: false, ...(options.global?.stubs as object) },
    },
  }) as unknown as VueWrapper;
  made.push(wrapper);
  return wrapper;
}

/** Takes everything off the page again. */
export function clearPage(): void {
  made.splice(0).forEach((wrapper) => wrapper.unmount());
  document.body.innerHTML = '';
}

/** The element with a role and a name, wherever it is on the page: menus and dialogs are not inside what opens them. */
export function byRole(role: string, name?: string): HTMLElement | undefined {
  const native: Record<string, string> = { button: 'button', textbox: 'input, textarea', link: 'a[href]' };
  const found = [
    ...document.querySelectorAll<HTMLElement>(`[role="${role}"]${native[role] ? `, ${native[role]}` : ''}`),
  ];
  return found.find((element) => name === undefined || nameOf(element) === name);
}

export const nameOf = (element: Element): string =>
  (element.getAttribute('aria-label') ?? element.textContent ?? '').trim();

/** Lets what was asked for happen: renders, and what waits for a moment. */
export const rest = (ms = 25): Promise<void> => new Promise((done) => setTimeout(done, ms));

/** Types a number into a field by its name. */
export async function setNumber(wrapper: VueWrapper, label: string, value: string): Promise<void> {
  const input = wrapper.find(`input[aria-label="${label}"]`);
  await input.setValue(value);
  await input.trigger('keydown', { key: 'Enter' });
  await rest();
}

/** Chooses from a select by its name. */
export async function choose(wrapper: VueWrapper, name: string, option: string): Promise<void> {
  const field = wrapper.findAll('.v-select').find((s) => s.find(`[aria-label="${name}"]`).exists())!;
  await field.find('.v-field').trigger('mousedown');
  await rest();
  [...document.querySelectorAll<HTMLElement>('[role=option]')].find((o) => o.textContent?.trim() === option)!.click();
  await rest();
}

/** Opens a thing's context menu and takes the line that begins with some words. */
export async function fromMenu(of: Pick<VueWrapper, 'trigger'>, title: string): Promise<void> {
  show(ContextMenu);
  await of.trigger('contextmenu', { clientX: 5, clientY: 5 });
  await rest();
  const lines = [...document.querySelectorAll<HTMLElement>('[data-test=context-menu] .v-list-item')];
  lines.find((line) => line.textContent!.trim().startsWith(title))!.click();
  await rest();
}

/** Gives an element a width on the page, which has no layout in tests. */
export function layOut(wrapper: VueWrapper, selector: string, width: number): void {
  wrapper.find(selector).element.getBoundingClientRect = () => new DOMRect(0, 0, width, 36);
}

/** Drags by the primary button from one place to others and lets go. */
export async function drag(
  of: ReturnType<VueWrapper['find']>,
  from: number,
  to: readonly number[],
  more: object = {},
): Promise<void> {
  for (let at: Element | null = of.element as Element; at; at = at.parentElement)
    (at as HTMLElement).setPointerCapture = () => undefined;
  await of.trigger('pointerdown', { button: 0, buttons: 1, clientX: from, ...more });
  for (const clientX of to) await of.trigger('pointermove', { buttons: 1, clientX, ...more });
  await of.trigger('pointerup');
}
