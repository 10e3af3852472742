import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import {
  addLayer,
  changeLayer,
  deleteLayer,
  clearLayerValues,
  copyLayerValues,
  duplicateLayer,
  freshName,
  groupLayers,
  isLayerKeyed,
  isPart,
  keyValue,
  layerProperties,
  LAYERS,
  namesOf,
  newLayer,
  orderLayers,
  shiftLayer,
  toggleKey,
  ungroupLayer,
  type Layer,
  type LayerKind,
  type LayerOf,
  type LayerSpace,
  type LayerStack,
  type Command,
} from '@tender-orbit/core/document';
import { compileCurve } from '@tender-orbit/core/motion';
import type { Picture } from '@tender-orbit/core/picture';
import type { Property, PropertyValue } from '@tender-orbit/core/properties';
import { freshId } from '../things/fresh-id.ts';
import { useCampaign } from './campaign.ts';
import { useDocuments } from './documents.ts';
import { useNotices } from './notices.ts';
import { usePlayhead } from './playhead.ts';

/** Kinds that act on all that lies below. */
const ACTING: readonly LayerKind[] = [
  'grade',
  'curves',
  'tones',
  'qualifier',
  'lut',
  'lens',
  'filter',
  'group',
  'null',
];
/** Kinds that stand on the glass, before the picture, when they are put on the rack. */
const ON_GLASS: readonly LayerKind[] = [
  'text',
  'still',
  'footage',
  'lut',
  'tones',
  'curves',
  'qualifier',
  'stroke',
  'logo',
];

/**
 * The composite of the shot in hand, or the layers over the promo: plates on a rack, which of them is chosen, and how their values are
 * changed.
 */
