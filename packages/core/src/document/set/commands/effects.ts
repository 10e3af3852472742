import type { SmokeEmitter } from '../kinds/index.ts';
import type { SetCommand } from './things.ts';

/** Gives a smoke effect other emitters. */
export function setEmitters(id: string, emitters: readonly SmokeEmitter[], label: string): SetCommand {
  return {
    label,
    run: (set) => {
      const effect = set.effects.find((e) => e.id === id);
      if (effect?.kind === 'smoke') effect.emitters = [...emitters];
    },
  };
}
