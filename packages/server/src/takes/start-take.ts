import type { TakeMade } from '@tender-orbit/core/contract';
import type { TakeSnapshot } from '@tender-orbit/core/document';
import type { FrameQueue } from './frame-queue.ts';
import type { FrameStore } from './frame-store.ts';
import type { RenderNode } from './render-node.ts';

interface Renderer {
  frameQueue: FrameQueue;
  frames: FrameStore;
  renderNode: RenderNode;
}

/**
 * Starts a take. Frames that an earlier take of the campaign shows as well are taken from there, unless all are wanted
 * `anew`. @throws Problem `take/too-heavy` when its frames cannot be evaluated in time.
 */
export async function startTake(
  { frameQueue, frames, renderNode }: Renderer,
  asked: { campaign: string; shot: string; snapshot: TakeSnapshot; person: string; anew: boolean },
): Promise<TakeMade> {
  const { campaign, shot, snapshot, person, anew } = asked;
  const contents = anew ? [] : await renderNode.contents(snapshot);
  const made = await frameQueue.add(campaign, shot, snapshot, person, { contents });
  const taken: number[] = [];
  for (const { frame, fromTake, fromFrame } of await frameQueue.rendered(made.id)) {
    // That take may be going away just now: then the frame is rendered.
    const copied = await frames.copy(fromTake, fromFrame, made.id, frame).then(
      () => true,
      () => false,
    );
    if (copied) taken.push(frame);
  }
  if (taken.length > 0) await frameQueue.markRendered(made.id, taken);
  return made;
}
