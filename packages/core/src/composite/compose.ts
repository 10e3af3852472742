import type { LayerOf } from '../document/index.ts';
import type { Picture } from '../picture/index.ts';
import { isBare, localLayer, type LocalLayer } from './bands.ts';
import { blend } from './blend.ts';
import { blurPlate } from './blur.ts';
import { act, isActing } from './act.ts';
import type { ComposeInput } from './input.ts';
import { hide, openOf, seeThrough, setOf, takeOf, type Open } from './hidden.ts';
import { movedByGroup } from './groups.ts';
import { defocusOf } from './in-set.ts';
import { isInSet, placed, placeIn, plateOf, type Drawing } from './layer-plate.ts';
import type { SeenLayer } from './layers-at.ts';
import { allOf, maskedBy, type FurtherMask, type Masked } from './masks.ts';
import type { Floats, Plate, Plates } from './plate.ts';
import { inBands, type RowStep } from './rows.ts';
import { shadesOf } from './shades.ts';
import { atShare, stepsOf } from './shutter.ts';
import type { StackCache } from './stack-cache.ts';
import { VIEWS } from './views.ts';

/** What is known while a picture is made. */
interface Work extends Drawing, Masked {
  /** What of what is behind the products is to be seen. */
  open: Open | null;
  /** Layers of each group, the lowest first; those of none under ''. */
  held: ReadonlyMap<string, readonly SeenLayer[]>;
}

/**
 * A composite's picture. Layers of the scene are laid over each other as light, from the lowest up; then the view transform makes
 * display colour of it, and layers on the glass are laid over that as the W3C has it, in sRGB. Grades and lenses act on all below
 * them, in a group on what it holds. The same input gives the same bytes everywhere, with a cache and without.
 * @param cache keeps what lies below a change, where pictures are made again and again while layers are worked on.
 */
export function compose(
  plates: Plates,
  layers: readonly SeenLayer[],
  input: ComposeInput,
  cache: StackCache | null = null,
): Picture {
  const { width, height } = input;
  return plates.within(() => {
    const held = new Map<string, SeenLayer[]>();
    const faders = new Map<string, Array<LayerOf<'fader'>>>();
    const masks = new Map<string, FurtherMask[]>();
    for (const layer of layers) {
      if (layer.kind === 'mask') masks.set(layer.group, [...(masks.get(layer.group) ?? []), layer]);
      else if (layer.kind === 'fader') faders.set(layer.group, [...(faders.get(layer.group) ?? []), layer]);
      else held.set(layer.group, [...(held.get(layer.group) ?? []), layer]);
    }
    const seen = takeOf(layers, input);
    const inSet = setOf(seen);
    const open = layers.some((l) => l.behind) ? openOf(plates, layers, input, inSet) : null;
    const work: Work = { input, inSet, faders, masks, held, open, seen };
    const [scene, glass] = (['scene', 'glass'] as const).map((space) =>
      runsOf((held.get('') ?? []).filter((l) => l.space === space)),
    );
    const count = width * height;
    const bytes = plates.floats(count);
    // Without layers on the glass light becomes bytes at once.
    const short = !cache && glass.length === 0;
    const look: RowStep = (rows, top) => {
      const into = short ? bytes.at + top * width * 4 : rows.at;
      plates.kernel.seen(rows.at, into, rows.width * rows.height, VIEWS.indexOf(input.view), short ? 1 : 0);
    };
    const steps = [...scene, look, ...glass];
    const local = steps.map((step): LocalLayer | null => {
      if (cache) return null;
      if (typeof step === 'function') return { covers: false, ready: () => look };
      return step.length === 1 ? localLayer(plates, step[0], work, masks.has(step[0].id)) : null;
    });
    const banded = local[0] && local[1];
    const first = cache || scene.length === 0 || banded ? null : lowest(plates, scene[0], work);
    const plate = first ?? (banded && local[0]?.covers ? plates.raw(width, height) : plates.make(width, height));
    const of = (id: string): SeenLayer[] => [
      ...[...(held.get(id) ?? []), ...(masks.get(id) ?? []), ...(faders.get(id) ?? [])],
    ];
    const base = cache?.base(layers, input) ?? '';
    const keys = steps.map((step) => (typeof step === 'function' ? base : base + cache?.key(step, { input, of })));
    const done = cache?.begin(plate, keys) ?? (first ? 1 : 0);
    for (let n = done; n < steps.length; n++) {
      const run: LocalLayer[] = [];
      for (let k = n; local[k]; k++) run.push(local[k]!);
      if (run.length > 1) {
        plates.within(() =>
          inBands(
            plates,
            plate,
            run.map(({ ready }) => ready()),
          ),
        );
        n += run.length - 1;
        continue;
      }
      const step = steps[n];
      if (typeof step === 'function') step(plate, 0);
      else layAll(plates, plate, step, work);
      cache?.made(plate, n + 1);
    }
    if (!short) plates.kernel.toBytes(plate.at, count, bytes.at);
    return { width, height, data: plates.bytes(bytes.at, count * 4).slice() };
  });
}

