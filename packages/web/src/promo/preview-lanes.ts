import type { FrameReady, PreviewMode, PreviewReady, PreviewReply, PreviewRequest } from '../workers/preview-worker.ts';

/** How near to the file a picture is. */
const RANK: Record<PreviewMode, number> = { plain: 0, kept: 1, quick: 1, whole: 2 };

export interface PreviewLanes {
  setPromo: (promo: Omit<Extract<PreviewRequest, { kind: 'promo' }>, 'kind' | 'version'>) => void;
  /** Shows a frame: at once without composites, then with small ones; while it plays with those that are in memory. */
  show: (frame: number, playing: boolean) => void;
  /** Shows it as the file has it, unless it is shown so already. */
  finish: (frame: number) => void;
  close: () => void;
}

/**
 * Two workers that assemble pictures: one that has them at once, and one that takes its time over composites, so that neither waits for
 * the other. What comes late or is less than what is shown already is left out.
 */
export function openPreviewLanes(
  draw: (reply: PreviewReply) => void,
  ready: (frames: FrameReady[]) => void,
): PreviewLanes {
  const open = (): Worker => new Worker(new URL('../workers/preview-worker.ts', import.meta.url), { type: 'module' });
  const [fast, full] = [open(), open()];
  let wanted = 0;
  let version = 0;
  let shown = { frame: -1, rank: -1 };
  /** Frames that the second worker has in memory. */
  let there: FrameReady[] = [];

  function take(reply: PreviewReply, isFast: boolean): void {
    // What is on its way may be of the promo as it was.
    if (reply.version !== version) return;
    const rank = reply.whole ? RANK.whole : RANK[reply.mode];
    // One that comes late is better than none, but not once the wanted one is there.
    if (reply.frame !== wanted && (!isFast || shown.frame === wanted)) return;
    if (reply.frame === shown.frame && rank < shown.rank) return;
    shown = { frame: reply.frame, rank };
    draw(reply);
  }
  fast.onmessage = ({ data }: MessageEvent<PreviewReply | PreviewReady>) => 'ready' in data || take(data, true);
  full.onmessage = ({ data }: MessageEvent<PreviewReply | PreviewReady>) =>
    'ready' in data ? ready((there = data.ready)) : take(data, false);
  const ask = (worker: Worker, request: PreviewRequest): void => worker.postMessage(request);

  return {
    setPromo: (promo) => {
      // What is shown is of the promo as it was.
      shown = { frame: -1, rank: -1 };
      version++;
      there = [];
      for (const worker of [fast, full]) ask(worker, { kind: 'promo', version, ...promo });
    },
    show: (frame, playing) => {
      wanted = frame;
      // What is in memory is there at once.
      if (!playing || !there[frame]) ask(fast, { kind: 'frame', frame, mode: 'plain' });
      ask(full, { kind: 'frame', frame, mode: playing ? 'kept' : 'quick' });
    },
    finish: (frame) => {
      wanted = frame;
      ask(full, { kind: 'frame', frame, mode: 'whole' });
    },
    close: () => {
      fast.terminate();
      full.terminate();
    },
  };
}
