import type { FilePose } from '../../document/index.ts';
import type { Animation, Document, Node } from '@gltf-transform/core';
import { sampleChannel } from '../../geometry/index.ts';
import { samplerNumbers } from './read-rig.ts';

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
    const values = sampleChannel(samplerNumbers(sampler, path), seconds);
    if (values) SET[path]?.(node, values);
  }
}

const SET: Record<string, (node: Node, values: number[]) => unknown> = {
  translation: (node, [x, y, z]) => node.setTranslation([x, y, z]),
  scale: (node, [x, y, z]) => node.setScale([x, y, z]),
  rotation: (node, [x, y, z, w]) => node.setRotation([x, y, z, w]),
  weights: (node, values) => node.setWeights(values),
};
