import { readPosed, type Command, type Keyed } from '@tender-orbit/core/document';
import { compileMoves } from '@tender-orbit/core/motion';
import { toRaw } from 'vue';
import { useCampaign, useDocuments } from '../stores/index.ts';
import type { GraphHost } from '../timeline/graph/graph-host.ts';
import type { RuledBy } from '../timeline/graph/graph-lines.ts';
import type { ThreadRow } from './timeline-rows.ts';
import { useKeySelection } from './use-key-selection.ts';

/** The shot in hand as graphs show it: rules may make other values of what keys say. */
export function useShotGraph(): GraphHost {
  const campaign = useCampaign();
  const documents = useDocuments();
  const ruledBy: RuledBy = (row, { display }) => {
    const { set, shot } = campaign;
    const { rules, track } = row as ThreadRow;
    if (!set || !shot || !rules.some((rule) => !rule.muted)) return null;
    const mover = compileMoves(toRaw(set), toRaw(shot)).posers.get(track.thing);
    return mover ? (frame) => (readPosed(mover.at(frame), track.path) as number) * display.scale : null;
  };
  return {
    selection: useKeySelection(),
    eases: () => campaign.shot?.eases ?? [],
    run: (command: Command<Keyed>, gesture) => documents.run('shot', campaign.shotId, command, gesture),
    ruledBy,
  };
}