/** The plate of a step that is one layer as it comes, which laid over nothing is itself; null where the step must be laid. */
function lowest(plates: Plates, step: readonly SeenLayer[], work: Work): Plate | null {
  const [layer, ...clipped] = step;
  const plain = layer.blend === 'over' && layer.opacity === 1 && isBare(layer, work.masks.has(layer.id));
  if (clipped.length > 0 || !plain || isActing(layer) || isCard(layer)) return null;
  return trailedPlate(plates, layer, work);
}

/** Layers in runs: each with those that are clipped to it. */
function runsOf(layers: readonly SeenLayer[]): SeenLayer[][] {
  const runs: SeenLayer[][] = [];
  for (const layer of layers)
    if (layer.clip && runs.length > 0) runs[runs.length - 1].push(layer);
    else runs.push([layer]);
  return runs;
}

/** Lays layers over what is there, the lowest first; what is clipped only where the layer that it is clipped to is. */
function layAll(plates: Plates, plate: Plate, layers: readonly SeenLayer[], work: Work): void {
  plates.within(() => {
    let shape: Floats | null = null;
    layers.forEach((layer, i) => {
      if (!layer.clip) shape = null;
      const carries = !layer.clip && layers[i + 1]?.clip === true;
      if (carries) (shape = plates.floats(plate.width * plate.height)).data.fill(0);
      plates.within(() => lay(plates, plate, layer, work, layer.clip ? shape : null, carries ? shape : null));
    });
  });
}

/**
 * Lays one layer over what is there, or changes what is there by it.
 * @param clip where it may be seen. @param shape takes how much of it there is, a pixel.
 */
function lay(
  plates: Plates,
  below: Plate,
  layer: SeenLayer,
  work: Work,
  clip: Floats | null,
  shape: Floats | null,
): void {
  const { kernel } = plates;
  const { width, height } = below;
  const count = width * height;
  const mask = allOf([maskedBy(plates, layer, work), matteOfLayer(plates, layer, work), clip]);
  if (isActing(layer)) {
    const displaces = layer.kind === 'filter' && layer.form === 'displace by layer';
    act(plates, below, layer, work, mask, displaces ? seenOf(plates, layer, work, true) : null);
    shape?.data.fill(1);
    return;
  }
  const plate = trailedPlate(plates, layer, work);
  if (!plate) return;
  const space = work.inSet?.space;
  const standing = isCard(layer) ? [...(layer.carriers ?? []), layer].findLast((l) => l.inSet) : undefined;
  const defocus = standing && space ? defocusOf(standing, space) : 0;
  const blur = Math.sqrt(layer.blur * layer.blur + defocus * defocus) * height;
  if (blur > 0.2) blurPlate(plates, plate, blur);
  if (mask) kernel.cover(plate.at, mask.at, count);
  if (layer.behind && work.open) seeThrough(plates, plate, work.open);
  shadesOf(plates, plate, layer, (shade, opacity) => blend(plates, below, shade, 'over', opacity * layer.opacity));
  blend(plates, below, plate, layer.blend, layer.opacity);
  if (shape) {
    const [into, from] = [shape.data, plate.data];
    for (let i = 0; i < count; i++) into[i] = from[i * 4 + 3];
  }
}

/** A layer's plate over what it trails behind it, the farthest back lowest. */
function trailedPlate(plates: Plates, layer: SeenLayer, work: Work): Plate | null {
  const { earlier = [] } = layer;
  if (earlier.length === 0) return wholePlate(plates, layer, work);
  const sum = plates.make(work.input.width, work.input.height);
  [...earlier].reverse().forEach((was, i) => {
    plates.within(() => {
      const then: SeenLayer = { ...was, group: layer.group, carriers: layer.carriers };
      const plate = wholePlate(plates, then, work);
      let share = 1;
      for (let k = earlier.length - i; k > 0; k--) share *= layer.trailFade;
      if (plate) blend(plates, sum, plate, 'over', share);
    });
  });
  plates.within(() => {
    const plate = wholePlate(plates, layer, work);
    if (plate) blend(plates, sum, plate, 'over', 1);
  });
  return sum;
}

