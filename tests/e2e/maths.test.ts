import { createHash } from 'node:crypto';
import { expect } from 'chai';
import { build } from 'vite';
import { openStage, type Stage } from './harness.ts';
import { millionResults } from './maths-results.ts';

const digest = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex');

describe('the core’s maths', function () {
  let stage: Stage;
  before(async () => (stage = await openStage()));
  after(() => stage.stop());

  it('gives a million results in the browser bit for bit as on the server', async () => {
    const built = await build({
      configFile: false,
      logLevel: 'silent',
      build: { write: false, lib: { entry: 'tests/e2e/maths-results.ts', formats: ['iife'], name: 'results' } },
    });
    const chunk = [built].flat().flatMap((b) => ('output' in b ? b.output : []))[0];
    const page = await stage.browser.newPage();
    try {
      await page.addScriptTag({ content: 'code' in chunk ? chunk.code : '' });
      const inBrowser = await page.evaluate(() => {
        const { results } = window as unknown as { results: { millionResults: () => Float64Array } };
        const bytes = new Uint8Array(results.millionResults().buffer);
        // As text: a million numbers would cross one by one.
        const parts: string[] = [];
        for (let i = 0; i < bytes.length; i += 8192) parts.push(String.fromCharCode(...bytes.subarray(i, i + 8192)));
        return btoa(parts.join(''));
      });
      const here = millionResults();
      expect(new Set(here).size).above(900_000);
      expect(digest(Buffer.from(inBrowser, 'base64'))).equal(digest(Buffer.from(here.buffer)));
    } finally {
      await page.close();
    }
  });
});
