import { expect } from 'chai';
import { framesInOrder } from '../src/promos/frames-in-order.ts';

const BYTES = 4;

describe('server: frames that threads make', () => {
  /** A maker whose later runs are done first, and what it was asked for. */
  function maker(): { make: Parameters<typeof framesInOrder>[3]; asked: number[]; open: () => number } {
    const asked: number[] = [];
    let done = 0;
    return {
      asked,
      open: () => asked.length - done,
      make: async (from, to, into) => {
        asked.push(from);
        await new Promise((next) => setTimeout(next, from % 8 === 0 ? 8 : 1));
        for (let frame = from; frame < to; frame++)
          into.fill(frame, (frame - from) * BYTES, (frame - from + 1) * BYTES);
        done++;
      },
    };
  }

  it('come in their order, each once and whole, whichever thread is done first', async () => {
    const { make } = maker();
    const seen: number[] = [];
    for await (const frame of framesInOrder(31, BYTES, 3, make)) {
      expect([...frame]).to.deep.equal(Array<number>(BYTES).fill(frame[0]));
      seen.push(frame[0]);
    }
    expect(seen).to.deep.equal(Array.from({ length: 31 }, (_, n) => n));
  });

  it('are not made far ahead of what is taken, and not over what is still read', async () => {
    const { make, asked } = maker();
    const frames = framesInOrder(100, BYTES, 2, make);
    const first = (await frames.next()).value!;
    await new Promise((next) => setTimeout(next, 60));
    expect(asked).to.deep.equal([0, 4, 8, 12]);
    expect(first[0]).equal(0);
    for (let n = 1; n <= 4; n++) await frames.next();
    // The first run is taken: its memory goes to the next one.
    expect(asked).to.deep.equal([0, 4, 8, 12, 16]);
    await frames.return(undefined);
  });

  it('end with what went wrong with one, after those before it', async () => {
    const seen: number[] = [];
    let error: unknown;
    try {
      const make = async (from: number, _to: number, into: Uint8Array): Promise<void> => {
        if (from === 8) throw new Error('no light');
        into.fill(from);
      };
      for await (const frame of framesInOrder(40, BYTES, 2, make)) seen.push(frame[0]);
    } catch (thrown) {
      error = thrown;
    }
    expect(String(error)).contain('no light');
    expect(seen).to.deep.equal([0, 0, 0, 0, 4, 4, 4, 4]);
  });

  it('none at all are none', async () => {
    const frames = framesInOrder(0, BYTES, 2, () => Promise.reject(new Error('asked')));
    expect((await frames.next()).done).equal(true);
  });
});
