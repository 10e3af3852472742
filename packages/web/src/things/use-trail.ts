import { findTrack, keyAt, keyValue, type Command, type Point, type ShotDocument } from '@tender-orbit/core/document';
import { compileMoves } from '@tender-orbit/core/motion';
import { computed, toRaw, type ComputedRef } from 'vue';
import { useCampaign, useDocuments, useStage } from '../stores/index.ts';

/** Where the chosen thing goes in the shot. */
export interface Trail {
  /** Its place at each frame, metres. */
  points: Point[];
  /** Frames at which its place is keyed by hand. */
  keys: number[];
}

/** Longest shot whose every frame is worked out. */
const MOST = 2000;
const AXES = [0, 1, 2] as const;

/** The way of the chosen thing, and how its keyed places are moved. */
export function useTrail(): {
  trail: ComputedRef<Trail | null>;
  put: (frame: number, at: Point, gesture: string) => void;
} {
  const campaign = useCampaign();
  const documents = useDocuments();
  const stage = useStage();
  const trail = computed((): Trail | null => {
    const [set, shot] = [toRaw(campaign.set), toRaw(campaign.shot)];
    const mover = set && shot && compileMoves(set, shot).posers.get(stage.selected);
    if (!mover || !('position' in mover.thing)) return null;
    const count = Math.min(MOST, shot.length);
    const points = Array.from({ length: count }, (_, f) => [...(mover.at(f) as { position: Point }).position] as Point);
    const moves = points.some((p) => p.some((v, axis) => Math.abs(v - points[0][axis]) > 1e-6));
    const own = shot.tracks.filter((t) => t.thing === stage.selected && /^position(\.\d)?$/.test(t.path));
    const keys = new Set(own.flatMap((t) => t.keys.map((k) => k.frame)).filter((f) => f >= 0 && f < count));
    return moves ? { points, keys: [...keys].sort((a, b) => a - b) } : null;
  });
  function put(frame: number, at: Point, gesture: string): void {
    const { shot } = campaign;
    if (!shot) return;
    const thing = stage.selected;
    const before = trail.value?.points[Math.round(frame)] ?? at;
    const run = (command: Command<ShotDocument>): void => documents.run('shot', campaign.shotId, command, gesture);
    const label = 'Move a key along its way';
    const rounded = at.map((v) => Number(v.toFixed(5))) as Point;
    if (findTrack(shot, thing, 'position')) {
      run(keyValue({ thing, path: 'position', frame }, rounded, label));
      return;
    }
    for (const axis of AXES) {
      const path = `position.${axis}`;
      const there = keyAt(findTrack(shot, thing, path), frame);
      // An axis that is not keyed here is left alone unless it is moved.
      if (there || Math.abs(rounded[axis] - before[axis]) > 1e-5)
        run(keyValue({ thing, path, frame }, rounded[axis], label));
    }
  }
  return { trail, put };
}
