import './fresh-page.ts';
import { expect } from 'chai';
import { makePicture } from '@tender-orbit/core/picture';
import { FrameProxies } from '../src/workers/frame-proxies.ts';
import { forgetFiles, openFileStore, type FileStore } from '../src/workers/proxy-store.ts';
import { textStamp } from '../src/workers/text-stamp.ts';

/** As a browser draws, but for the drawing: each picture becomes a file of so many bytes as it is high, and back. */
function standInForCanvas(): () => void {
  const globals = globalThis as unknown as Record<string, unknown>;
  const before = ['OffscreenCanvas', 'ImageData', 'createImageBitmap'].map((name) => [name, globals[name]] as const);
  globals.ImageData = class {};
  globals.OffscreenCanvas = class {
    constructor(
      readonly width: number,
      readonly height: number,
    ) {}
    getContext(): unknown {
      const { width, height } = this;
      return {
        putImageData: () => undefined,
        drawImage: () => undefined,
        getImageData: () => ({ data: new Uint8ClampedArray(width * height * 4) }),
      };
    }
    convertToBlob(): Promise<Blob> {
      return Promise.resolve(new Blob([new Uint8Array(this.height)]));
    }
  };
  globals.createImageBitmap = (file: Blob) => Promise.resolve({ width: 1, height: file.size, close: () => undefined });
  return () => before.forEach(([name, value]) => (globals[name] = value));
}

describe('web: proxies of frames', () => {
  let restore: () => void;
  before(() => (restore = standInForCanvas()));
  after(() => restore());

  it('are kept up to so many bytes, the one that was used last longest', async () => {
    const proxies = new FrameProxies(100);
    for (const key of ['a', 'b']) await proxies.put(key, makePicture(8, 40), 640);
    expect((await proxies.get('a'))?.height).equal(40);
    await proxies.put('c', makePicture(8, 40), 640);
    expect(['a', 'b', 'c'].map((key) => proxies.has(key))).deep.equal([true, false, true]);
    expect(await proxies.get('b')).equal(null);
    // One that is too large alone is kept all the same: it is the one that was asked for.
    await proxies.put('d', makePicture(8, 400), 640);
    expect(['a', 'c', 'd'].map((key) => proxies.has(key))).deep.equal([false, false, true]);
  });

  it('that went from memory, or were made in an earlier visit, are read from the store', async () => {
    const files = new Map<string, Blob>([['before', new Blob([new Uint8Array(12)])]]);
    const store: FileStore = {
      names: () => Promise.resolve([...files.keys()]),
      read: (name) => Promise.resolve(files.get(name)),
      keep: (name, file) => Promise.resolve(void files.set(name, file)),
    };
    const proxies = new FrameProxies(50, store);
    await proxies.ready;
    expect(proxies.has('before')).equal(true);
    expect((await proxies.get('before'))?.height).equal(12);
    for (const key of ['a', 'b']) await proxies.put(key, makePicture(8, 40), 640);
    expect((await proxies.get('a'))?.height).equal(40);
    // What the store has lost is made again.
    files.clear();
    await proxies.put('c', makePicture(8, 40), 640);
    expect(await proxies.get('before')).equal(null);
    expect(proxies.has('before')).equal(false);
  });
});

describe('web: files kept between visits', () => {
  const file = (text: string): Blob => new Blob([text]);
  afterEach(forgetFiles);

  it('are there for the next visit, the first of too many not, and none after signing out', async () => {
    const first = openFileStore(3);
    for (const name of ['a', 'b', 'c', 'd']) await first.keep(name, file(name));
    expect(await first.names()).deep.equal(['b', 'c', 'd']);
    expect(await first.read('a')).equal(undefined);
    expect(await first.read('d')).not.equal(undefined);
    // Their order is written a little later.
    await new Promise((done) => setTimeout(done, 1300));
    expect(await openFileStore(3).names()).deep.equal(['b', 'c', 'd']);
    await forgetFiles();
    expect(await openFileStore(3).names()).deep.equal([]);
    expect(await first.read('d')).equal(undefined);
  });
});

describe('web: a short name for a text', () => {
  it('is the same for the same text, and another for each of many that are nearly alike', () => {
    const text = (n: number): string => JSON.stringify({ opacity: n / 10, name: 'Haze over the heath' });
    expect(textStamp(text(3))).equal(textStamp(text(3)));
    const stamps = new Set(Array.from({ length: 20_000 }, (_, n) => textStamp(text(n))));
    expect(stamps.size).equal(20_000);
  });
});
