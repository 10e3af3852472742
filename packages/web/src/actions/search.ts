import Fuse from 'fuse.js';
import { ACTION_IDS, ENTRIES, type ActionId } from './catalogue.ts';
import type { Find } from './store.ts';

export type Hit = { kind: 'action'; id: ActionId; title: string; hint: string } | ({ kind: 'find' } & Find);

interface Entry {
  hit: Hit;
  title: string;
  words: string;
}

const MOST = 60;

/**
 * Actions and things by what was typed: the words of the label count most, then other words for it, then its group.
 * Nothing typed: what can be done here, in the catalogue's order.
 * @param can whether an action can be done now; those come first among equals.
 */
export function search(
  typed: string,
  finds: readonly Find[],
  can: (id: ActionId) => boolean,
  labelOf: (id: ActionId) => string,
): Hit[] {
  const actions = ACTION_IDS.filter((id) => id !== 'find.open').map((id): Entry => {
    const { group, words = '', station } = ENTRIES[id];
    const hint = !can(id) && station ? `${group}, in ${station}` : group;
    return { hit: { kind: 'action', id, title: labelOf(id), hint }, title: labelOf(id), words: `${words} ${group}` };
  });
  const others = finds.map((find): Entry => ({ hit: { kind: 'find', ...find }, title: find.title, words: find.hint }));
  if (typed.trim() === '') return actions.map(({ hit }) => hit).filter((hit) => hit.kind === 'action' && can(hit.id));
  const fuse = new Fuse([...actions, ...others], {
    keys: [
      { name: 'title', weight: 3 },
      { name: 'words', weight: 1 },
    ],
    ...{ threshold: 0.34, ignoreLocation: true, ignoreDiacritics: true, includeScore: true },
  });
  const able = ({ hit }: Entry): number => (hit.kind === 'find' || can(hit.id) ? 0 : 0.05);
  return fuse
    .search(typed.trim())
    .sort((a, b) => (a.score ?? 0) + able(a.item) - (b.score ?? 0) - able(b.item))
    .slice(0, MOST)
    .map(({ item }) => item.hit);
}
