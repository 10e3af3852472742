import { ref, watch, type Ref } from 'vue';
import { useNotices } from '../stores/index.ts';

/** Measures between two places that are clicked, and says how far apart they are. */
export function useMeasure(): { measuring: Ref<boolean>; take: (point: readonly number[]) => boolean } {
  const notices = useNotices();
  const measuring = ref(false);
  let from: readonly number[] | null = null;
  watch(measuring, () => (from = null));
  const mm = (metres: number): string => `${Number((Math.abs(metres) * 1000).toFixed(1))} mm`;

  /** Takes a clicked place. @returns whether it was wanted. */
  function take(point: readonly number[]): boolean {
    if (!measuring.value) return false;
    if (!from) {
      from = point;
      return true;
    }
    const [dx, dy, dz] = point.map((v, a) => v - from![a]);
    notices.done(`${mm(Math.hypot(dx, dy, dz))} apart: ${mm(dx)} across, ${mm(dy)} up, ${mm(dz)} deep.`);
    from = null;
    measuring.value = false;
    return true;
  }
  return { measuring, take };
}
