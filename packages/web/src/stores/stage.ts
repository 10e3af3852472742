import { defineStore } from 'pinia';
import { get, set as assign } from 'lodash-es';
import { computed, ref } from 'vue';
import { findTrack, keyAt, removeKey, setKey, type LightRole, type SetDocument } from '@tender-orbit/core/document';
import { applyTracks, thingsOf } from '@tender-orbit/core/motion';
import {
  duplicateThing,
  listOf,
  newLight,
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

/** What is selected in the set, and how its numbers are changed: on the playhead's key when keyed, else for good. */
export const useStage = defineStore('stage', () => {
  const campaign = useCampaign();
  const documents = useDocuments();
  const playhead = usePlayhead();
  const notices = useNotices();
  const selected = ref('');
  const only = ref('');

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
  function addProduct(product: string): void {
    add(
      'Put product on the set',
      (set) => newSetProduct(set, product, campaign.products.get(product)?.name ?? 'Product'),
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
    addProduct,
    addLight,
    addCard,
    addCamera,
    remove,
    duplicate,
    rename,
  };
});
