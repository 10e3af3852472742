import { computed, ref, type ComputedRef } from 'vue';
import { horizontalFov } from '@tender-orbit/core/camera';
import { compileMoves, poseSet } from '@tender-orbit/core/motion';
import { useCampaign, useSelection, useStage } from '../stores/index.ts';
import { fromPolar, toPolar, type Point3 } from './polar.ts';

/** A thing on the plan. */
export interface PlanMark {
  id: string;
  name: string;
  kind: 'light' | 'camera' | 'product' | 'card' | 'block';
  /** Of a body: its size from front to back, its turn in degrees, and whether it is round. */
  depth?: number;
  turn?: number;
  round?: boolean;
  position: Point3;
  aim: Point3;
  on: boolean;
  /** Half of the opening of its wedge, radians. */
  half: number;
  size: number;
  /** What a light is marked with. */
  mark?: string;
}

export interface Plan {
  spots: ComputedRef<PlanMark[]>;
  /** Metres from the middle to the rim, and drawing units a metre. */
  reach: ComputedRef<number>;
  scale: ComputedRef<number>;
  at: (p: readonly number[]) => { x: number; y: number };
  walls: ComputedRef<Array<{ id: string; x: number; y: number }>>;
  trails: ComputedRef<Array<{ id: string; kind?: PlanMark['kind']; points: string }>>;
  place: (id: string, position: Point3, gesture: string) => void;
  nudge: (event: KeyboardEvent, spot: PlanMark) => void;
  /** Keeps the scale while something is dragged. */
  hold: () => void;
  release: () => void;
}

/**
 * What the orbit plan shows of the set at the playhead, and how its things are moved.
 * @param paths whether trails of keyed things are wanted. @param rim radius of the drawing.
 */
