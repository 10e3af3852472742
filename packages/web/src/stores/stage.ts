import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import {
  addThing,
  deleteKit,
  deleteThing,
  duplicateThing,
  findTrack,
  freshName,
  keyAt,
  keyValue,
  namesOf,
  nextBlock,
  nextCamera,
  nextCard,
  nextLight,
  nextProduct,
  renameThing,
  saveKit as keepKitCommand,
  setProperties,
  thingsOf,
  toggleKey as toggleKeyAt,
  useLights,
  type BlockForm,
  type LightRole,
  type SavedKit,
  type SetCommand,
  type SetDocument,
  type SetProduct,
  type ThingList,
} from '@tender-orbit/core/document';
import { inverse, placementMatrix, transformPoint, type Bounds, type Vec3 } from '@tender-orbit/core/geometry';
import { placeHighlight as highlightAt } from '@tender-orbit/core/light';
import { compileMoves, poseSet } from '@tender-orbit/core/motion';
import { readProperty } from '@tender-orbit/core/properties';
import { blockTop } from '@tender-orbit/core/scene';
import {
  freePlace,
  keepKit,
  placeKit,
  placeSavedKit,
  standingBox,
  type LightKit,
  type Subject,
} from '@tender-orbit/core/staging';
import { freshId } from '../things/fresh-id.ts';
import { roleOf } from '../things/role.ts';
import { useCampaign } from './campaign.ts';
import { useDocuments } from './documents.ts';
import { useNotices } from './notices.ts';
import { usePlayhead } from './playhead.ts';

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
    campaign.set && campaign.shot
      ? poseSet(compileMoves(campaign.set, campaign.shot), playhead.frame)
      : (campaign.set ?? null),
  );
  const things = computed(() => (posed.value ? thingsOf(posed.value) : []));
  const thing = computed(() => things.value.find((t) => t.id === selected.value) ?? null);

  function number(id: string, path: string): number {
    const found = things.value.find((t) => t.id === id);
    return found ? (readProperty(found.thing, path) as number) : 0;
  }

  function isKeyed(id: string, path: string): 'key' | 'track' | 'none' {
    const track = campaign.shot && findTrack(campaign.shot, id, path);
    if (!track) return 'none';
    return keyAt(track, playhead.frame) ? 'key' : 'track';
  }

  /** Sets a number at the playhead: as a key where the property moves, in the set otherwise. */
  function setNumber(id: string, path: string, value: number, label: string, gesture = ''): void {
    setNumbers(id, { [path]: value }, label, gesture);
  }

  /** The same for several numbers of a thing at once. */
  function setNumbers(id: string, values: Readonly<Record<string, number>>, label: string, gesture = ''): void {
    const still: Record<string, number> = {};
    for (const [path, value] of Object.entries(values)) {
      if (isKeyed(id, path) === 'none') still[path] = value;
      else
        documents.run(
          'shot',
          campaign.shotId,
          keyValue({ thing: id, path, frame: playhead.frame }, value, label),
          gesture,
        );
    }
    if (Object.keys(still).length > 0) run(setProperties(id, still, label), gesture);
  }

  /** Keys a number at the playhead, or takes its key away. */
  function toggleKey(id: string, path: string, property: string): void {
    const at = { thing: id, path, frame: playhead.frame };
    documents.run('shot', campaign.shotId, toggleKeyAt(at, number(id, path), property));
  }

  /** Runs a command on the set; one gesture is undone in one go. */
  function run(command: SetCommand, gesture = ''): void {
    documents.run('set', campaign.setId, command, gesture);
  }

  /** Moves the waiting light to where its mirror image is seen at `spot`, as far off as it was. @returns whether one was. */
  function placeHighlight(spot: { point: Vec3; normal: Vec3; eye: Vec3 }): boolean {
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
    const numbers = (['position', 'aim'] as const).flatMap((path) =>
      placed[path].map((value, axis) => [`${path}.${axis}`, Number(value.toFixed(5))] as const),
    );
    setNumbers(light.id, Object.fromEntries(numbers), `Place highlight of ${light.name}`);
    return true;
  }

  /** Adds what `make` makes of the set and a fresh id to one of its lists, and selects it. */
  function add<L extends ThingList>(
    list: L,
    kind: string,
    label: string,
    make: (set: SetDocument, id: string) => SetDocument[L][number],
  ): void {
    if (!campaign.set) return;
    const thing = make(campaign.set, freshId(kind));
    run(addThing(list, thing, label));
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
    const size = (product?.extent ?? [0.1, 0.1, 0.1]).map((v) => v * (product?.scale ?? 1)) as Vec3;
    const camera = posed.value?.cameras.find((c) => c.id === campaign.camera?.id);
    const place = freePlace(size, taken(), camera, campaign.aspect);
    add('products', 'product', 'Put product on the set', (set, thing) =>
      nextProduct(set, thing, { id, name: product?.name ?? 'Product' }, place, tableAt(place)),
    );
  }
  function addLight(role: LightRole): void {
    add('lights', 'light', 'Add light', (set, id) => nextLight(set, id, role));
  }
  function addCard(kind: 'flag' | 'bounce'): void {
    add('surfaces', 'card', kind === 'flag' ? 'Add flag' : 'Add bounce card', (set, id) => nextCard(set, id, kind));
  }
  function addBlock(form: BlockForm): void {
    add('surfaces', 'block', 'Add surface', (set, id) => nextBlock(set, id, form));
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
    const prefix = freshId('kit');
    const placed = typeof kit === 'string' ? placeKit(kit, subject(), prefix) : placeSavedKit(kit, subject(), prefix);
    run(useLights(placed, typeof kit === 'string' ? kit : kit.name));
    selected.value = '';
    only.value = '';
  }
  /** Keeps the lights as they stand, for other sets of this campaign. */
  function saveKit(): void {
    const { set, campaign: job } = campaign;
    if (!set || !job) return;
    const name = freshName(namesOf(job.kits), `${set.name} lights`);
    documents.run('campaign', campaign.id, keepKitCommand(keepKit(set, subject(), freshId('kit'), name)));
    notices.done(`Kept as "${name}" for all sets of this campaign.`);
  }
  function removeKit(id: string): void {
    documents.run('campaign', campaign.id, deleteKit(id));
  }
  function addCamera(): void {
    add('cameras', 'camera', 'Add camera', (set, id) => nextCamera(set, id, campaign.camera));
  }

  function remove(id: string): void {
    const role = campaign.set && roleOf(campaign.set, id);
    if (!role || role === 'environment') return;
    if (role === 'camera' && campaign.set!.cameras.length < 2) {
      notices.refuse('A set keeps at least one camera: add another before deleting this one.');
      return;
    }
    run(deleteThing(id));
    if (selected.value === id) selected.value = '';
    if (only.value === id) only.value = '';
  }

  function duplicate(id: string): void {
    const role = campaign.set && roleOf(campaign.set, id);
    if (!role || role === 'environment') return;
    const copy = freshId(role);
    run(duplicateThing(id, copy));
    selected.value = copy;
  }

  function rename(id: string, name: string): void {
    run(renameThing(id, name));
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
    setNumbers,
    toggleKey,
    run,
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
