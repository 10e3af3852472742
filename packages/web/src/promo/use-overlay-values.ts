import {
  OVERLAY_PROPERTIES,
  ownOverlayValues,
  type OverlayValues,
  type PromoOverlay,
} from '@tender-orbit/core/document';
import { overlayValues } from '@tender-orbit/core/promo';
import { toRaw } from 'vue';
import { useKeyedValues, type KeyedValues } from './use-keyed-values.ts';
import { usePromo } from './use-promo.ts';

/** Values of an overlay at the playhead. */
export function useOverlayValues(overlay: () => PromoOverlay): KeyedValues<OverlayValues> {
  const { promo, editOverlay } = usePromo();
  return useKeyedValues<OverlayValues>({
    ...{ thing: () => overlay().id, noun: 'overlay', span: overlay, properties: OVERLAY_PROPERTIES },
    values: () =>
      promo.value ? overlayValues(toRaw(overlay()), toRaw(promo.value)) : () => ownOverlayValues(toRaw(overlay())),
    plain: (label, values, gesture) => editOverlay(overlay().id, label, values, gesture),
  });
}
