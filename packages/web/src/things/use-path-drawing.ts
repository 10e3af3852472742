import { addPath, freshName, namesOf, type Point } from '@tender-orbit/core/document';
import { pathOfStroke } from '@tender-orbit/core/staging';
import { useLocalStorage } from '@vueuse/core';
import { computed, ref, type ComputedRef, type Ref } from 'vue';
import { useCampaign, useDocuments, useNotices } from '../stores/index.ts';
import { freshId } from './fresh-id.ts';
import { useMoveSelection } from './use-move-selection.ts';

/** Whether the next stroke in viewer or plan draws a path, and the stroke so far. */
const drawing = ref(false);
const stroke = ref<Point[]>([]);

/** Drawing a path by hand; the same stroke wherever it is asked for. */
export function usePathDrawing(): {
  drawing: Ref<boolean>;
  stroke: ComputedRef<readonly Point[]>;
  /** 0..1: how much of a hand's tremble is smoothed away. */
  smoothing: Ref<number>;
  begin: (at: Point) => void;
  go: (at: Point) => void;
  finish: () => void;
} {
  const campaign = useCampaign();
  const documents = useDocuments();
  const notices = useNotices();
  const moves = useMoveSelection();
  const smoothing = useLocalStorage('tender-orbit:path-smoothing', 0.4);
  function finish(): void {
    if (stroke.value.length === 0) return;
    const name = freshName(namesOf(campaign.shot?.paths ?? []), 'Path');
    const path = pathOfStroke(stroke.value, smoothing.value, { id: freshId('path'), name });
    stroke.value = [];
    drawing.value = false;
    if (!path) {
      notices.refuse('That stroke goes nowhere: drag along the way that the path is to take.');
      return;
    }
    documents.run('shot', campaign.shotId, addPath(path));
    moves.choose('path', path.id);
  }
  return {
    ...{ drawing, smoothing, finish },
    stroke: computed(() => stroke.value),
    begin: (at) => void (stroke.value = [at]),
    go: (at) => void (stroke.value.length > 0 && (stroke.value = [...stroke.value, at])),
  };
}
