import {
  beginOtherMoves,
  chooseMoves,
  landMoves,
  movesName,
  switchMoves,
  type Command,
  type MovesName,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { beatsBetween } from '@tender-orbit/core/time';
import { computed, type ComputedRef } from 'vue';
import { useHandlers } from '../actions/index.ts';
import { useCampaign, useDocuments, usePlayhead } from '../stores/index.ts';
import { usePathDrawing } from '../things/use-path-drawing.ts';
import type { MenuLines } from '../ui/index.ts';
import { useScreenSpeed } from './speed/use-screen-speed.ts';
import { useShotBeats } from './use-shot-beats.ts';

/** The two versions of a shot's moves. */
export function useMovesVersions(): { name: ComputedRef<MovesName>; lines: ComputedRef<MenuLines>; flip: () => void } {
  const campaign = useCampaign();
  const documents = useDocuments();
  const run = (command: Command<ShotDocument>): void => documents.run('shot', campaign.shotId, command);
  const name = computed(() => (campaign.shot ? movesName(campaign.shot) : 'A'));
  /** Plays the other version; without one it begins, alike at first. */
  const flip = (): void => run(campaign.shot?.other ? switchMoves() : beginOtherMoves());
  const lines = computed((): MenuLines => {
    const other = campaign.shot?.other?.name;
    if (!other) return [{ title: 'Begin a second version', run: flip }];
    return [
      { title: `Play version ${other}`, run: flip },
      { title: `Keep ${name.value} and drop ${other}`, run: () => run(chooseMoves()) },
    ];
  });
  return { name, lines, flip };
}

/** Actions on whole moves and on what is played; for the station to give once. */
export function useMovesActions(): void {
  const campaign = useCampaign();
  const documents = useDocuments();
  const playhead = usePlayhead();
  const pen = usePathDrawing();
  const grid = useShotBeats();
  const versions = useMovesVersions();
  const speed = useScreenSpeed();
  const length = (): number => campaign.shot?.length ?? 1;
  function land(): void {
    if (!grid.value) return;
    const beats = beatsBetween(grid.value, campaign.rate, -200, length() + 200).map((b) => b.frame);
    documents.run('shot', campaign.shotId, landMoves(beats));
  }
  useHandlers({
    'moves.version': {
      run: versions.flip,
      label: () =>
        campaign.shot?.other ? `Play version ${campaign.shot.other.name}` : 'Begin a second version of the moves',
    },
    'moves.land': { run: land, enabled: () => grid.value !== null },
    'moves.draw-path': {
      run: () => void (pen.drawing.value = !pen.drawing.value),
      label: () => (pen.drawing.value ? 'Stop drawing' : 'Draw a path by hand'),
    },
    'moves.speed': () => void (speed.open.value = !speed.open.value),
    'time.loop-from': () => playhead.loop({ from: playhead.frame }, length()),
    'time.loop-to': () => playhead.loop({ to: playhead.frame + 1 }, length()),
    'time.loop-all': { run: () => playhead.loop(null, length()), enabled: () => playhead.range !== null },
  });
}