export const useRack = defineStore('rack', () => {
  const campaign = useCampaign();
  const documents = useDocuments();
  const notices = useNotices();
  const playhead = usePlayhead();
  const chosen = ref('');
  /** The layer that alone is drawn while working; empty for all. */
  const isolated = ref('');
  /** What is drawn over the picture of the chosen layer. */
  const drawing = ref<'' | 'mask' | 'freehand' | 'stroke' | 'sketch' | 'corners' | 'colour'>('');
  /** The mask of the chosen layer that is drawn, when it is a further one. */
  const drawnMask = ref('');
  watch(chosen, () => (drawing.value = drawnMask.value = ''), { flush: 'sync' });
  /** The composite as it was last drawn. */
  const picture = shallowRef<Picture | null>(null);

  /** The frame of the promo while its layers are worked on; null: those of the shot are. */
  const promoFrame = shallowRef<(() => number) | null>(null);
  const host = computed((): 'shot' | 'promo' => (promoFrame.value ? 'promo' : 'shot'));
  const stack = computed((): LayerStack | undefined => (promoFrame.value ? campaign.promo : campaign.shot));
  const frame = computed(() => promoFrame.value?.() ?? playhead.frame);
  /** Works on the layers of the promo at its playhead from now on, or on those of the shot. */
  function workOnPromo(at: (() => number) | null): void {
    chosen.value = inside.value = isolated.value = '';
    promoFrame.value = at;
  }

  const layers = computed((): readonly Layer[] => stack.value?.layers ?? []);
  const layer = computed(() => layers.value.find((l) => l.id === chosen.value));
  /** What is drawn on: the chosen layer, or one of its further masks. */
  const drawnOn = computed(() => masksOf(chosen.value).find((l) => l.id === drawnMask.value) ?? layer.value);
  /** Begins to draw over the picture, or ends it when that is being drawn. */
  function draw(what: typeof drawing.value, of = chosen.value): void {
    const same = drawing.value === what && drawnOn.value?.id === of;
    drawnMask.value = of;
    drawing.value = same ? '' : what;
  }
  /** The group that is looked into; empty: the whole rack. */
  const inside = ref('');
  const group = computed(() => layers.value.find((l) => l.id === inside.value && l.kind === 'group'));
  /** From the glass to the farthest, as they stand on the rack: those of the group that is looked into. */
  const plates = computed(() => {
    const groups = new Set(layers.value.flatMap((l) => (l.kind === 'group' ? [l.id] : [])));
    const wanted = group.value?.id ?? '';
    return layers.value.filter((l) => !isPart(l) && (groups.has(l.group) ? l.group : '') === wanted).reverse();
  });
  /** Looks into the group that a layer lies in, if it is not seen as it is. */
  function reveal(id: string): void {
    const of = layers.value.find((l) => l.id === id);
    if (of && !isPart(of)) inside.value = of.group;
  }

  /** Whether a layer may be changed; says so when it is locked. */
  function isFree(of: Layer): boolean {
    // What is part of a layer is locked with it.
    const whole = isPart(of) ? layers.value.find((l) => l.id === of.group) : undefined;
    const { locked, name } = whole?.locked ? whole : of;
    if (locked) notices.refuse(`"${name}" is locked: unlock it to change it.`);
    return !locked;
  }
  function run(command: Command<LayerStack>, gesture = ''): void {
    if (host.value === 'shot') documents.run('shot', campaign.shotId, command, gesture);
    else documents.run('promo', campaign.promoId, command, gesture);
  }
  const trackOf = (id: string, name: string) =>
    stack.value?.tracks.find((t) => t.thing === id && t.path === name && t.keys.length > 0);

  /** A value of a layer at the playhead. */
  function value(of: Layer, name: string): PropertyValue {
    const track = trackOf(of.id, name);
    const property = layerProperties(of.kind)[name] as Property | undefined;
    const curve = track && property && compileCurve(track, property, stack.value?.eases ?? []);
    return curve ? curve.at(frame.value) : ((of as unknown as Record<string, PropertyValue>)[name] as PropertyValue);
  }
  function isKeyed(id: string, name: string): 'key' | 'track' | 'none' {
    const track = trackOf(id, name);
    if (!track) return 'none';
    return track.keys.some((k) => k.frame === frame.value) ? 'key' : 'track';
  }
  /** Sets a value: as a key where it is keyed, for the whole shot otherwise. */
  function setValue(of: Layer, name: string, to: PropertyValue, gesture = ''): void {
    if (!isFree(of)) return;
    const label = layerProperties(of.kind)[name]?.label.toLowerCase() ?? name;
    const words = `Change ${label} of ${of.name}`;
    if (isKeyed(of.id, name) === 'none') run(changeLayer(of.id, words, { [name]: to } as Partial<Layer>), gesture);
    else run(keyValue({ thing: of.id, path: name, frame: frame.value }, to, words), gesture);
  }
  function key(of: Layer, name: string): void {
    if (!isLayerKeyed(name) || !isFree(of)) return;
    const label = layerProperties(of.kind)[name].label.toLowerCase();
    run(toggleKey({ thing: of.id, path: name, frame: frame.value }, value(of, name), label));
  }

  /** Puts a layer on the rack; the first one brings the take with it, which all others lie over. */
  function add(kind: LayerKind, values: Partial<Layer> = {}): void {
    const gesture = `rack-${Date.now()}`;
    const fresh = (of: LayerKind, own: Partial<Layer> = {}): Layer => {
      const name = freshName(namesOf(layers.value), LAYERS[of].title);
      const space: LayerSpace = ON_GLASS.includes(of) ? 'glass' : 'scene';
      // A flare is light on top of what is there.
      const adds = of === 'flare' ? { blend: 'add' as const } : {};
      return newLayer(of, freshId('layer'), name, { space, ...adds, ...own });
    };
    if (layers.value.length === 0 && kind !== 'take' && host.value === 'shot') run(addLayer(fresh('take')), gesture);
    const within = group.value ? { group: group.value.id, space: group.value.space } : {};
    // Over a promo what is seen by itself begins at the playhead; what acts on all below lasts.
    const spanned = host.value === 'promo' && !ACTING.includes(kind) ? { start: frame.value, length: 48 } : {};
    const made = fresh(kind, { ...within, ...spanned, ...values });
    // What is light in the scene goes below all that stands on the glass.
    const firstGlass = layers.value.findIndex((l) => l.space === 'glass');
    run(addLayer(made, made.space === 'scene' && firstGlass >= 0 ? firstGlass : Infinity), gesture);
    chosen.value = made.id;
  }
  /** Sets what is no single number: words, a file, the span. */
  function change(of: Layer, label: string, values: Partial<Layer>, gesture = ''): void {
    if (isFree(of)) run(changeLayer(of.id, label, values), gesture);
  }
  /** Brings a layer to another first frame, its keys with it. */
  function shift(of: Layer, start: number, gesture = ''): void {
    if (isFree(of)) run(shiftLayer(of.id, start), gesture);
  }
  function lock({ id, locked }: Layer): void {
    run(changeLayer(id, locked ? 'Unlock layer' : 'Lock layer', { locked: !locked }));
  }
  function remove(id: string, gesture = ''): void {
    const of = layers.value.find((l) => l.id === id);
    if (!of || !isFree(of)) return;
    run(deleteLayer(id), gesture);
    if (chosen.value === id) chosen.value = '';
    if (inside.value === id) inside.value = of.group;
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
    run(orderLayers([...order].reverse()), gesture);
  }
  /** Puts layers into a group of their own. */
  function groupUp(ids: readonly string[]): void {
    const made = newLayer('group', freshId('layer'), freshName(namesOf(layers.value), LAYERS.group.title));
    run(groupLayers(ids, made));
    chosen.value = made.id;
  }
  function ungroup(of: Layer): void {
    if (!isFree(of)) return;
    run(ungroupLayer(of.id));
    if (inside.value === of.id) inside.value = of.group;
    chosen.value = '';
  }
  /** The further masks of a layer, in their order. */
  function masksOf(of: string): ReadonlyArray<LayerOf<'mask'>> {
    return layers.value.filter((l): l is LayerOf<'mask'> => l.kind === 'mask' && l.group === of);
  }
  function addMask(of: Layer): void {
    if (!isFree(of)) return;
    const name = `Mask ${masksOf(of.id).length + 2}`;
    run(addLayer(newLayer('mask', freshId('layer'), name, { group: of.id, mask: 'ellipse' })));
  }
  /** The fader of a light of a take, as it is. */
  const faderOf = (take: string, light: string): LayerOf<'fader'> | undefined =>
    layers.value.find((l): l is LayerOf<'fader'> => l.kind === 'fader' && l.group === take && l.light === light);
  /** Sets a value of a light's fader, which is put there when it is first touched. */
  function setFader(
    take: string,
    light: { id: string; name: string },
    name: 'level' | 'colour' | 'visible',
    to: PropertyValue,
    gesture = '',
  ): void {
    const known = faderOf(take, light.id);
    if (known) setValue(known, name, to, gesture);
    else {
      const values = { group: take, light: light.id, [name]: to };
      run(addLayer(newLayer('fader', freshId('layer'), light.name, values as Partial<Layer>)), gesture);
    }
  }
  /** Keys the level of a light's fader at the playhead. */
  function keyFader(take: string, light: { id: string; name: string }): void {
    const gesture = `fader-${Date.now()}`;
    if (!faderOf(take, light.id)) setFader(take, light, 'level', 1, gesture);
    key(faderOf(take, light.id)!, 'level');
  }
  return {
    ...{ host, stack, frame, workOnPromo, chosen, isolated, layers, layer, plates },
    ...{ value, isKeyed, setValue, key, change, shift, lock, run, add, remove, duplicate, arrange },
    ...{ copyValues, clearValues, picture, drawing, inside, group, reveal, groupUp, ungroup },
    ...{ faderOf, setFader, keyFader, masksOf, addMask, drawnOn, draw },
  };
});
