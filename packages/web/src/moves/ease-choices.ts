import { USUAL_EASES, type Ease, type LinkedEase } from '@tender-orbit/core/document';
import type { SelectOption } from '../ui/index.ts';

const OWN = {
  eased: 'eased',
  linear: 'linear',
  hold: 'hold',
  'soft start': { kind: 'soft', start: 1, landing: 0 },
  'soft landing': { kind: 'soft', start: 0, landing: 1 },
  'soft both': USUAL_EASES.soft,
  overshoot: USUAL_EASES.overshoot,
  bounce: USUAL_EASES.bounce,
  spring: USUAL_EASES.spring,
  steps: USUAL_EASES.steps,
  handles: USUAL_EASES.bezier,
} as const satisfies Record<string, Ease>;

type OwnName = keyof typeof OWN;
const OWN_NAMES = Object.keys(OWN) as OwnName[];

const sentence = (words: string): string => words.replace(/^./, (letter) => letter.toUpperCase());

/** What an ease is called, linked ones by the name that was given to them. */
export function easeName(ease: Ease, linked: readonly LinkedEase[]): string {
  if (typeof ease === 'string') return ease;
  switch (ease.kind) {
    case 'linked':
      return linked.find((e) => e.id === ease.id)?.name ?? 'eased';
    case 'bezier':
      return 'handles';
    case 'soft':
      return ease.landing === 0 ? 'soft start' : ease.start === 0 ? 'soft landing' : 'soft both';
    default:
      return ease.kind;
  }
}

/** Eases to choose from: those of a key's own, then those that keys of this shot share. */
export function easeOptions(linked: readonly LinkedEase[]): SelectOption<string>[] {
  return [
    ...OWN_NAMES.map((name) => ({ value: name, title: sentence(name) })),
    ...linked.map(({ id, name }) => ({ value: `linked ${id}`, title: `Linked: ${name}` })),
  ];
}

/** The value of easeOptions() that stands for an ease. */
export function easeChoice(ease: Ease): string {
  return typeof ease === 'object' && ease.kind === 'linked' ? `linked ${ease.id}` : easeName(ease, []);
}

/** The ease that a value of easeOptions() stands for. */
export function chosenEase(choice: string): Ease {
  return choice in OWN ? structuredClone(OWN[choice as OwnName]) : { kind: 'linked', id: choice.slice(7) };
}
