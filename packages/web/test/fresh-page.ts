import 'fake-indexeddb/auto';
import { clear } from 'idb-keyval';
import { createPinia, setActivePinia } from 'pinia';

/** What a person has who opens the application for the first time: empty stores, and nothing kept in the browser. */
export async function freshPage(): Promise<void> {
  setActivePinia(createPinia());
  await clear();
}
