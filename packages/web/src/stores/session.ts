import { defineStore } from 'pinia';
import { ref } from 'vue';
import { NO_PREFERENCES, type Preferences } from '@tender-orbit/core/contract';
import { api, setCsrfToken, setUploadLimit, type Person, type SessionAnswer } from '../api/index.ts';
import { forgetFiles } from '../workers/proxy-store.ts';

export const useSession = defineStore('session', () => {
  const person = ref<Person | null>(null);
  const known = ref(false);
  const preferences = ref<Preferences>(NO_PREFERENCES);

  function keep(answer: SessionAnswer): void {
    person.value = answer.person;
    preferences.value = answer.preferences;
    setCsrfToken(answer.csrfToken);
    setUploadLimit(answer.uploadLimit);
    known.value = true;
  }

  async function look(): Promise<void> {
    keep(await api<SessionAnswer>('GET', '/session'));
  }

  async function signIn(email: string, password: string): Promise<void> {
    // Fetched anew, so that a token of an expired session does not stand in the way.
    if (!known.value) await look();
    keep(await api<SessionAnswer>('POST', '/session', { email, password }));
  }

  async function signOut(): Promise<void> {
    await api('DELETE', '/session');
    person.value = null;
    await forgetFiles();
    await look();
  }

  /** Keeps what the person has chosen with the account; it counts at once. */
  async function choose(values: Partial<Preferences>): Promise<void> {
    preferences.value = { ...preferences.value, ...values };
    await api('PUT', '/session/preferences', preferences.value);
  }

  return { person, preferences, known, look, signIn, signOut, choose };
});
