import { ref } from 'vue';

export interface Question {
  title: string;
  text: string;
  /** The words of the button that does it. */
  yes: string;
  /** Something is lost by it. */
  danger?: boolean;
}

/** The question that is being asked, and how it is answered; null for none. */
export const question = ref<(Question & { answer: (yes: boolean) => void }) | null>(null);

/** Asks before something is done. @returns whether the person wants it. */
export function confirm(asked: Question): Promise<boolean> {
  question.value?.answer(false);
  return new Promise((resolve) => {
    question.value = {
      ...asked,
      answer: (yes) => {
        question.value = null;
        resolve(yes);
      },
    };
  });
}
