import {
  addThing,
  applyRecipe,
  freshName,
  namesOf,
  newCard,
  recipeFacts,
  type RecipeKind,
  type SetCamera,
  type SetDocument,
} from '@tender-orbit/core/document';
import { suggestRecipe } from '@tender-orbit/core/staging';
import { beatsBetween, framesToSeconds } from '@tender-orbit/core/time';
import { ref, type Ref } from 'vue';
import { useCampaign, useDocuments, useNotices, usePlayhead, useSelection, useStage } from '../../stores/index.ts';
import { freshId } from '../../things/fresh-id.ts';
import { useMoveSelection } from '../../things/use-move-selection.ts';
import { useShotBeats } from '../use-shot-beats.ts';

const onBeats = ref(true);

/** Applies recipes to what is in hand. */
export function useRecipes(): {
  onBeats: Ref<boolean>;
  hasBeats: () => boolean;
  /** The frame of the beat that is nearest, when beats are kept to; the frame itself otherwise. */
  nearestBeat: (frame: number) => number;
  apply: (kind: RecipeKind) => void;
} {
  const campaign = useCampaign();
  const documents = useDocuments();
  const notices = useNotices();
  const playhead = usePlayhead();
  const selection = useSelection();
  const stage = useStage();
  const moves = useMoveSelection();
  const grid = useShotBeats();

  function beatFrames(): number[] | undefined {
    const length = campaign.shot?.length ?? 0;
    return onBeats.value && grid.value
      ? beatsBetween(grid.value, campaign.rate, 0, length).map((b) => b.frame)
      : undefined;
  }
  function nearestBeat(frame: number): number {
    const [first, ...rest] = beatFrames() ?? [frame];
    return Math.round(rest.reduce((a, b) => (Math.abs(b - frame) < Math.abs(a - frame) ? b : a), first ?? frame));
  }

  function apply(kind: RecipeKind): void {
    const { shot, products, rate } = campaign;
    if (!campaign.set || !shot) return;
    const gesture = `recipe-${Date.now()}`;
    const flag = kind === 'reveal' ? flagBefore(campaign.set, campaign.camera) : null;
    if (flag) stage.run(addThing('surfaces', flag, 'Add flag'), gesture);
    const beats = beatFrames();
    const recipe = suggestRecipe(kind, {
      ...{ id: freshId('recipe'), set: campaign.set, shot, products, chosen: selection.all, beats },
      ...{ start: playhead.frame, rate: 1 / framesToSeconds(1, rate) },
    });
    if ('refused' in recipe) {
      notices.refuse(recipe.refused);
      return;
    }
    documents.run('shot', campaign.shotId, applyRecipe(recipe), gesture);
    if (recipeFacts(kind).role !== 'camera') selection.pick(recipe.things[0]);
    else selection.pick(recipe.camera);
    moves.choose('recipe', recipe.id);
  }
  return { onBeats, hasBeats: () => grid.value !== null, nearestBeat, apply };
}

/** A black flag that fills the camera's view, where the set has none to slide away. */
function flagBefore(set: SetDocument, camera: SetCamera | undefined): ReturnType<typeof newCard> | null {
  if (!camera || set.surfaces.some((s) => s.kind === 'card' && s.visible)) return null;
  const { position, aim, sensorWidth, focalLength } = camera;
  const reach = Math.hypot(...aim.map((v, axis) => v - position[axis]));
  const at = position.map((v, axis) => v + (aim[axis] - v) * 0.35) as [number, number, number];
  const wide = ((reach * 0.35 * sensorWidth) / focalLength) * 1.3;
  return newCard(freshId('card'), freshName(namesOf(set.surfaces), 'Curtain flag'), '#0b0a0d', {
    ...{ width: Number(wide.toFixed(3)), height: Number(wide.toFixed(3)), position: at, aim: position },
    rayVisibility: { camera: true, reflections: true, shadows: true, lighting: true },
  });
}
