import { defineStore } from 'pinia';
import { get, set as assign } from 'lodash-es';
import { computed, ref } from 'vue';
import {
  findTrack,
  keyAt,
  removeKey,
  setKey,
  type BlockForm,
  type LightRole,
  type SavedKit,
  type SetDocument,
  type SetProduct,
} from '@tender-orbit/core/document';
import { inverse, placementMatrix, transformPoint, type Bounds } from '@tender-orbit/core/geometry';
import { freePlace, keepKit, standingBox, type LightKit, type Subject } from '@tender-orbit/core/staging';
import { placeHighlight as highlightAt } from '@tender-orbit/core/light';
import { applyTracks, blockTop, thingsOf } from '@tender-orbit/core/motion';
import {
  applyKit,
  duplicateThing,
  freshId,
  freshName,
  listOf,
  newLight,
  nextBlock,
  nextCard,
  newSetProduct,
  nextCamera,
  removeThing,
} from '../things/edit-set.ts';
import { kindOf } from '../things/kind-of.ts';
import { useCampaign } from './campaign.ts';
import { useDocuments } from './documents.ts';
import { useNotices } from './notices.ts';
import { usePlayhead } from './playhead.ts';

type Spot = [number, number, number];

/** What is selected in the set, and how its numbers are changed: on the playhead's key when keyed, else for good. */
export const useStage = defineStore('stage', () => {
  const campaign = useCampaign();
  const documents = useDocuments();
  const playhead = usePlayhead();
  const notices = useNotices();
  const selected = ref('');
  const only = ref('');
  /** The light whose highlight the next click on a product places; empty for none. */
  const highlighting = ref('');

  /** The set as it stands at the playhead. */
  const posed = computed<SetDocument | null>(() =>
    campaign.set && campaign.shot ? applyTracks(campaign.set, campaign.shot, playhead.frame) : (campaign.set ?? null),
  );
  const things = computed(() => (posed.value ? thingsOf(posed.value) : []));
  const thing = computed(() => things.value.find((t) => t.id === selected.value) ?? null);

  function number(id: string, path: string): number {
    const found = things.value.find((t) => t.id === id);
    return found ? (get(found.thing, path) as number) : 0;
  }

  function isKeyed(id: string, path: string): 'key' | 'track' | 'none' {
    const track = campaign.shot && findTrack(campaign.shot, id, path);
    if (!track) return 'none';
    return keyAt(track, playhead.frame) ? 'key' : 'track';
  }

  /** Sets a number at the playhead: as a key where the property moves, in the set otherwise. */
  function setNumber(id: string, path: string, value: number, label: string, gesture = ''): void {
    if (isKeyed(id, path) !== 'none') {
      documents.edit('shot', campaign.shotId, label, (shot) => setKey(shot, id, path, playhead.frame, value), gesture);
      return;
    }
    documents.edit(
      'set',
      campaign.setId,
      label,
      (set) => {
        const target = thingsOf(set as SetDocument).find((t) => t.id === id)?.thing;
        if (target) assign(target, path, value);
      },
      gesture,
    );
  }

  /** Keys a number at the playhead, or takes its key away. */
  function toggleKey(id: string, path: string, label: string): void {
    const value = number(id, path);
    documents.edit(
      'shot',
      campaign.shotId,
      isKeyed(id, path) === 'key' ? `Remove key of ${label}` : `Key ${label}`,
      (shot) => {
        if (isKeyed(id, path) === 'key') removeKey(shot, id, path, playhead.frame);
        else setKey(shot, id, path, playhead.frame, value);
      },
    );
  }

  /** Changes something other than a number; one gesture is undone in one go. */
  function change(label: string, recipe: (set: SetDocument) => void, gesture = ''): void {
    documents.edit('set', campaign.setId, label, (set) => recipe(set as SetDocument), gesture);
  }

  /** Moves the waiting light to where its mirror image is seen at `spot`, as far off as it was. @returns whether one was. */
  function placeHighlight(spot: { point: Spot; normal: Spot; eye: Spot }): boolean {
    const light = posed.value?.lights.find((l) => l.id === highlighting.value);
    if (!light) return false;
    highlighting.value = '';
    const distance = Math.hypot(...light.position.map((v, a) => v - light.aim[a]));
    const placed = highlightAt(spot.point, spot.normal, spot.eye, distance);
    if (placed.position[1] < 0.01) {
      notices.refuse(
        'For a highlight there the light would stand under the floor: click higher up, or lower the camera.',
      );
      return true;
    }
    const gesture = `highlight-${Date.now()}`;
    for (const path of ['position', 'aim'] as const)
      placed[path].forEach((value, axis) =>
        setNumber(light.id, `${path}.${axis}`, Number(value.toFixed(5)), `Place highlight of ${light.name}`, gesture),
      );
    return true;
  }

  /** Adds what `make` makes to the set and selects it. */
  function add<T extends { id: string }>(
    label: string,
    make: (set: SetDocument) => T,
    into: (set: SetDocument) => T[],
  ): void {
    if (!campaign.set) return;
    const thing = make(campaign.set);
    change(label, (set) => void into(set).push(thing));
    selected.value = thing.id;
  }
  /** Boxes of what stands on the set. */
  function taken(): Bounds[] {
    const set = posed.value;
    if (!set) return [];
    const products = set.products.filter((p) => p.visible && campaign.products.has(p.product));
    return [
      ...products.map((p) => {
        const { extent, scale } = campaign.products.get(p.product)!;
        const box = standingBox(
          extent,
          placementMatrix([p.position[0], 0, p.position[2]], p.turn, p.tilt, p.roll, scale * p.scale),
        );
        const lift = groundOf(p) + p.position[1] - box.min[1];
        for (const end of [box.min, box.max]) end[1] += lift;
        return box;
      }),
      ...set.surfaces.flatMap((s) =>
        s.kind === 'block' && s.form !== 'tabletop'
          ? [standingBox([s.width, s.height, s.depth], placementMatrix(s.position, s.turn, 0, 0, 1))]
          : [],
      ),
    ];
  }
  /** The tabletop under a place, empty for none. */
  function tableAt([x, z]: readonly [number, number]): string {
    const table = posed.value?.surfaces.find((s) => {
      if (s.kind !== 'block' || s.form !== 'tabletop') return false;
      const [dx, , dz] = transformPoint(inverse(placementMatrix(s.position, s.turn, 0, 0, 1)), [x, 0, z]);
      return Math.abs(dx) < s.width / 2 && Math.abs(dz) < s.depth / 2;
    });
    return table?.id ?? '';
  }
  /** Puts a product where there is room in the picture, on a tabletop when one is there. */
  function addProduct(id: string): void {
    const product = campaign.products.get(id);
    const size = (product?.extent ?? [0.1, 0.1, 0.1]).map((v) => v * (product?.scale ?? 1)) as Spot;
    const camera = posed.value?.cameras.find((c) => c.id === campaign.camera?.id);
    const place = freePlace(size, taken(), camera, campaign.aspect);
    add(
      'Put product on the set',
      (set) => ({ ...newSetProduct(set, id, product?.name ?? 'Product', place), standsOn: tableAt(place) }),
      (set) => set.products,
    );
  }
  function addLight(role: LightRole): void {
    add(
      'Add light',
      (set) => newLight(set, role),
      (set) => set.lights,
    );
  }
  function addCard(kind: 'flag' | 'bounce'): void {
    add(
      kind === 'flag' ? 'Add flag' : 'Add bounce card',
      (set) => nextCard(set, kind),
      (set) => set.surfaces,
    );
  }
  function addBlock(form: BlockForm): void {
    add(
      'Add surface',
      (set) => nextBlock(set, form),
      (set) => set.surfaces,
    );
  }
  /** Height of what a product stands on; `depth` ends a ring of things that stand on each other. */
  function groundOf({ standsOn, position }: SetProduct, depth = 0): number {
    const block = posed.value?.surfaces.find((s) => s.id === standsOn);
    if (block?.kind === 'block') return blockTop(block, position[0], position[2]);
    const under = posed.value?.products.find((p) => p.id === standsOn);
    const product = under && campaign.products.get(under.product);
    if (!product || depth > 8) return 0;
    return groundOf(under, depth + 1) + product.extent[1] * product.scale * under.scale;
  }
  /** What lights are set up round: the first product there is, as the shot's camera sees it. */
  function subject(): Subject {
    const item = posed.value?.products.find((p) => p.visible);
    const product = item && campaign.products.get(item.product);
    const size = product ? product.extent.map((v) => v * product.scale * item.scale) : [0.08, 0.1, 0.08];
    const [x, y, z] = item?.position ?? [0, 0, 0];
    const camera = campaign.camera;
    const turn = camera ? Math.atan2(camera.position[0] - x, camera.position[2] - z) : 0;
    return {
      centre: [x, (item?.seated ? Math.max(0, y) + groundOf(item) : y) + size[1] / 2, z],
      radius: Math.hypot(...size) / 2,
      cameraTurn: (turn * 180) / Math.PI,
    };
  }
  function useKit(kit: LightKit | SavedKit): void {
    const around = subject();
    change(`Light kit "${typeof kit === 'string' ? kit : kit.name}"`, (set) => applyKit(set, kit, around));
    selected.value = '';
    only.value = '';
  }
  /** Keeps the lights as they stand, for other sets of this campaign. */
  function saveKit(): void {
    const { set, campaign: job } = campaign;
    if (!set || !job) return;
    const name = freshName(
      job.kits.map((k) => k.name),
      `${set.name} lights`,
    );
    const kit = keepKit(set, subject(), freshId('kit'), name);
    documents.edit('campaign', campaign.id, 'Save light kit', (draft) => void draft.kits.push(kit));
    notices.done(`Kept as "${name}" for all sets of this campaign.`);
  }
  function removeKit(id: string): void {
    documents.edit('campaign', campaign.id, 'Delete light kit', (draft) => {
      draft.kits = draft.kits.filter((k) => k.id !== id);
    });
  }
  function addCamera(): void {
    add(
      'Add camera',
      (set) => nextCamera(set, campaign.camera),
      (set) => set.cameras,
    );
  }

  function remove(id: string): void {
    const kind = campaign.set && kindOf(campaign.set, id);
    if (!kind || kind === 'environment') return;
    if (kind === 'camera' && campaign.set!.cameras.length < 2) {
      notices.refuse('A set keeps at least one camera: add another before deleting this one.');
      return;
    }
    change('Delete from the set', (set) => void removeThing(set, kind, id));
    if (selected.value === id) selected.value = '';
    if (only.value === id) only.value = '';
  }

  function duplicate(id: string): void {
    const kind = campaign.set && kindOf(campaign.set, id);
    if (!kind) return;
    let copy: string | null = null;
    change('Duplicate', (set) => void (copy = duplicateThing(set, kind, id)));
    if (copy) selected.value = copy;
  }

  function rename(id: string, name: string): void {
    const kind = campaign.set && kindOf(campaign.set, id);
    if (!kind || name.trim() === '') return;
    change('Rename', (set) => {
      const thing = listOf(set, kind).find((t) => t.id === id);
      if (thing) thing.name = name.trim().slice(0, 120);
    });
  }

  return {
    selected,
    only,
    posed,
    things,
    thing,
    number,
    isKeyed,
    setNumber,
    toggleKey,
    change,
    highlighting,
    placeHighlight,
    addProduct,
    addLight,
    addCard,
    addBlock,
    useKit,
    saveKit,
    removeKit,
    addCamera,
    remove,
    duplicate,
    rename,
  };
});
