import { readFileSync } from 'node:fs';
import { mock } from 'node:test';
import { expect } from 'chai';
import { set as keep } from 'idb-keyval';
import { createPinia, setActivePinia } from 'pinia';
import {
  deleteThing,
  keyValue,
  newCamera,
  newSet,
  newShot,
  setProperties,
  type SetDocument,
} from '@tender-orbit/core/document';
import { RETRY_DELAY, SAVE_DELAY, useDocuments } from '../src/stores/documents.ts';
import { useNotices } from '../src/stores/notices.ts';
import { findUnsaved } from '../src/stores/unsaved.ts';
import { freshPage } from './fresh-page.ts';

/** A server that remembers one revision a document and does as it is told. */
class FakeServer {
  readonly saved = new Map<string, { revision: number; document: SetDocument; label: string }>();
  mode: 'well' | 'away' | 'broken' = 'well';
  saves = 0;

  readonly fetch = async (path: string, init: { body: string }): Promise<Response> => {
    if (this.mode === 'away') throw new TypeError('failed to fetch');
    if (this.mode === 'broken') return Response.json({ title: 'Something went wrong on the server.' }, { status: 500 });
    const body = JSON.parse(init.body) as { expectedRevision: number; label: string; document: SetDocument };
    const now = this.saved.get(path);
    if (now && now.revision !== body.expectedRevision)
      return Response.json({ title: 'Changed elsewhere.', code: 'document/stale', ...now }, { status: 409 });
    this.saves++;
    this.saved.set(path, { revision: body.expectedRevision + 1, document: body.document, label: body.label });
    return Response.json({ id: 'x', revision: body.expectedRevision + 1 });
  };
}

/** Lets everything run that waits for nothing but its turn. */
async function turn(): Promise<void> {
  for (let i = 0; i < 8; i++) await new Promise((next) => setImmediate(next));
}

/** Lets the stores' clock go on, in steps, so that what one timer starts can set the next. */
async function pass(ms: number): Promise<void> {
  await turn();
  for (let left = ms; left > 0; left -= 50) {
    mock.timers.tick(Math.min(50, left));
    await turn();
  }
}

/** What settled() says, once its timers have run. */
async function settled(): Promise<void> {
  const done = useDocuments().settled();
  done.catch(() => undefined);
  await pass(50);
  await done;
}

