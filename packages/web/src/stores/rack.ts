import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import {
  addLayer,
  carryLayer,
  changeLayer,
  deleteLayer,
  clearLayerValues,
  copyLayerValues,
  duplicateLayer,
  freshName,
  isLayerKeyed,
  keyValue,
  layerProperties,
  LAYERS,
  namesOf,
  newLayer,
  toggleKey,
  type Layer,
  type LayerKind,
  type LayerSpace,
} from '@tender-orbit/core/document';
import { compileCurve } from '@tender-orbit/core/motion';
import type { Picture } from '@tender-orbit/core/picture';
import type { Property, PropertyValue } from '@tender-orbit/core/properties';
import { freshId } from '../things/fresh-id.ts';
import { useCampaign } from './campaign.ts';
import { useDocuments } from './documents.ts';
import { useNotices } from './notices.ts';
import { usePlayhead } from './playhead.ts';

/** Kinds that stand on the glass, before the picture, when they are put on the rack. */
const ON_GLASS: readonly LayerKind[] = ['text', 'still', 'footage', 'lut', 'tones', 'qualifier'];

/** The composite of the shot in hand: its layers as plates on a rack, which of them is chosen, and how their values are changed. */
export const useRack = defineStore('rack', () => {
  const campaign = useCampaign();
  const documents = useDocuments();
  const notices = useNotices();
  const playhead = usePlayhead();
  const chosen = ref('');
  /** The layer that alone is drawn while working; empty for all. */
  const isolated = ref('');
  /** The composite as it was last drawn. */
  const picture = shallowRef<Picture | null>(null);

  const layers = computed((): readonly Layer[] => campaign.shot?.layers ?? []);
  const layer = computed(() => layers.value.find((l) => l.id === chosen.value));
  /** From the glass to the farthest, as they stand on the rack. */
  const plates = computed(() => [...layers.value].reverse());

  /** Whether a layer may be changed; says so when it is locked. */
  function isFree({ locked, name }: Layer): boolean {
    if (locked) notices.refuse(`"${name}" is locked: unlock it to change it.`);
    return !locked;
  }
  function run(command: Parameters<typeof documents.run<'shot'>>[2], gesture = ''): void {
    documents.run('shot', campaign.shotId, command, gesture);
  }
  const trackOf = (id: string, name: string) =>
    campaign.shot?.tracks.find((t) => t.thing === id && t.path === name && t.keys.length > 0);

  /** A value of a layer at the playhead. */
  function value(of: Layer, name: string): PropertyValue {
    const track = trackOf(of.id, name);
    const property = layerProperties(of.kind)[name] as Property | undefined;
    const curve = track && property && compileCurve(track, property, campaign.shot?.eases ?? []);
    return curve ? curve.at(playhead.frame) : ((of as unknown as Record<string, PropertyValue>)[name] as PropertyValue);
  }
  function isKeyed(id: string, name: string): 'key' | 'track' | 'none' {
    const track = trackOf(id, name);
    if (!track) return 'none';
    return track.keys.some((k) => k.frame === playhead.frame) ? 'key' : 'track';
  }
  /** Sets a value: as a key where it is keyed, for the whole shot otherwise. */
  function setValue(of: Layer, name: string, to: PropertyValue, gesture = ''): void {
    if (!isFree(of)) return;
    const label = layerProperties(of.kind)[name]?.label.toLowerCase() ?? name;
    const words = `Change ${label} of ${of.name}`;
    if (isKeyed(of.id, name) === 'none') run(changeLayer(of.id, words, { [name]: to } as Partial<Layer>), gesture);
    else run(keyValue({ thing: of.id, path: name, frame: playhead.frame }, to, words), gesture);
  }
  function key(of: Layer, name: string): void {
    if (!isLayerKeyed(name) || !isFree(of)) return;
    const label = layerProperties(of.kind)[name].label.toLowerCase();
    run(toggleKey({ thing: of.id, path: name, frame: playhead.frame }, value(of, name), label));
  }

  /** Puts a layer on the rack; the first one brings the take with it, which all others lie over. */
  function add(kind: LayerKind, values: Partial<Layer> = {}): void {
    const gesture = `rack-${Date.now()}`;
    const fresh = (of: LayerKind, own: Partial<Layer> = {}): Layer => {
      const name = freshName(namesOf(layers.value), LAYERS[of].title);
      const space: LayerSpace = ON_GLASS.includes(of) ? 'glass' : 'scene';
      return newLayer(of, freshId('layer'), name, { space, ...own });
    };
    if (layers.value.length === 0 && kind !== 'take') run(addLayer(fresh('take')), gesture);
    const made = fresh(kind, values);
    // What is light in the scene goes below all that stands on the glass.
    const firstGlass = layers.value.findIndex((l) => l.space === 'glass');
    run(addLayer(made, made.space === 'scene' && firstGlass >= 0 ? firstGlass : Infinity), gesture);
    chosen.value = made.id;
  }
  /** Sets what is no single number: words, a file, the span. */
  function change(of: Layer, label: string, values: Partial<Layer>, gesture = ''): void {
    if (isFree(of)) run(changeLayer(of.id, label, values), gesture);
  }
  function lock({ id, locked }: Layer): void {
    run(changeLayer(id, locked ? 'Unlock layer' : 'Lock layer', { locked: !locked }));
  }
  function remove(id: string): void {
    const of = layers.value.find((l) => l.id === id);
    if (!of || !isFree(of)) return;
    run(deleteLayer(id));
    if (chosen.value === id) chosen.value = '';
    if (isolated.value === id) isolated.value = '';
  }
  function duplicate(of: Layer, later = 0): void {
    const id = freshId('layer');
    run(duplicateLayer(of.id, id, freshName(namesOf(layers.value), of.name), later));
    chosen.value = id;
  }
  /** Gives other layers values of one with their keys, each later than the one before by some frames. */
  function copyValues(from: Layer, to: readonly string[], names: readonly string[], later = 0): void {
    run(copyLayerValues(from.id, to, names, later));
  }
  function clearValues(ids: readonly string[], names: readonly string[]): void {
    run(clearLayerValues(ids, names));
  }
  /** Puts plates into another order, from the glass to the farthest; those before `glass` stand on it. */
  function arrange(order: readonly string[], glass: number): void {
    const gesture = `rack-${Date.now()}`;
    order.forEach((id, i) => {
      const space: LayerSpace = i < glass ? 'glass' : 'scene';
      if (layers.value.find((l) => l.id === id)?.space !== space)
        run(changeLayer(id, 'Reorder layers', { space }), gesture);
    });
    const wanted = [...order].reverse();
    wanted.forEach((id, to) => {
      if (layers.value[to]?.id !== id) run(carryLayer(id, to), gesture);
    });
  }
  return {
    ...{ chosen, isolated, layers, layer, plates },
    ...{ value, isKeyed, setValue, key, change, lock, run, add, remove, duplicate, arrange },
    ...{ copyValues, clearValues, picture },
  };
});
