import type { ExrChannel, ExrPicture } from '../interchange/index.ts';
import { matte, shadowPass, type Passes } from './passes.ts';
import type { Denoised } from './denoise.ts';

/** Names for the layers: those of the scene's things, finishes and lights, by number. */
export interface LayerNames {
  things: readonly string[];
  finishes: readonly string[];
  lights: readonly string[];
}

const AXES = ['X', 'Y', 'Z'];
const COLOURS = ['R', 'G', 'B'];

/**
 * All passes of a frame as layers of one OpenEXR picture. The first layer (R, G, B, A) is the clean beauty in cd/m2 times
 * `scale`; light passes and the splits by path and lobe add up to `noisy`, clean light passes (when there are) to the beauty.
 */
export function exrOf(passes: Passes, clean: Denoised | null, names: LayerNames, scale: number): ExrPicture {
  const channels: ExrChannel[] = [];
  const add = (name: string, data: Float32Array, type: ExrChannel['type'] = 'half'): void =>
    void channels.push({ name, type, data });
  const split = (layer: string, data: Float32Array, parts: readonly string[], by = 1): void => {
    const prefix = layer ? `${layer}.` : '';
    parts.forEach((part, c) => add(prefix + part, pick(data, c, parts.length, by)));
  };
  split('', clean?.beauty ?? passes.beauty, COLOURS, scale);
  add('A', passes.alpha);
  if (clean) split('noisy', passes.beauty, COLOURS, scale);
  split('albedo', passes.albedo, COLOURS);
  split('normal', passes.normal, AXES);
  add('depth.Z', passes.depth, 'float');
  add(
    'variance.Y',
    Float32Array.from(passes.variance, (v) => v * scale * scale),
    'float',
  );
  const { detail } = passes;
  if (detail) {
    for (const layer of ['direct', 'indirect', 'diffuse', 'glossy', 'transmission', 'emission', 'reflection'] as const)
      split(layer, detail[layer], COLOURS, scale);
    add('shadow.Y', shadowPass(detail));
    add('opaque.Z', detail.opaqueDepth, 'float');
    split('transmittance', detail.transmittance, COLOURS);
    split('motion', detail.motion, ['X', 'Y']);
    const lights = clean?.lights.length ? clean.lights : detail.lights;
    unique(names.lights).forEach((name, i) => split(`light_${name}`, lights[i], COLOURS, scale));
    unique(names.things).forEach((name, i) => add(`matte_${name}.A`, matte(detail.thing, detail.thingCover, i)));
    unique(names.finishes).forEach((name, i) => add(`finish_${name}.A`, matte(detail.finish, detail.finishCover, i)));
  }
  const { width, height } = passes;
  return { width, height, channels, notes: { software: 'Tender Orbit' } };
}

function pick(data: Float32Array, channel: number, of: number, by: number): Float32Array {
  const out = new Float32Array(data.length / of);
  for (let i = 0, k = channel; i < out.length; i++, k += of) out[i] = data[k] * by;
  return out;
}

/** Names fit for layers: no dots or blanks, none twice. */
function unique(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map((name) => {
    const base = name.replace(/[^A-Za-z0-9_-]+/g, '_') || 'unnamed';
    let free = base;
    for (let n = 2; taken.has(free); n++) free = `${base}_${n}`;
    taken.add(free);
    return free;
  });
}
