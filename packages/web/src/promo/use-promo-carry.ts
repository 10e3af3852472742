import { newOverlay, newTitle, type Clip } from '@tender-orbit/core/document';
import { computed, type ComputedRef } from 'vue';
import { carriedLayer } from '../composite/carried-layer.ts';
import { useCarry, type Carried, type Carry } from '../controls/use-carry.ts';
import { useRack } from '../stores/index.ts';
import { useClipPicture } from './use-clip-picture.ts';
import { useOverlayValues } from './use-overlay-values.ts';
import { usePromo } from './use-promo.ts';
import { useTitleValues } from './use-title-values.ts';

const fine = (value: number): number => Number(value.toFixed(4));
const onPicture = (value: number): number => fine(Math.min(1.2, Math.max(-0.2, value)));

/**
 * Carries the chosen title, overlay, layer or clip's picture about in the picture of the promo.
 * @param height of the picture as it is shown, pixels.
 */
export function usePromoCarry(height: () => number): Carry & { carries: ComputedRef<boolean> } {
  const { promo, chosen } = usePromo();
  const rack = useRack();
  const idOf = (kind: string): string => (chosen.value?.kind === kind && 'id' in chosen.value ? chosen.value.id : '');
  const title = computed(() => promo.value?.titles.find((t) => t.id === idOf('title')));
  const overlay = computed(() => promo.value?.overlays.find((o) => o.id === idOf('overlay')));
  const clip = computed(() => promo.value?.clips.find((c) => c.id === idOf('clip')));
  const titleValues = useTitleValues(() => title.value ?? newTitle(''));
  const overlayValues = useOverlayValues(() => overlay.value ?? newOverlay('', { id: '', frames: 1, rate: 1 }, 1));
  const picture = useClipPicture(() => clip.value ?? ({ id: '', take: '', start: 0, length: 1 } satisfies Clip));

  function grasp(): Carried | null {
    const aspect = (promo.value?.width ?? 1) / (promo.value?.height ?? 1);
    if (chosen.value?.kind === 'layer') return carriedLayer(rack);
    if (title.value) {
      const { x, y } = titleValues.now.value;
      return {
        to: (across, down, gesture) =>
          titleValues.set({ x: onPicture(x + across / aspect), y: onPicture(y + down) }, gesture, 'Move title'),
      };
    }
    if (overlay.value) {
      const { x, y } = overlayValues.now.value;
      return {
        to: (across, down, gesture) =>
          overlayValues.set({ x: onPicture(x + across / aspect), y: onPicture(y + down) }, gesture, 'Move overlay'),
      };
    }
    if (!clip.value) return null;
    const { x, y } = picture.now.value;
    return {
      to: (across, down, gesture) => {
        picture.set({ x: fine(x + across), y: fine(y - down) }, gesture, 'Move picture');
      },
    };
  }
  const carries = computed(
    () =>
      title.value !== undefined ||
      overlay.value !== undefined ||
      clip.value !== undefined ||
      (chosen.value?.kind === 'layer' && carriedLayer(rack) !== null),
  );
  return { ...useCarry(height, grasp), carries };
}
