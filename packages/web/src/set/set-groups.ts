import type { ComputedRef } from 'vue';
import type { SetDocument, SetSurface, ThingList, ThingRole } from '@tender-orbit/core/document';
import { keptComputed } from '../controls/kept.ts';
import { useCampaign, useStage } from '../stores/index.ts';

/** A thing as the set list shows it. */
export interface ThingItem {
  id: string;
  name: string;
  role: ThingRole;
  /** What it is compared by: height, width, stops against the key, focal length. */
  figure: string;
  /** Absent where a thing is always there. */
  shown?: boolean;
  card: boolean;
  locked: boolean;
}

export interface ThingGroup {
  role: ThingRole;
  title: string;
  list: ThingList;
  items: ThingItem[];
  empty: string;
}

/** What a surface is drawn as in the list. */
const IS_CARD: Record<SetSurface['kind'], boolean> = { sweep: false, card: true, block: false };
const metres = (m: number): string => (m < 1 ? `${Math.round(m * 100)} cm` : `${m.toFixed(1)} m`);

/** A light's figure: stops against the key, which is what a photographer compares. */
function stopsAgainst(key: number, lumens: number): string {
  if (key <= 0 || lumens <= 0) return `${Math.round(lumens)} lm`;
  return `${lumens >= key ? '+' : ''}${Math.log2(lumens / key).toFixed(1)}`;
}

/** What is in the set at the playhead, by role. */
export function useSetGroups(): ComputedRef<ThingGroup[]> {
  const campaign = useCampaign();
  const stage = useStage();
  return keptComputed(() => (stage.posed ? groupsOf(stage.posed) : []));

  function groupsOf({ products, surfaces, lights, cameras, effects, nulls, environment }: SetDocument): ThingGroup[] {
    const key = lights.find((l) => l.role === 'key')?.lumens ?? 0;
    const height = (id: string, times: number): string => {
      const product = campaign.products.get(id);
      return product ? metres(product.extent[1] * product.scale * times) : 'deleted';
    };
    const group = <T extends { id: string; name: string; locked?: boolean }>(
      role: ThingRole,
      title: string,
      list: ThingList,
      things: readonly T[],
      about: (thing: T) => Pick<ThingItem, 'figure' | 'shown'> & { card?: boolean },
      empty = '',
    ): ThingGroup => ({
      ...{ role, title, list, empty },
      items: things.map((thing) => ({
        ...{ id: thing.id, name: thing.name, role, card: false, locked: thing.locked === true },
        ...about(thing),
      })),
    });
    const room: ThingItem = {
      ...{ id: environment.id, name: 'Room', role: 'environment', card: false, locked: false },
      figure: `${Math.round(environment.intensity)} cd`,
    };
    const lamps = group('light', 'Lights', 'lights', lights, (l) => ({
      figure: stopsAgainst(key, l.lumens),
      shown: l.on,
    }));
    return [
      group(
        ...(['product', 'Products', 'products', products] as const),
        (p) => ({ figure: height(p.product, p.scale), shown: p.visible }),
        'Put a product here with +',
      ),
      group('surface', 'Surfaces', 'surfaces', surfaces, (s) => ({
        ...{ figure: metres(s.width), shown: s.visible, card: IS_CARD[s.kind] },
      })),
      { ...lamps, items: [...lamps.items, room] },
      group(
        ...(['effect', 'Effects', 'effects', effects] as const),
        (e) => ({ figure: metres(e.width), shown: e.visible }),
        'Add smoke or particles with +',
      ),
      group('camera', 'Cameras', 'cameras', cameras, (c) => ({ figure: `${Math.round(c.focalLength)} mm` })),
      group(...(['null', 'Nulls', 'nulls', nulls] as const), () => ({ figure: '' }), 'A pivot to carry things'),
    ];
  }
}