describe('web: documents in hand', () => {
  const server = { current: new FakeServer() };
  const real = globalThis.fetch;
  before(() => {
    globalThis.fetch = ((path: string, init: { body: string }) =>
      server.current.fetch(path, init)) as unknown as typeof fetch;
  });
  after(() => {
    globalThis.fetch = real;
  });
  beforeEach(async () => {
    await freshPage();
    server.current = new FakeServer();
    mock.timers.enable({ apis: ['setTimeout'] });
  });
  afterEach(async () => {
    await useDocuments().clear();
    mock.timers.reset();
  });

  const PATH = '/api/documents/set/s';
  const open = (revision = 1) => {
    const documents = useDocuments();
    documents.load('set', { id: 's', revision, document: newSet('Studio') });
    return documents;
  };
  const power = (value: number, gesture = ''): void =>
    useDocuments().run('set', 's', setProperties('key', { lumens: value }, 'Change power'), gesture);

  it('save themselves after a pause, once for many edits, with a readable name', async () => {
    const documents = open();
    for (let i = 1; i <= 20; i++) power(i);
    await pass(SAVE_DELAY - 50);
    power(21);
    await pass(SAVE_DELAY - 50);
    // Each edit puts the save off.
    expect([documents.state, server.current.saves]).deep.equal(['unsaved', 0]);
    await pass(50);
    expect(documents.state).equal('saved');
    expect(server.current.saves).equal(1);
    expect(server.current.saved.get(PATH)!.document.lights[0].lumens).equal(21);
    expect(server.current.saved.get(PATH)).include({ revision: 2, label: 'Change power' });
    expect(await findUnsaved('set', 's')).equal(null);
  });

  it('undo a whole drag at once, single edits one by one, and redo them', () => {
    const documents = open();
    const before = documents.get('set', 's')!.lights[0].lumens;
    power(100, 'drag-1');
    power(200, 'drag-1');
    power(300, 'drag-1');
    power(400);
    const lumens = (): number => documents.get('set', 's')!.lights[0].lumens;
    documents.undo();
    expect(lumens()).equal(300);
    documents.undo();
    expect(lumens()).equal(before);
    documents.undo();
    documents.redo();
    expect(lumens()).equal(300);
    documents.redo();
    documents.redo();
    expect(lumens()).equal(400);
  });

  it('keep edits in the browser while the server is away, and send them when it answers', async () => {
    const documents = open();
    server.current.mode = 'away';
    power(123);
    await pass(700);
    expect(documents.state).equal('offline');
    expect((await findUnsaved('set', 's'))!.document.lights[0].lumens).equal(123);
    server.current.mode = 'well';
    // It looks again after a while, not sooner; the first look was after SAVE_DELAY.
    await pass(RETRY_DELAY + SAVE_DELAY - 750);
    expect(documents.state).equal('offline');
    await pass(50);
    expect(documents.state).equal('saved');
    expect(server.current.saved.get(PATH)!.document.lights[0].lumens).equal(123);
  });

  it('take up after a reload what had not reached the server', async () => {
    open();
    server.current.mode = 'away';
    power(77);
    await pass(600);
    // The page is left: its memory goes, the browser's storage stays.
    await useDocuments().clear();
    setActivePinia(createPinia());
    server.current.mode = 'well';
    const documents = open();
    await documents.resume('set', 's');
    expect(documents.get('set', 's')!.lights[0].lumens).equal(77);
    await settled();
    expect(server.current.saved.get(PATH)!.document.lights[0].lumens).equal(77);
  });

  it('a stale save that touches something else brings both changes together, and says so', async () => {
    const documents = open();
    const theirs = newSet('Studio');
    theirs.name = 'From the other tab';
    theirs.lights.splice(1, 1);
    server.current.saved.set(PATH, { revision: 5, document: theirs, label: '' });
    power(9);
    await pass(700);
    await settled();
    const saved = server.current.saved.get(PATH)!;
    expect(saved.revision).equal(6);
    expect(saved.document.name).equal('From the other tab');
    expect(saved.document.lights.map((l) => [l.id, l.lumens])).deep.equal([
      ['key', 9],
      ['rim', 1800],
    ]);
    expect(documents.get('set', 's')!.lights.length).equal(2);
    expect(useNotices().text).match(/taken in beside yours/);
    // Undo takes back mine and leaves theirs.
    documents.undo();
    const now = documents.get('set', 's')!;
    expect([now.name, now.lights[0].lumens]).deep.equal(['From the other tab', 2600]);
  });

  it('changes that are sound alone but not together ask the person', async () => {
    const documents = useDocuments();
    const both = { ...newSet('Studio'), cameras: [newCamera('a', 'A'), newCamera('b', 'B')] };
    documents.load('set', { id: 's', revision: 1, document: both });
    server.current.saved.set(PATH, { revision: 5, document: { ...both, cameras: [both.cameras[0]] }, label: '' });
    documents.run('set', 's', deleteThing('a'));
    await pass(700);
    expect(documents.state).equal('conflict');
  });

  it('edits that an older version kept in the browser are taken up as documents of today', async () => {
    const text = readFileSync(new URL('../../core/test/fixtures/documents/set-v1.json', import.meta.url), 'utf8');
    await keep('tender-orbit:unsaved:set:s', { base: 1, document: JSON.parse(text) as object });
    const documents = open();
    await documents.resume('set', 's');
    expect(documents.get('set', 's')!.lights[0].lightLinking).deep.equal({ mode: 'all', things: [] });
    await settled();
    expect(server.current.saved.get(PATH)!.document.version).equal(newSet('Today').version);
  });

  it('a browser that cannot keep them says so once, and they are saved all the same', async () => {
    open();
    const put = IDBObjectStore.prototype.put;
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('full', 'QuotaExceededError');
    };
    try {
      power(31);
      await pass(300);
      expect(useNotices().text).match(/cannot keep unsaved changes/);
      await settled();
      expect(server.current.saved.get(PATH)!.document.lights[0].lumens).equal(31);
    } finally {
      IDBObjectStore.prototype.put = put;
    }
  });

  it('a drag over several documents is undone in one go', () => {
    const documents = open();
    documents.load('shot', { id: 't', revision: 1, document: newShot('Shot', 's', 'hero', 24) });
    const at = (frame: number) => ({ thing: 'key', path: 'kelvin', frame });
    for (let i = 1; i <= 3; i++) {
      power(i, 'drag');
      documents.run('shot', 't', keyValue(at(0), 5000 + i, 'Key colour'), 'drag');
    }
    expect(documents.undoStack.length).equal(2);
    documents.undo();
    expect(documents.get('shot', 't')!.tracks).deep.equal([]);
    expect(documents.get('set', 's')!.lights[0].lumens).equal(2600);
    documents.redo();
    expect(documents.get('shot', 't')!.tracks[0].keys[0].value).equal(5003);
    expect(documents.get('set', 's')!.lights[0].lumens).equal(3);
  });

  for (const choice of ['mine', 'theirs'] as const) {
    it(`a stale save asks, and "${choice}" does what it says`, async () => {
      const documents = open();
      const theirs = newSet('Studio');
      theirs.lights[0].lumens = 5;
      server.current.saved.set(PATH, { revision: 5, document: theirs, label: '' });
      power(9);
      await pass(700);
      expect(documents.state).equal('conflict');
      expect(documents.conflict!.theirs.revision).equal(5);
      // Going on working meanwhile loses nothing and saves nothing.
      power(10);
      await pass(700);
      expect(server.current.saved.get(PATH)!.revision).equal(5);
      documents.settle(choice);
      if (choice === 'mine') await settled();
      expect(documents.state).equal('saved');
      const now = documents.get('set', 's')!;
      expect(now.lights[0].lumens).equal(choice === 'mine' ? 10 : 5);
      if (choice === 'mine') expect(server.current.saved.get(PATH)).deep.include({ revision: 6 });
    });
  }

  it('hold what the rules refuse, say why, and save once it is mended', async () => {
    const documents = open();
    power(NaN);
    await pass(700);
    expect(documents.state).equal('refused');
    expect(documents.problem).match(/^Power must be a number between/);
    expect(server.current.saves).equal(0);
    let refused = '';
    await settled().catch((error: Error) => (refused = error.message));
    expect(refused).match(/Power/);
    power(5);
    await settled();
    expect(server.current.saved.get(PATH)!.document.lights[0].lumens).equal(5);
  });

  it('try again after a fault of the server', async () => {
    const documents = open();
    server.current.mode = 'broken';
    power(8);
    await pass(700);
    expect(documents.state).equal('offline');
    server.current.mode = 'well';
    await pass(RETRY_DELAY);
    expect(documents.state).equal('saved');
  });

  it('take a brought-back revision and forget the steps that led elsewhere', () => {
    const documents = open();
    power(1);
    documents.replace('set', { id: 's', revision: 9, document: { ...newSet('Old'), name: 'Old' } });
    expect(documents.get('set', 's')!.name).equal('Old');
    expect(documents.undoStack).deep.equal([]);
    expect(documents.state).equal('saved');
  });
});
