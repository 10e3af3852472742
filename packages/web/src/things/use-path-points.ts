import {
  findTrack,
  keyAt,
  keyValue,
  movePathPoint,
  toggleKey,
  type MovePath,
  type PathPoint,
  type Point,
} from '@tender-orbit/core/document';
import { pathMover } from '@tender-orbit/core/motion';
import { computed, toRaw, type ComputedRef } from 'vue';
import { useCampaign, useDocuments, usePlayhead, useStage } from '../stores/index.ts';

/** The drawn paths as they are at the playhead, and how their points are moved and keyed. */
export function usePathPoints(): {
  paths: ComputedRef<MovePath[]>;
  /** Puts a point somewhere: as a key where it is keyed or moves are recorded, for good otherwise. */
  put: (path: MovePath, point: PathPoint, at: Point, gesture: string) => void;
  keyed: (path: MovePath, point: PathPoint) => 'key' | 'track' | 'none';
  toggle: (path: MovePath, point: PathPoint) => void;
} {
  const campaign = useCampaign();
  const documents = useDocuments();
  const playhead = usePlayhead();
  const stage = useStage();
  const movers = computed(() => {
    const shot = toRaw(campaign.shot);
    return (shot?.paths ?? []).map((path) =>
      pathMover(
        path,
        shot!.tracks.filter((t) => t.thing === path.id),
        shot!.eases,
      ),
    );
  });
  const paths = computed(() => movers.value.map((mover) => mover.at(playhead.frame)));
  const address = (path: MovePath, { id }: PathPoint) => ({
    ...{ thing: path.id, path: `points.${id}.at`, frame: playhead.frame },
  });
  function keyed(path: MovePath, point: PathPoint): 'key' | 'track' | 'none' {
    const at = address(path, point);
    const track = campaign.shot && findTrack(campaign.shot, at.thing, at.path);
    if (!track) return 'none';
    return keyAt(track, playhead.frame) ? 'key' : 'track';
  }
  function put(path: MovePath, point: PathPoint, at: Point, gesture: string): void {
    const rounded = at.map((v) => Number(v.toFixed(4))) as Point;
    const still = keyed(path, point) === 'none' && !stage.recording;
    const command = still
      ? movePathPoint(path.id, point.id, rounded)
      : keyValue(address(path, point), rounded, 'Key point of a path');
    documents.run('shot', campaign.shotId, command, gesture);
  }
  function toggle(path: MovePath, point: PathPoint): void {
    documents.run('shot', campaign.shotId, toggleKey(address(path, point), point.at, 'point of a path'));
  }
  return { paths, put, keyed, toggle };
}
