import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { arrange, type Arranged, type SetDocument } from '@tender-orbit/core/document';
import { emptyBounds, type Bounds, type Vec3 } from '@tender-orbit/core/geometry';
import type { Tableau } from '@tender-orbit/core/scene';
import { snapToFaces, snapToGrid, snapToVertices, type Boxed, type Steps } from '@tender-orbit/core/staging';
import { roleOf } from '../things/role.ts';
import { boxesIn, verticesOf } from '../viewer/boxes.ts';
import { useCampaign } from './campaign.ts';
import { useStage } from './stage.ts';

/** How near faces or vertices must come to snap together, metres. */
const REACH = 0.006;

/** Several things at once: which are chosen besides the first, and how they are moved and kept together. */
export const useSelection = defineStore('selection', () => {
  const campaign = useCampaign();
  const stage = useStage();
  /** What was chosen after `first`; once another thing is chosen alone, it no longer counts. */
  const also = ref<string[]>([]);
  const first = ref('');
  /** Things that alone are drawn while staging; empty for all. It never reaches a take. */
  const isolated = ref<string[]>([]);
  /** The thing that is given another name in the list; empty for none. */
  const naming = ref('');
  /** Metres; 0 is off. */
  const grid = ref(0);
  const faces = ref(false);
  const vertices = ref(false);
  const copied = ref<{ position: Vec3; turn?: number; tilt?: number; roll?: number; aim?: Vec3 } | null>(null);

  const all = computed(() => {
    if (!stage.selected) return [];
    const more = first.value === stage.selected ? also.value : [];
    return [stage.selected, ...more.filter((id) => id !== stage.selected)];
  });
  function arrangedOf(id: string): Arranged | null {
    const { set } = campaign;
    const found = set && [...set.products, ...set.surfaces, ...set.lights].find((t) => t.id === id);
    return found ? { group: found.group, locked: found.locked } : null;
  }
  /** Those that move with a thing: its group. */
  function mates(id: string): string[] {
    const group = arrangedOf(id)?.group;
    if (!group || !campaign.set) return [];
    const { products, surfaces, lights } = campaign.set;
    return [...products, ...surfaces, ...lights].filter((t) => t.group === group && t.id !== id).map((t) => t.id);
  }
  /** Chooses a thing; with `more` besides what is chosen already. */
  function pick(id: string, more = false): void {
    const now = all.value;
    if (more && stage.selected && id) {
      const next = now.includes(id) ? now.filter((other) => other !== id) : [...now, id, ...mates(id)];
      [stage.selected, also.value] = [next[0] ?? '', next.slice(1)];
    } else {
      stage.selected = id;
      also.value = id ? mates(id) : [];
    }
    first.value = stage.selected;
  }

  function moves(id: string): boolean {
    return stage.things.some((t) => t.id === id && 'position' in t.thing);
  }
  /** Moves things by the steps given; locked ones stay. */
  function moveBy(steps: Steps, label: string, gesture = `arrange-${Date.now()}`): void {
    for (const [id, by] of steps) {
      if (arrangedOf(id)?.locked || !moves(id)) continue;
      const moved = by.flatMap((d, axis) => {
        const path = `position.${axis}`;
        return Math.abs(d) > 1e-9 ? [[path, Number((stage.number(id, path) + d).toFixed(7))] as const] : [];
      });
      if (moved.length > 0) stage.setValues(id, Object.fromEntries(moved), label, gesture);
    }
  }
  /**
   * Puts a dragged thing at a place, snapped where snapping is on, and takes what is chosen with it along by as much.
   * @param tableau gives boxes to snap to.
   */
  function place(id: string, wanted: Vec3, label: string, gesture: string, tableau: Tableau | null = null): void {
    if (arrangedOf(id)?.locked) return;
    let to = snapToGrid(wanted, grid.value);
    const from = [0, 1, 2].map((axis) => stage.number(id, `position.${axis}`)) as Vec3;
    if (faces.value && tableau) {
      const boxes = boxesIn(tableau);
      const own = boxes.get(id);
      if (own) {
        const shifted = {
          min: own.min.map((v, a) => v + to[a] - from[a]),
          max: own.max.map((v, a) => v + to[a] - from[a]),
        };
        const others = [...boxes]
          .filter(([other]) => !all.value.includes(other))
          .map(([other, box]) => ({ id: other, box }));
        const snap = snapToFaces({ id, box: shifted as Bounds }, others, REACH);
        // Seated things keep to what they stand on.
        to = [to[0] + snap[0], to[1], to[2] + snap[2]];
      }
    }
    if (vertices.value && tableau) {
      const own = verticesOf(tableau, id).map((v, i) => v + to[i % 3] - from[i % 3]);
      const near = [...boxesIn(tableau).keys()].filter((other) => !all.value.includes(other));
      const snap = snapToVertices(
        own,
        near.map((other) => verticesOf(tableau, other)),
        REACH,
      );
      to = [to[0] + snap[0], to[1], to[2] + snap[2]];
    }
    const by = to.map((v, a) => v - from[a]) as Vec3;
    const going = all.value.includes(id) ? all.value : [id, ...mates(id)];
    moveBy(new Map(going.map((other) => [other, by])), label, gesture);
  }

  function changeAll(label: string, values: Partial<Arranged>): void {
    stage.run(arrange(all.value, label, values));
  }
  function copyPlace(): void {
    const found = stage.thing?.thing as
      { position?: Vec3; aim?: Vec3; turn?: number; tilt?: number; roll?: number } | undefined;
    if (!found?.position) return;
    const { position, aim, turn, tilt, roll } = JSON.parse(JSON.stringify(found)) as typeof found & { position: Vec3 };
    copied.value = { position, aim, turn, tilt, roll };
  }
  /** Gives what is chosen the copied place, or only its turn. */
  function pastePlace(what: 'all' | 'place' | 'turn'): void {
    const from = copied.value;
    if (!from) return;
    const gesture = `paste-${Date.now()}`;
    for (const id of all.value) {
      const target = stage.things.find((t) => t.id === id)?.thing;
      if (!target || arrangedOf(id)?.locked) continue;
      const put = (path: string, value: number | undefined): void => {
        if (value !== undefined) stage.setNumber(id, path, value, 'Paste place', gesture);
      };
      if (what !== 'turn') from.position.forEach((v, axis) => put(`position.${axis}`, v));
      if (what !== 'place') for (const key of ['turn', 'tilt', 'roll'] as const) if (key in target) put(key, from[key]);
      if (what === 'all' && 'aim' in target) from.aim?.forEach((v, axis) => put(`aim.${axis}`, v));
    }
  }

  return {
    ...{ naming, isolated, grid, faces, vertices, copied, all },
    ...{ arrangedOf, pick, moveBy, place, changeAll, copyPlace, pastePlace },
  };
});

/** The chosen things as boxes, the first chosen first; a lamp is a point. */
export function boxedThings(ids: readonly string[], tableau: Tableau, set: SetDocument): Boxed[] {
  const boxes = boxesIn(tableau);
  return ids.flatMap((id): Boxed[] => {
    const kind = roleOf(set, id);
    const box = boxes.get(id);
    if (box) return [{ id, box }];
    const lamp = kind === 'light' && set.lights.find((l) => l.id === id);
    if (!lamp) return [];
    const point = emptyBounds();
    Object.assign(point, { min: [...lamp.position], max: [...lamp.position] });
    return [{ id, box: point }];
  });
}
