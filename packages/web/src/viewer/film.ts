import {
  cameraOf,
  compile,
  evaluate,
  partsKey,
  posed,
  type Tableau,
  type TableauInstance,
} from '@tender-orbit/core/scene';
import { computed, ref, shallowReactive, type ComputedRef, type Ref } from 'vue';
import { defineStore } from 'pinia';
import { useCampaign, usePlayhead } from '../stores/index.ts';
import { useEffects } from '../effects/index.ts';
import { artIn } from './loaded.ts';
import { modelOf } from './models.ts';

/** A frame that was drawn, and what it showed. */
interface FilmFrame {
  shows: string;
  picture: ImageBitmap;
}

/** Pixels across of a preview's frames. */
export const FILM_WIDTH = 480;
/** Frames kept in memory: 480 pixels wide they take half a megabyte each. */
const MOST = 720;
/** Pictures that a blurred frame is the mean of. */
const SHUTTER_STEPS = 8;

const numbers = new WeakMap<object, number>();
let last = 0;
/** A number for an object that stays as long as the object does. */
function numberOf(object: object): number {
  let known = numbers.get(object);
  if (known === undefined) numbers.set(object, (known = ++last));
  return known;
}

/** What a picture of a tableau depends on: equal for two frames that look alike. */
export function lookOf(tableau: Tableau, look: string): string {
  const instance = ({ model, matrix, parts, rayVisibility }: TableauInstance): unknown[] => [
    ...[model, matrix, partsKey(parts) ?? numberOf(parts), rayVisibility.camera, rayVisibility.shadows],
  ];
  const { environment, camera, view } = tableau;
  return JSON.stringify([
    ...[look, view, environment, camera.matrix, camera.verticalFov, camera.shift, camera.exposureScale],
    tableau.instances.map(instance),
    tableau.surfaces.map((s) => [s.shape, s.matrix, numberOf(s.finish), s.mirror, s.rayVisibility.camera]),
    tableau.lights,
    tableau.swarms.map(({ key, matrices }) => key ?? numberOf(matrices)),
    tableau.volumes.map(({ grid, ...look }) => [look, grid && (grid.key ?? numberOf(grid.density))]),
  ]);
}

/**
 * The frames of the shot in hand, drawn once each while nobody works, kept in memory, and drawn again only where an edit
 * touches them: so that a move plays in its true time on any machine.
 */
export const useFilm = defineStore('film', () => {
  const campaign = useCampaign();
  const playhead = usePlayhead();
  const effects = useEffects();
  /** Whether a preview is wanted. */
  const wanted: Ref<boolean> = ref(false);
  const look = ref('lit');
  /** Whether its frames are as the open shutter sees them. */
  const blurred = ref(false);
  const frames = shallowReactive(new Map<number, FilmFrame>());
  const shot = ref('');

  const program = computed(() =>
    campaign.set && campaign.shot && campaign.set.cameras.some((c) => c.id === campaign.shot!.camera)
      ? compile(campaign.set, campaign.shot)
      : null,
  );
  /** The tableau of any frame of the shot; null while the shot has no camera. */
  function tableauAt(frame: number): Tableau | null {
    const { products, aspect } = campaign;
    if (!program.value) return null;
    const meshes = (key: string) => modelOf(key)?.meshes;
    return evaluate(program.value, frame, { products, meshes, aspect, simulated: effects.simulatedAt });
  }
  /** What each frame of the shot shows now. */
  const shows: ComputedRef<readonly string[]> = computed(() => {
    if (!wanted.value || !campaign.shot) return [];
    const length = Math.min(MOST, campaign.shot.length);
    return Array.from({ length }, (_, frame) => {
      const tableau = tableauAt(frame);
      // Art that comes later changes the picture, not the tableau.
      if (!tableau) return '';
      const now = lookOf(tableau, `${look.value} ${artIn(tableau)}`);
      // What the shutter sees is told by both of its ends.
      const closing = shutterTimes(frame).at(-1);
      const end = closing === undefined ? null : tableauAt(closing);
      return end ? `${now} ${lookOf(end, '')}` : now;
    });
  });
  /** Times within a frame that its blurred picture is the mean of; none where it is sharp or nothing moves. */
  function shutterTimes(frame: number): number[] {
    if (!blurred.value || !program.value?.moving.size) return [];
    const { shutter } = posed(cameraOf(program.value), frame);
    if (!(shutter > 0)) return [];
    return Array.from({ length: SHUTTER_STEPS }, (_, i) => frame + ((i + 0.5) / SHUTTER_STEPS) * (shutter / 360));
  }
  const ready = computed(() => shows.value.map((now, frame) => frames.get(frame)?.shows === now));
  /** The next frame to draw, from the playhead on and round; null when all are there. */
  const next = computed(() => {
    const count = ready.value.length;
    for (let i = 0; i < count; i++) {
      const frame = (playhead.frame + i) % count;
      if (!ready.value[frame]) return frame;
    }
    return null;
  });
  function keep(frame: number, showing: string, picture: ImageBitmap): void {
    if (shot.value !== campaign.shotId) clear();
    shot.value = campaign.shotId;
    frames.get(frame)?.picture.close();
    frames.set(frame, { shows: showing, picture });
  }
  function clear(): void {
    for (const { picture } of frames.values()) picture.close();
    frames.clear();
  }
  /** The picture of a frame, when it is there and still true. */
  const pictureAt = (frame: number): ImageBitmap | null =>
    ready.value[frame] ? (frames.get(frame)?.picture ?? null) : null;
  const share = computed(() => {
    const count = ready.value.length;
    return count === 0 ? 0 : ready.value.filter(Boolean).length / count;
  });
  return { blurred, shutterTimes, wanted, look, shows, ready, next, share, tableauAt, keep, clear, pictureAt };
});
