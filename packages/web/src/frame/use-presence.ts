import { onBeforeUnmount, onMounted } from 'vue';
import { api } from '../api/index.ts';
import { useSession } from '../stores/index.ts';

/** Least time between two signs of work, ms; the server counts on less than twice that. */
const EVERY = 30_000;
const SIGNS = ['pointermove', 'pointerdown', 'wheel', 'keydown'] as const;

/** Tells the server that this person is at work, if they want a core to be left free for that. */
export function usePresence(): void {
  const session = useSession();
  let told = -Infinity;
  function tell(): void {
    if (!session.preferences.spareCore || performance.now() - told < EVERY) return;
    told = performance.now();
    // Nothing depends on a single one.
    api('POST', '/session/presence').catch(() => undefined);
  }
  onMounted(() => SIGNS.forEach((sign) => window.addEventListener(sign, tell, { passive: true, capture: true })));
  onBeforeUnmount(() => SIGNS.forEach((sign) => window.removeEventListener(sign, tell, { capture: true })));
}