export function usePlan(paths: () => boolean, rim: number): Plan {
  const campaign = useCampaign();
  const selection = useSelection();
  const stage = useStage();

  const spots = computed<PlanMark[]>(() => {
    const set = stage.posed;
    if (!set) return [];
    return [
      ...set.products
        .filter((p) => p.visible)
        .map((p) => ({
          id: p.id,
          name: p.name,
          kind: 'product' as const,
          position: p.position,
          aim: p.position,
          on: true,
          half: 0,
          size: footprint(p.product) * p.scale,
        })),
      ...set.lights.map((l) => ({
        id: l.id,
        name: l.name,
        kind: 'light' as const,
        position: l.position,
        aim: l.aim,
        on: l.on,
        half:
          l.shape === 'spot'
            ? ((l.beamAngle / 2) * Math.PI) / 180
            : l.gridAngle > 0
              ? (l.gridAngle * Math.PI) / 180
              : 0.32,
        mark: l.mark,
        size: Math.max(l.width, 0.05),
      })),
      ...set.surfaces
        .filter((s) => s.kind === 'card')
        .map((s) => ({
          id: s.id,
          name: s.name,
          kind: 'card' as const,
          position: s.position,
          aim: s.aim,
          on: s.visible,
          half: 0,
          size: s.width,
        })),
      ...set.surfaces
        .filter((s) => s.kind === 'block' && s.form !== 'floor')
        .map((s) => ({
          id: s.id,
          name: s.name,
          kind: 'block' as const,
          position: s.kind === 'block' ? s.position : ([0, 0, 0] as Point3),
          aim: s.kind === 'block' ? s.position : ([0, 0, 0] as Point3),
          on: s.visible,
          half: 0,
          size: s.width,
          depth: s.kind === 'block' ? (s.form === 'drum' ? s.width : Math.max(s.depth, 0.01)) : 0,
          turn: s.kind === 'block' ? s.turn : 0,
          round: s.kind === 'block' && s.form === 'drum',
        })),
      ...set.cameras
        .filter((c) => c.id === campaign.shot?.camera || c.id === stage.selected)
        .map((c) => ({
          id: c.id,
          name: c.name,
          kind: 'camera' as const,
          position: c.position,
          aim: c.aim,
          on: true,
          half: horizontalFov(c.focalLength, c.sensorWidth) / 2,
          size: 0,
        })),
    ];
  });
  function footprint(product: string): number {
    const document = campaign.products.get(product);
    return document ? (Math.max(document.extent[0], document.extent[2]) * document.scale) / 2 : 0.03;
  }

  /** Metres from the middle to the rim: what is furthest, rounded up so that it does not twitch while dragging. */
  const frozen = ref<number | null>(null);
  const reach = computed(() => {
    if (frozen.value) return frozen.value;
    const far = Math.max(
      0.3,
      ...spots.value
        .filter((s) => s.kind !== 'product' && s.kind !== 'block')
        .map((s) => Math.hypot(s.position[0], s.position[2])),
    );
    return Math.ceil(far * 1.12 * 10) / 10;
  });
  const scale = computed(() => rim / reach.value);
  const at = (p: readonly number[]): { x: number; y: number } => ({ x: p[0] * scale.value, y: p[2] * scale.value });

  /** The back wall of each sweep. */
  const walls = computed(() =>
    (stage.posed?.surfaces ?? [])
      .filter((s) => s.kind === 'sweep')
      .filter((s) => s.visible)
      .map((s) => ({
        id: s.id,
        x: Math.min(rim * 1.4, (s.width / 2) * scale.value),
        y: -Math.min(rim * 1.02, s.depth * 0.4 * scale.value),
      })),
  );

  /** Ground path of every thing whose place is keyed. */
  const trails = computed(() => {
    const { set, shot } = campaign;
    if (!paths() || !set || !shot) return [];
    const moving = [...new Set(shot.tracks.filter((t) => t.path.startsWith('position')).map((t) => t.thing))];
    const steps = Math.min(24, shot.length - 1) || 1;
    const moves = compileMoves(set, shot);
    const poses = Array.from({ length: steps + 1 }, (_, i) => poseSet(moves, (i / steps) * (shot.length - 1)));
    return moving.map((id) => ({
      id,
      kind: spots.value.find((s) => s.id === id)?.kind,
      points: poses
        .flatMap((pose) =>
          [...pose.products, ...pose.lights, ...pose.cameras, ...pose.surfaces.filter((s) => s.kind !== 'sweep')]
            .filter((t) => t.id === id)
            .map((t) => `${at(t.position).x},${at(t.position).y}`),
        )
        .join(' '),
    }));
  });

  function place(id: string, position: Point3, gesture: string): void {
    const name = spots.value.find((s) => s.id === id)?.name ?? id;
    selection.place(id, position.map((v) => Number(v.toFixed(4))) as Point3, `Move ${name}`, gesture);
  }
  /** Arrows turn and step in or out; with Alt they raise and lower. */
  function nudge(event: KeyboardEvent, spot: PlanMark): void {
    const step = event.shiftKey ? 0.2 : 1;
    const polar = toPolar(spot.position);
    const ground = Math.hypot(spot.position[0], spot.position[2]);
    const moved = { ...polar };
    if (event.key === 'ArrowLeft') moved.azimuth -= 2 * step;
    else if (event.key === 'ArrowRight') moved.azimuth += 2 * step;
    else if (event.altKey && event.key === 'ArrowUp') moved.elevation = Math.min(89, polar.elevation + 2 * step);
    else if (event.altKey && event.key === 'ArrowDown') moved.elevation = Math.max(-10, polar.elevation - 2 * step);
    else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      const grown = Math.max(0.01, ground + (event.key === 'ArrowUp' ? -0.02 : 0.02) * step);
      event.preventDefault();
      place(
        spot.id,
        [
          spot.position[0] * (grown / (ground || 1)),
          spot.position[1],
          ground ? spot.position[2] * (grown / ground) : grown,
        ],
        `nudge-${spot.id}`,
      );
      return;
    } else return;
    event.preventDefault();
    place(spot.id, fromPolar(moved), `nudge-${spot.id}`);
  }

  return {
    spots,
    reach,
    scale,
    at,
    walls,
    trails,
    place,
    nudge,
    hold: () => (frozen.value = reach.value),
    release: () => (frozen.value = null),
  };
}
