import type { Command } from '../edit.ts';
import { shiftLayer } from '../shot/index.ts';
import type { PromoDocument, PromoGroup } from './types.ts';

type PromoCommand = Command<PromoDocument>;

/** The group that something of a promo is in. */
export const groupOf = ({ groups = [] }: PromoDocument, id: string): PromoGroup | undefined =>
  groups.find(({ members }) => members.includes(id));

/** Ties things of a promo together: from then on they are chosen and carried as one. Each leaves the group that it was in. */
export function groupItems(id: string, members: readonly string[]): PromoCommand {
  return {
    label: `Group ${members.length}`,
    run: (promo) => keep(promo, [...without(promo, members), { id, members: [...members] }]),
  };
}

export function ungroupItems(members: readonly string[]): PromoCommand {
  return {
    label: 'Ungroup',
    run: (promo) =>
      keep(
        promo,
        (promo.groups ?? []).filter((g) => !g.members.some((m) => members.includes(m))),
      ),
  };
}

/** Groups without some things; one that holds no two is none. */
const without = ({ groups = [] }: PromoDocument, gone: readonly string[]): PromoGroup[] =>
  groups.flatMap((group) => {
    const members = group.members.filter((m) => !gone.includes(m));
    return members.length > 1 ? [{ ...group, members }] : [];
  });

function keep(promo: PromoDocument, groups: PromoGroup[]): void {
  if (groups.length > 0) promo.groups = groups;
  else delete promo.groups;
}

/**
 * Carries titles, overlays, sounds, markers and layers by frames, with their keys; none begins before the first frame, and all stay as far
 * from each other as they are. Clips lie end to end and are left alone.
 */
export function shiftItems(ids: readonly string[], by: number): PromoCommand {
  return {
    label: 'Move',
    run: (promo) => {
      const of = <T extends { id: string }>(list: T[]): T[] => list.filter(({ id }) => ids.includes(id));
      const spans = [...of(promo.titles), ...of(promo.overlays)];
      const points = [...of(promo.sounds), ...of(promo.markers)];
      const layers = of(promo.layers);
      const begins = [...spans, ...layers].map(({ start }) => start).concat(points.map(({ at }) => at));
      if (begins.length === 0) return;
      const way = Math.max(by, -Math.min(...begins));
      for (const span of spans) span.start += way;
      for (const point of points) point.at += way;
      // Layers that lie in another that is carried go along with that.
      const held = layers.filter(({ group }) => !group || !ids.includes(group));
      for (const { id, start } of held) shiftLayer(id, start + way).run(promo);
    },
  };
}
