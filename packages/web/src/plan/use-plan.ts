import { computed, ref, type ComputedRef } from 'vue';
import type { Point } from '@tender-orbit/core/document';
import { compileMoves, poseSet } from '@tender-orbit/core/motion';
import {
  clampElevation,
  fromPolar,
  planOf,
  planReach,
  stepPolar,
  toPolar,
  type PlanMark,
  type PolarStep,
} from '@tender-orbit/core/staging';
import { thingsOf } from '@tender-orbit/core/document';
import { useCampaign, useSelection, useStage } from '../stores/index.ts';

export interface Trail {
  id: string;
  kind?: PlanMark['outline']['kind'];
  points: string;
  /** Places at even times, for ticks: the denser, the slower. */
  frames: number[][];
}

export interface Plan {
  marks: ComputedRef<PlanMark[]>;
  /** Metres from the middle to the rim, and drawing units a metre. */
  reach: ComputedRef<number>;
  scale: ComputedRef<number>;
  at: (p: readonly number[]) => { x: number; y: number };
  trails: ComputedRef<Trail[]>;
  place: (mark: PlanMark, position: Point, gesture: string) => void;
  raise: (mark: PlanMark, elevation: number, gesture: string) => void;
  nudge: (event: KeyboardEvent, mark: PlanMark) => void;
  /** Takes a mark in hand: keeps the scale while it is dragged. @returns whether it may be dragged. */
  grab: (event: PointerEvent, mark: PlanMark) => boolean;
  release: () => void;
}

/** What an arrow key does to a thing; with Alt it raises and lowers. */
function stepOf({ key, altKey }: KeyboardEvent): PolarStep | null {
  if (key === 'ArrowLeft') return { azimuth: -2 };
  if (key === 'ArrowRight') return { azimuth: 2 };
  if (key === 'ArrowUp') return altKey ? { elevation: 2 } : { ground: -0.02 };
  if (key === 'ArrowDown') return altKey ? { elevation: -2 } : { ground: 0.02 };
  return null;
}

/**
 * What the orbit plan shows of the set at the playhead, and how its things are moved.
 * @param paths whether trails of keyed things are wanted. @param rim radius of the drawing.
 */
export function usePlan(paths: () => boolean, rim: number): Plan {
  const campaign = useCampaign();
  const selection = useSelection();
  const stage = useStage();

  const marks = computed(() => {
    const cameras = new Set([campaign.shot?.camera ?? '', stage.selected]);
    return stage.posed ? planOf(stage.posed, campaign.products, cameras) : [];
  });
  const frozen = ref<number | null>(null);
  const reach = computed(() => frozen.value ?? planReach(marks.value));
  const scale = computed(() => rim / reach.value);
  const at = (p: readonly number[]): { x: number; y: number } => ({ x: p[0] * scale.value, y: p[2] * scale.value });

  /** Ground path of every thing whose place is keyed. */
  const trails = computed(() => {
    const { set, shot } = campaign;
    if (!paths() || !set || !shot) return [];
    const steps = Math.min(48, shot.length - 1) || 1;
    const moves = compileMoves(set, shot);
    const moving = [...moves.posers.keys()];
    const poses = Array.from({ length: steps + 1 }, (_, i) => poseSet(moves, (i / steps) * (shot.length - 1)));
    const places = poses.map((pose) => new Map(thingsOf(pose).map(({ id, thing }) => [id, thing])));
    return moving.flatMap((id) => {
      const points = places.flatMap((things) => {
        const thing = things.get(id);
        if (!thing || !('position' in thing)) return [];
        const { x, y } = at(thing.position);
        return [`${x.toFixed(2)},${y.toFixed(2)}`];
      });
      // What only turns or changes its look leaves no trail.
      if (new Set(points).size < 2) return [];
      const kind = marks.value.find((mark) => mark.id === id)?.outline.kind;
      return [{ id, kind, points: points.join(' '), frames: points.map((point) => point.split(',').map(Number)) }];
    });
  });

  function place({ id, name }: PlanMark, position: Point, gesture: string): void {
    selection.place(id, position.map((v) => Number(v.toFixed(4))) as Point, `Move ${name}`, gesture);
  }
  function raise(mark: PlanMark, elevation: number, gesture: string): void {
    const polar = toPolar(mark.position);
    place(mark, fromPolar({ ...polar, elevation: clampElevation(elevation) }), gesture);
  }
  function nudge(event: KeyboardEvent, mark: PlanMark): void {
    const step = stepOf(event);
    const choosing = event.key === 'Enter' || event.key === ' ';
    if (!step && !choosing) return;
    event.preventDefault();
    // What is moved is what the details show.
    if (!selection.all.includes(mark.id)) selection.pick(mark.id);
    if (!step) return;
    const share = event.shiftKey ? 0.2 : 1;
    const scaled = Object.fromEntries(Object.entries(step).map(([key, value]) => [key, value * share]));
    place(mark, stepPolar(mark.position, scaled), `nudge-${mark.id}`);
  }
  function grab(event: PointerEvent, { id }: PlanMark): boolean {
    const more = event.ctrlKey || event.shiftKey || event.metaKey;
    // Pressing one of several that are chosen drags them all.
    if (more || !selection.all.includes(id)) selection.pick(id, more);
    if (!more) frozen.value = reach.value;
    return !more;
  }

  return { marks, reach, scale, at, trails, place, raise, nudge, grab, release: () => (frozen.value = null) };
}
