import { useLocalStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import {
  addThing,
  deleteKit,
  deleteThing,
  duplicateThing,
  findTrack,
  freshName,
  isEffectSetting,
  keyAt,
  keyValue,
  namesOf,
  newNull,
  nextBlock,
  nextCamera,
  nextCard,
  nextLight,
  nextProduct,
  OWN,
  renameThing,
  saveKit as keepKitCommand,
  setProperties,
  thingsOf,
  toggleKey as toggleKeyAt,
  useLights,
  type BlockForm,
  type LightRole,
  type Point,
  type PosedProduct,
  type ProductDocument,
  type SavedKit,
  type SetCommand,
  type SetDocument,
  type SetEffect,
  type ThingList,
} from '@tender-orbit/core/document';
import { placementMatrix, type Vec3 } from '@tender-orbit/core/geometry';
import { restingOwn, toneOf } from '@tender-orbit/core/product';
import { placeHighlight as highlightAt } from '@tender-orbit/core/light';
import { compileMoves, poseSet } from '@tender-orbit/core/motion';
import { readProperty, type PropertyValue } from '@tender-orbit/core/properties';
import {
  fitSet,
  freePlace,
  hiddenBoxes,
  keepKit,
  placeKit,
  placeSavedKit,
  placeParticleKit,
  placeSmokeKit,
  standingBox,
  subjectOf,
  tableAt,
  takenBoxes,
  type FirstProduct,
  type LightKit,
  type ParticleKit,
  type SmokeKit,
  type Subject,
} from '@tender-orbit/core/staging';
import { freshId } from '../things/fresh-id.ts';
import { roleOf } from '../things/role.ts';
import { useCampaign } from './campaign.ts';
import { useDocuments } from './documents.ts';
import { useNotices } from './notices.ts';
import { usePlayhead } from './playhead.ts';

/** An effect that begins with the shot, at a frame of it instead; what begins before the shot does so still. */
const begun = <E extends SetEffect>(effect: E, start: number): E => (effect.start < 0 ? effect : { ...effect, start });

/** What is selected in the set, and how its numbers are changed: on the playhead's key when keyed, else for good. */
export const useStage = defineStore('stage', () => {
  const campaign = useCampaign();
  const documents = useDocuments();
  const playhead = usePlayhead();
  const notices = useNotices();
  const selected = ref('');
  const only = ref('');
  /** Whether every change becomes a key at the playhead. */
  const recording = ref(false);
  /** Whether a light kit brings the ground and room along that it is made for. */
  const kitBackdrops = useLocalStorage('tender-orbit:kit-backdrops', true);
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

  /** A value of any kind as it is at the playhead. */
  function value(id: string, path: string): PropertyValue | undefined {
    const found = things.value.find((t) => t.id === id);
    if (found?.role === 'product' && path.startsWith(OWN)) return ownValue(found.thing as PosedProduct, path);
    return found && (readProperty(found.thing, path) as PropertyValue | undefined);
  }

  /** What a placed product has of its product's own: as keyed, or as the product itself has it. */
  function ownValue({ product: productId, variant, own }: PosedProduct, path: string): PropertyValue | undefined {
    const product = campaign.products.get(productId);
    return own?.[path.slice(OWN.length)] ?? (product && restingOwn(product, variant, path));
  }

  function isKeyed(id: string, path: string): 'key' | 'track' | 'none' {
    const track = campaign.shot && findTrack(campaign.shot, id, path);
    if (!track) return 'none';
    return keyAt(track, playhead.frame) ? 'key' : 'track';
  }

  /** Sets a number at the playhead: as a key where the property moves, in the set otherwise. */
  function setNumber(id: string, path: string, value: number, label: string, gesture = ''): void {
    setValues(id, { [path]: value }, label, gesture);
  }

  /** The same for several values of a thing at once, whatever they are. While moves are recorded every value is keyed. */
  function setValues(id: string, values: Readonly<Record<string, PropertyValue>>, label: string, gesture = ''): void {
    const still: Record<string, PropertyValue> = {};
    for (const [path, value] of Object.entries(values)) {
      // What is the product's own stands in no set: it is always keyed.
      const effect = campaign.set?.effects.find((e) => e.id === id);
      const setting = effect && isEffectSetting(effect, path);
      const inSet = !path.startsWith(OWN) && (setting || !recording.value);
      if (isKeyed(id, path) === 'none' && inSet) still[path] = value;
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

  /** Keys a value at the playhead, or takes its key away. */
  function toggleKey(id: string, path: string, property: string): void {
    const at = { thing: id, path, frame: playhead.frame };
    const held = value(id, path);
    if (held === undefined) return;
    documents.run('shot', campaign.shotId, toggleKeyAt(at, held, property));
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
    setValues(light.id, Object.fromEntries(numbers), `Place highlight of ${light.name}`);
    return true;
  }

  /** Adds what `make` makes of the set and a fresh id to one of its lists, and selects it. */
  function add<L extends ThingList>(
    list: L,
    kind: string,
    label: string,
    gesture: string,
    make: (set: SetDocument, id: string) => SetDocument[L][number],
  ): void {
    if (!campaign.set) return;
    const thing = make(campaign.set, freshId(kind));
    run(addThing(list, thing, label), gesture);
    selected.value = thing.id;
  }
  /** Puts a product where there is room in the picture, on a tabletop when one is there. */
  function addProduct(id: string): void {
    const product = campaign.products.get(id);
    const size = (product?.extent ?? [0.1, 0.1, 0.1]).map((v) => v * (product?.scale ?? 1)) as Vec3;
    const camera = posed.value?.cameras.find((c) => c.id === campaign.camera?.id);
    if (!posed.value) return;
    const first = posed.value.products.length === 0 && product !== undefined;
    const place: [number, number] = first
      ? [0, 0]
      : freePlace(
          size,
          [...takenBoxes(posed.value, campaign.products), ...hiddenBoxes(posed.value)],
          camera,
          campaign.aspect,
        );
    const table = tableAt(posed.value, place);
    const gesture = `first-${Date.now()}`;
    add('products', 'product', 'Put product on the set', gesture, (set, thing) =>
      nextProduct(set, thing, { id, name: product?.name ?? 'Product' }, place, table),
    );
    if (first) run(fitSet(firstProduct(product), 'Put product on the set'), gesture);
  }
  function addLight(role: LightRole): void {
    add('lights', 'light', 'Add light', '', (set, id) => nextLight(set, id, role));
  }
  function addCard(kind: 'flag' | 'bounce'): void {
    add('surfaces', 'card', kind === 'flag' ? 'Add flag' : 'Add bounce card', '', (set, id) => nextCard(set, id, kind));
  }
  function addBlock(form: BlockForm): void {
    add('surfaces', 'block', 'Add surface', '', (set, id) => nextBlock(set, id, form));
  }
  /** The first product of a set as it stands in its middle. */
  function firstProduct(product: ProductDocument): FirstProduct {
    const box = standingBox(product.extent, placementMatrix([0, 0, 0], 0, 0, 0, product.scale));
    return { box, tone: toneOf(product), camera: campaign.camera?.id ?? '', aspect: campaign.aspect };
  }
  /** What lights are set up round. */
  const subject = (set: SetDocument): Subject => subjectOf(set, campaign.products, campaign.camera);
  function useKit(kit: LightKit | SavedKit): void {
    if (!posed.value) return;
    const [round, prefix] = [subject(posed.value), freshId('kit')];
    const placed = typeof kit === 'string' ? placeKit(kit, round, prefix) : placeSavedKit(kit, round, prefix);
    if (!kitBackdrops.value) delete placed.backdrop;
    run(useLights(placed, typeof kit === 'string' ? kit : kit.name));
    selected.value = '';
    only.value = '';
  }
  /** Keeps the lights as they stand, for other sets of this campaign. */
  function saveKit(): void {
    const { set, campaign: job } = campaign;
    if (!set || !job || !posed.value) return;
    const name = freshName(namesOf(job.kits), `${set.name} lights`);
    documents.run('campaign', campaign.id, keepKitCommand(keepKit(set, subject(posed.value), freshId('kit'), name)));
    notices.done(`Kept as "${name}" for all sets of this campaign.`);
  }
  function removeKit(id: string): void {
    documents.run('campaign', campaign.id, deleteKit(id));
  }
  /**
   * Smoke or particles made up for what stands on the set.
   * @param start frame at which those begin that begin with the shot.
   */
  function addSmoke(kit: SmokeKit, start = 0): void {
    add('effects', 'smoke', `Add ${kit}`, '', (set, id) => begun(placeSmokeKit(kit, set, subject(set), id), start));
  }
  function addParticles(kit: ParticleKit, start = 0): void {
    add('effects', 'particles', `Add ${kit}`, '', (set, id) =>
      begun(placeParticleKit(kit, set, subject(set), id), start),
    );
  }
  function addCamera(): void {
    add('cameras', 'camera', 'Add camera', '', (set, id) => nextCamera(set, id, campaign.camera));
  }

  /** A null at a place; its id. */
  function addNull(position: Point, gesture = ''): string {
    add('nulls', 'null', 'Add null', gesture, (set, id) =>
      newNull(id, freshName(namesOf(set.nulls), 'Null'), position),
    );
    return selected.value;
  }

  /** Takes a thing off the set; things that go by one gesture come back by one undo. */
  function remove(id: string, gesture = ''): void {
    const role = campaign.set && roleOf(campaign.set, id);
    if (!role || role === 'environment') return;
    if (role === 'camera' && campaign.set!.cameras.length < 2) {
      notices.refuse('A set keeps at least one camera: add another before deleting this one.');
      return;
    }
    run(deleteThing(id), gesture);
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
    value,
    recording,
    setNumber,
    setValues,
    toggleKey,
    run,
    highlighting,
    placeHighlight,
    addProduct,
    addLight,
    addNull,
    addCard,
    addBlock,
    useKit,
    kitBackdrops,
    saveKit,
    removeKit,
    addCamera,
    addParticles,
    addSmoke,
    remove,
    duplicate,
    rename,
  };
});
