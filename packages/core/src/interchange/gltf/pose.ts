import type { FilePose } from '../../document/index.ts';
import type { Animation, AnimationSampler, Document, Node } from '@gltf-transform/core';
import { hypot } from '../../maths/index.ts';

/** An animation that a file holds. */
export interface FileAnimation {
  name: string;
  seconds: number;
}

/** A file's animations, with how long each lasts. */
export function animationsOf(document: Document): FileAnimation[] {
  return document
    .getRoot()
    .listAnimations()
    .map((animation, i) => ({ name: animation.getName() || `Animation ${i + 1}`, seconds: lengthOf(animation) }));
}

function lengthOf(animation: Animation): number {
  let end = 0;
  for (const sampler of animation.listSamplers()) {
    const times = sampler.getInput();
    if (times && times.getCount() > 0) end = Math.max(end, times.getScalar(times.getCount() - 1));
  }
  return end;
}

/** Puts a document's nodes and morph weights where an animation has them at a time. Before its first key it holds that. */
export function pose(document: Document, { animation: index, seconds }: FilePose): void {
  const animation = document.getRoot().listAnimations()[index];
  for (const channel of animation?.listChannels() ?? []) {
    const [node, sampler, path] = [channel.getTargetNode(), channel.getSampler(), channel.getTargetPath()];
    if (!node || !sampler || !path) continue;
    const values = sample(sampler, seconds, path === 'rotation');
    if (values) SET[path]?.(node, values);
  }
}

const SET: Record<string, (node: Node, values: number[]) => unknown> = {
  translation: (node, [x, y, z]) => node.setTranslation([x, y, z]),
  scale: (node, [x, y, z]) => node.setScale([x, y, z]),
  rotation: (node, [x, y, z, w]) => node.setRotation([x, y, z, w]),
  weights: (node, values) => node.setWeights(values),
};

/** The value of a sampler at a time (glTF 2.0, appendix C). */
function sample(sampler: AnimationSampler, seconds: number, turns: boolean): number[] | null {
  const [input, output] = [sampler.getInput(), sampler.getOutput()];
  const count = input?.getCount() ?? 0;
  if (!input || !output || count === 0) return null;
  const cubic = sampler.getInterpolation() === 'CUBICSPLINE';
  // Weights come as many scalars a key.
  const perKey = output.getCount() / count / (cubic ? 3 : 1);
  const key = (index: number, part = 1): number[] => {
    const from = (cubic ? index * 3 + part : index) * perKey;
    const out: number[] = [];
    for (let i = 0; i < perKey; i++) out.push(...output.getElement(from + i, []));
    return out;
  };
  let next = 0;
  while (next < count && input.getScalar(next) <= seconds) next++;
  if (next === 0) return key(0);
  if (next === count) return key(count - 1);
  const [start, end] = [input.getScalar(next - 1), input.getScalar(next)];
  const t = (seconds - start) / (end - start || 1);
  if (sampler.getInterpolation() === 'STEP') return key(next - 1);
  const [a, b] = [key(next - 1), key(next)];
  if (!cubic) return turns ? slerp(a, b, t) : a.map((v, i) => v + (b[i] - v) * t);
  const [out, into] = [key(next - 1, 2), key(next, 0)];
  const [t2, t3, span] = [t * t, t * t * t, end - start];
  const value = a.map(
    (v, i) =>
      (2 * t3 - 3 * t2 + 1) * v +
      (t3 - 2 * t2 + t) * span * out[i] +
      (3 * t2 - 2 * t3) * b[i] +
      (t3 - t2) * span * into[i],
  );
  return turns ? unit(value) : value;
}

/** Along the shorter way; straight where the two are all but the same (Shoemake 1985, normalised). */
function slerp(a: number[], b: number[], t: number): number[] {
  const dot = a.reduce((sum, v, i) => sum + v * b[i], 0);
  const sign = dot < 0 ? -1 : 1;
  // The angle between them is halved until a straight step is exact enough.
  if (Math.abs(dot) < 0.9995) {
    const middle = unit(a.map((v, i) => v + sign * b[i]));
    return t < 0.5
      ? slerp(a, middle, t * 2)
      : slerp(
          middle,
          b.map((v) => v * sign),
          t * 2 - 1,
        );
  }
  return unit(a.map((v, i) => v + (sign * b[i] - v) * t));
}

function unit(q: number[]): number[] {
  const length = hypot(...(q as [number, number, number, number])) || 1;
  return q.map((v) => v / length);
}
