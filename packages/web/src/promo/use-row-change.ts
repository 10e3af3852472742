import { clipToOverlay, overlayToClip } from '@tender-orbit/core/promo';
import { ref, toRaw, type Ref } from 'vue';
import { freshId } from '../things/fresh-id.ts';
import { usePromo } from './use-promo.ts';

/** Rows of the time line that pictures can be carried between. */
export type PictureRow = 'picture' | 'overlays';
const ROW_OF: Record<string, PictureRow> = { clip: 'picture', overlay: 'overlays' };

/** The other row of pictures that something is carried over; null: none. */
const target = ref<PictureRow | null>(null);

/** Carries clips over the picture and overlays into the cut. */
export function useRowChange(): {
  target: Ref<PictureRow | null>;
  /** Whether the pointer is over the other row for what is dragged. */
  over: (event: PointerEvent, kind: string) => boolean;
  /** Lets go of what is dragged there. */
  drop: (id: string, gesture: string) => void;
} {
  const { promo, run, chosen } = usePromo();
  return {
    target,
    over: (event, kind) => {
      const own = ROW_OF[kind];
      const under = document
        .elementsFromPoint(event.clientX, event.clientY)
        .map((element) => element.closest<HTMLElement>('[data-row]')?.dataset.row as PictureRow | undefined)
        .find((row) => row !== undefined);
      target.value = own && under && under !== own ? under : null;
      return target.value !== null;
    },
    drop: (id, gesture) => {
      const to = target.value;
      target.value = null;
      if (!to || !promo.value) return;
      const made = freshId(to === 'picture' ? 'clip' : 'overlay');
      const now = toRaw(promo.value);
      const edits = to === 'picture' ? overlayToClip(now, id, made, freshId('clip')) : clipToOverlay(now, id, made);
      for (const edit of edits) run(edit, gesture);
      if (edits.length > 0) chosen.value = { kind: to === 'picture' ? 'clip' : 'overlay', id: made };
    },
  };
}
