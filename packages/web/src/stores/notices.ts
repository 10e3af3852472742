import { defineStore } from 'pinia';
import { ref } from 'vue';
import { sentenceOf } from '../api/index.ts';

/** One sentence at a time, shown at the foot of the window. */
export const useNotices = defineStore('notices', () => {
  const text = ref('');
  const kind = ref<'problem' | 'done'>('done');

  function problem(error: unknown): void {
    refuse(sentenceOf(error));
  }
  /** Says why something is not done, when nothing was thrown. */
  function refuse(sentence: string): void {
    kind.value = 'problem';
    text.value = sentence;
  }
  function done(sentence: string): void {
    kind.value = 'done';
    text.value = sentence;
  }
  /** Runs something that may fail, and says so if it does. Returns whether it went well. */
  async function guard(work: () => Promise<unknown>): Promise<boolean> {
    try {
      await work();
      return true;
    } catch (error) {
      problem(error);
      return false;
    }
  }
  return { text, kind, problem, refuse, done, guard };
});
