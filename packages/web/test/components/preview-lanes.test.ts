import './page.ts';
import { expect } from 'chai';
import { newPromo } from '@tender-orbit/core/document';
import { openPreviewLanes } from '../../src/promo/preview-lanes.ts';
import type { PreviewMode, PreviewReply, PreviewRequest } from '../../src/workers/preview-worker.ts';

/** Workers that keep what they are asked, and answer when told. */
class FakeWorker {
  static made: FakeWorker[] = [];
  asked: PreviewRequest[] = [];
  onmessage: ((event: { data: unknown }) => void) | null = null;
  constructor() {
    FakeWorker.made.push(this);
  }
  postMessage(request: PreviewRequest): void {
    this.asked.push(request);
  }
  terminate(): void {
    this.asked = [];
  }
  answer(frame: number, mode: PreviewMode, whole: boolean, version = 1): void {
    const reply: PreviewReply = {
      ...{ version, frame, mode, whole, width: 1, height: 1, missing: false },
      pixels: new ArrayBuffer(4),
    };
    this.onmessage!({ data: reply });
  }
}

describe('the preview’s two workers', () => {
  const real = globalThis.Worker;
  let drawn: Array<[frame: number, mode: PreviewMode]>;
  let lanes: ReturnType<typeof openPreviewLanes>;
  let [fast, full]: FakeWorker[] = [];
  const promo = {
    promo: newPromo('P', 64, 64),
    takeLengths: {},
    composites: {},
    shown: {},
    cuts: {},
    rate: { num: 24, den: 1 },
  };
  beforeEach(() => {
    FakeWorker.made = [];
    globalThis.Worker = FakeWorker as never;
    drawn = [];
    lanes = openPreviewLanes(
      ({ frame, mode }) => drawn.push([frame, mode]),
      () => undefined,
    );
    [fast, full] = FakeWorker.made;
    lanes.setPromo(promo);
  });
  afterEach(() => {
    lanes.close();
    globalThis.Worker = real;
  });

  it('one is asked for a picture at once, the other for a better one, and for the whole at rest', () => {
    lanes.show(4, false);
    lanes.finish(4);
    const modes = (worker: FakeWorker): string[] => worker.asked.flatMap((r) => (r.kind === 'frame' ? [r.mode] : []));
    expect(modes(fast)).deep.equal(['plain']);
    expect(modes(full)).deep.equal(['quick', 'whole']);
    lanes.show(5, true);
    expect(modes(full).at(-1)).equal('kept');
  });

  it('while it plays, what is in memory is not made once more', () => {
    full.onmessage!({ data: { ready: [false, 'small', true] } });
    for (const frame of [0, 1, 2]) lanes.show(frame, true);
    const frames = fast.asked.flatMap((r) => (r.kind === 'frame' ? [r.frame] : []));
    expect(frames, 'only the one that is not there').deep.equal([0]);
    expect(full.asked.flatMap((r) => (r.kind === 'frame' ? [r.mode] : []))).deep.equal(['kept', 'kept', 'kept']);
    // Of another promo nothing is there.
    lanes.setPromo(promo);
    lanes.show(1, true);
    expect(fast.asked.at(-1)).deep.equal({ kind: 'frame', frame: 1, mode: 'plain' });
  });

  it('what is less than what is shown, late or of the promo as it was is left out', () => {
    lanes.show(4, false);
    full.answer(4, 'quick', false);
    fast.answer(4, 'plain', false);
    expect(drawn).deep.equal([[4, 'quick']]);
    full.answer(4, 'whole', true);
    full.answer(3, 'whole', true);
    expect(drawn).deep.equal([
      [4, 'quick'],
      [4, 'whole'],
    ]);
    lanes.setPromo(promo);
    full.answer(4, 'whole', true, 1);
    expect(drawn).length(2);
    fast.answer(4, 'plain', false, 2);
    expect(drawn.at(-1)).deep.equal([4, 'plain']);
  });

  it('while it plays a late picture is shown, but not once the wanted one is there', () => {
    lanes.show(7, true);
    fast.answer(6, 'plain', true);
    full.answer(7, 'kept', true);
    fast.answer(6, 'plain', true);
    expect(drawn.map(([frame]) => frame)).deep.equal([6, 7]);
  });
});
