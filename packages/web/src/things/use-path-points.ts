import {
  bendPathPoint,
  findTrack,
  keyAt,
  keyValue,
  movePathPoint,
  toggleKey,
  type MovePath,
  type PathPoint,
  type Point,
} from '@tender-orbit/core/document';
import { handlesOf, pathMover } from '@tender-orbit/core/motion';
import { computed, toRaw, type ComputedRef } from 'vue';
import { useCampaign, useDocuments, usePlayhead, useStage } from '../stores/index.ts';

/** The drawn paths as they are at the playhead, and how their points are moved and keyed. */
export function usePathPoints(): {
  paths: ComputedRef<MovePath[]>;
  /** Puts a point somewhere: as a key where it is keyed or moves are recorded, for good otherwise. */
  put: (path: MovePath, point: PathPoint, at: Point, gesture: string) => void;
  keyed: (path: MovePath, point: PathPoint) => 'key' | 'track' | 'none';
  toggle: (path: MovePath, point: PathPoint) => void;
  /** Gives a point handles where it has none, as it goes now, and takes them away where it has. */
  bend: (path: MovePath, index: number) => void;
  /** Puts the end of a handle somewhere; joined, the other one turns with it and keeps its reach. */
  pull: (path: MovePath, point: PathPoint, end: 'in' | 'out', at: Point, joined: boolean, gesture: string) => void;
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
  function bend(path: MovePath, index: number): void {
    const point = path.points[index];
    const rounded = (p: Point): Point => p.map((v) => Number(v.toFixed(5))) as Point;
    const { in: into, out } = handlesOf(path, index);
    const handles = point.handles ? null : { in: rounded(into), out: rounded(out) };
    documents.run('shot', campaign.shotId, bendPathPoint(path.id, point.id, handles));
  }
  function pull(
    path: MovePath,
    point: PathPoint,
    end: 'in' | 'out',
    at: Point,
    joined: boolean,
    gesture: string,
  ): void {
    if (!point.handles) return;
    const arm = at.map((v, axis) => Number((v - point.at[axis]).toFixed(5))) as Point;
    const other = end === 'in' ? 'out' : 'in';
    const [long, reach] = [Math.hypot(...arm), Math.hypot(...point.handles[other])];
    const opposite = arm.map((v) => Number(((-v / long) * reach).toFixed(5))) as Point;
    const turned = joined && long > 1e-6 ? opposite : point.handles[other];
    const handles = { ...point.handles, [end]: arm, [other]: turned } as { in: Point; out: Point };
    documents.run('shot', campaign.shotId, bendPathPoint(path.id, point.id, handles), gesture);
  }
  return { paths, put, keyed, toggle, bend, pull };
}
