import { createHash } from 'node:crypto';
import { expect } from 'chai';
import { build } from 'vite';
import { openStage, type Stage } from './harness.ts';
import { bodyResults, millionResults } from './maths-results.ts';

const digest = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex');

describe('the core’s maths', function () {
  let stage: Stage;
  before(async () => (stage = await openStage()));
  after(() => stage.stop());

  /** Runs a function of the results in a page. @returns its numbers' bytes. */
  async function inBrowser(name: 'millionResults' | 'bodyResults'): Promise<Buffer> {
    const built = await build({
      configFile: false,
      logLevel: 'silent',
      build: { write: false, lib: { entry: 'tests/e2e/maths-results.ts', formats: ['iife'], name: 'results' } },
    });
    const chunk = [built].flat().flatMap((b) => ('output' in b ? b.output : []))[0];
    const page = await stage.browser.newPage();
    try {
      await page.addScriptTag({ content: 'code' in chunk ? chunk.code : '' });
      const text = await page.evaluate(async (of) => {
        const { results } = window as unknown as {
          results: Record<string, () => Float64Array | Promise<Float64Array>>;
        };
        const bytes = new Uint8Array((await results[of]()).buffer);
        // As text: a million numbers would cross one by one.
        const parts: string[] = [];
        for (let i = 0; i < bytes.length; i += 8192) parts.push(String.fromCharCode(...bytes.subarray(i, i + 8192)));
        return btoa(parts.join(''));
      }, name);
      return Buffer.from(text, 'base64');
    } finally {
      await page.close();
    }
  }

  it('gives a million results in the browser bit for bit as on the server', async () => {
    const here = millionResults();
    expect(new Set(here).size).above(900_000);
    expect(digest(await inBrowser('millionResults'))).equal(digest(Buffer.from(here.buffer)));
  });

  it('lets bodies fall the same way in the browser as on the server', async () => {
    const here = await bodyResults();
    expect(here.length).above(30 * 7 * 20);
    expect(digest(await inBrowser('bodyResults'))).equal(digest(Buffer.from(here.buffer)));
  });
});