/** A layer's plate: a group's is what it holds, a card's in the set that of all the time that the shutter is open. */
function wholePlate(plates: Plates, layer: SeenLayer, work: Work): Plate | null {
  const isGroup = layer.kind === 'group';
  const held = isGroup ? heldPlate(plates, layer, work) : null;
  if (isGroup && !held) return null;
  const steps = isCard(layer) && work.inSet ? stepsOf(layer, work.inSet, work.input.height) : 1;
  const at = (share: number): Plate | null => {
    const then = atShare(layer, share);
    const plate = held
      ? // Cropping and hiding change it.
        groupPlate(plates, steps > 1 ? { ...held, plate: plates.copy(held.plate) } : held, then, work, share)
      : plateOf(plates, then, work, share);
    if (plate) hideCard(plates, plate, then, work, share);
    return plate;
  };
  if (steps === 1) return at(0);
  const { width, height } = work.input;
  const sum = plates.make(width, height);
  for (let k = 0; k < steps; k++)
    plates.within(() => {
      const plate = at((k + 0.5) / steps);
      if (plate) blend(plates, sum, plate, 'add', 1 / steps);
    });
  return sum;
}

/** Whether a layer is one card in the set: a flare is in the lens, and specks are each by themselves. */
const isCard = (layer: SeenLayer): boolean => isInSet(layer) && layer.kind !== 'flare' && layer.kind !== 'specks';

/** Takes away from a layer that stands in the set what stands before it. */
function hideCard(plates: Plates, plate: Plate, layer: SeenLayer, { inSet, seen }: Work, share: number): void {
  if (isCard(layer) && inSet && seen) hide(plates, plate, layer, seen, inSet, share);
}

/** What a group holds, laid over each other. */
interface Held {
  plate: Plate;
  /** Whether it lies where the group lies already. */
  inPlace: boolean;
}

function heldPlate(plates: Plates, layer: SeenLayer, work: Work): Held | null {
  // What a group holds stands where the group stands.
  const held = (work.held.get(layer.id) ?? []).map((l) => (l.space === layer.space ? l : { ...l, space: layer.space }));
  if (held.length === 0) return null;
  const plate = plates.make(work.input.width, work.input.height);
  const moved = movedByGroup(layer, held, (id) => work.masks.has(id));
  layAll(plates, plate, moved ?? held, work);
  return { plate, inPlace: moved !== null };
}

/** What a group holds in its place. */
function groupPlate(
  plates: Plates,
  { plate, inPlace }: Held,
  layer: SeenLayer,
  work: Work,
  share: number,
): Plate | null {
  if (inPlace) return plate;
  const place = placeIn(layer, work, share);
  return place && placed(plates, plate, place, work.input, 1, undefined, layer);
}

/** Rec.709 weights of luminance. */
const [R, G, B] = [0.2126, 0.7152, 0.0722];

/** What another layer lets be seen of one, by its alpha or its brightness; null without a matte. */
function matteOfLayer(plates: Plates, layer: SeenLayer, work: Work): Floats | null {
  if (layer.matte === 'none') return null;
  const floats = seenOf(plates, layer, work, layer.matte.startsWith('luma'));
  if (floats && layer.matte.endsWith('inverted')) floats.data.forEach((v, i, all) => (all[i] = 1 - v));
  return floats;
}

/** The alpha or the brightness of the layer that another one names, a pixel; null when it names none. */
function seenOf(plates: Plates, layer: SeenLayer, work: Work, luma: boolean): Floats | null {
  if (!layer.matteFrom) return null;
  const { width, height } = work.input;
  const floats = plates.floats(width * height);
  floats.data.fill(0);
  plates.within(() => {
    const from: SeenLayer = { ...layer.matteFrom!, space: 'glass' };
    const plate = wholePlate(plates, from, work);
    if (!plate) return;
    const mask = maskedBy(plates, from, work);
    if (mask) plates.kernel.cover(plate.at, mask.at, width * height);
    const [data, into] = [plate.data, floats.data];
    for (let i = 0, o = 0; i < into.length; i++, o += 4)
      into[i] = from.opacity * (luma ? R * data[o] + G * data[o + 1] + B * data[o + 2] : data[o + 3]);
  });
  return floats;
}
