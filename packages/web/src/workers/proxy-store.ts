import { clear, createStore, delMany, get, set, type UseStore } from 'idb-keyval';

/** Keeps files between visits; what it cannot keep is made anew. */
export interface FileStore {
  /** The names of what is kept, the one that was kept first at the beginning. */
  names(): Promise<readonly string[]>;
  read(name: string): Promise<Blob | undefined>;
  keep(name: string, file: Blob): Promise<void>;
}

/** Names in the order in which they were kept lie under a name that no file has. */
const ORDER = '';
/** How long it takes until their order is written, ms. */
const SOON = 1000;

const open = (): UseStore => createStore('tender-orbit-proxies', 'files');

/** Files in the browser's database. @param most files; what was kept first goes first. */
export function openFileStore(most: number): FileStore {
  const store = open();
  let order: Promise<string[]> | null = null;
  const ordered = (): Promise<string[]> =>
    (order ??= get<string[]>(ORDER, store).then(
      (names) => names ?? [],
      () => [],
    ));
  let timer: ReturnType<typeof setTimeout> | undefined;
  return {
    names: ordered,
    read: (name) => get<Blob>(name, store).catch(() => undefined),
    async keep(name, file) {
      const names = await ordered();
      try {
        await set(name, file, store);
        if (!names.includes(name)) names.push(name);
        await delMany(names.splice(0, names.length - most), store);
        timer ??= setTimeout(() => {
          timer = undefined;
          set(ORDER, names, store).catch(() => undefined);
        }, SOON);
      } catch {
        // Full, or forbidden: it lasts as long as the page does.
      }
    },
  };
}

/** Forgets all files: what a person has seen is not for the next one at this machine. */
export async function forgetFiles(): Promise<void> {
  await clear(open()).catch(() => undefined);
}
