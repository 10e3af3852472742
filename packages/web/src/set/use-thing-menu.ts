import { mdiSwapHorizontal } from '@mdi/js';
import { findThing, type ThingRole } from '@tender-orbit/core/document';
import { useActions, type ActionId } from '../actions/index.ts';
import { useCampaign, useSelection } from '../stores/index.ts';
import type { MenuLines } from '../ui/index.ts';
import { useReplace } from './use-replace.ts';

const SHARED: Array<ActionId | null> = [
  ...(['thing.rename', 'thing.duplicate', 'thing.hide', 'thing.lock', 'thing.isolate', null] as const),
  ...(['thing.copy-place', 'thing.paste-place', null, 'thing.group', 'thing.ungroup', 'thing.carry', null] as const),
];
/** What only things of a role can do, before the rest. */
const OWN: Record<ThingRole, Array<ActionId | null>> = {
  product: ['thing.seat', null],
  surface: [],
  light: ['thing.only', 'thing.highlight', null],
  camera: [],
  environment: [],
  effect: [],
  null: [],
};

/** What can be done with a thing, as a context menu: choosing it first, unless it is one of several that are chosen. */
export function useThingMenu(): (id: string) => MenuLines {
  const actions = useActions();
  const campaign = useCampaign();
  const selection = useSelection();
  const replace = useReplace();
  return (id) => {
    const found = campaign.set && findThing(campaign.set, id);
    if (!found) return [];
    if (!selection.all.includes(id)) selection.pick(id);
    if (found.role === 'environment') return [];
    const replacing: MenuLines =
      found.role === 'product'
        ? [{ title: 'Replace product...', icon: mdiSwapHorizontal, run: () => replace.ask(id) }, null]
        : [];
    return [...actions.lines(OWN[found.role]), ...replacing, ...actions.lines([...SHARED, 'thing.delete'])].filter(
      (line, i, all) => line !== null || (i > 0 && all[i - 1] !== null),
    );
  };
}
