import { expect } from 'chai';
import { createPinia, setActivePinia } from 'pinia';
import { get } from 'lodash-es';
import { LIGHT_SHAPES, newSet, newShot, type SetDocument } from '@tender-orbit/core/document';
import { useDocuments } from '../src/stores/documents.ts';
import {
  duplicateThing,
  freshName,
  newLight,
  newSetProduct,
  nextCamera,
  nextCard,
  removeThing,
} from '../src/things/edit-set.ts';
import { kindOf } from '../src/things/kind-of.ts';
import { fieldOf, fieldsOf, propertyLabel, THING_FIELDS } from '../src/things/fields.ts';

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

const wait = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

describe('web: documents in hand', () => {
  const server = { current: new FakeServer() };
  const storage = new Map<string, string>();
  const real = globalThis.fetch;
  before(() => {
    globalThis.fetch = ((path: string, init: { body: string }) =>
      server.current.fetch(path, init)) as unknown as typeof fetch;
    (globalThis as { localStorage?: unknown }).localStorage = {
      getItem: (k: string) => storage.get(k) ?? null,
      setItem: (k: string, v: string) => storage.set(k, v),
      removeItem: (k: string) => storage.delete(k),
    };
  });
  after(() => {
    globalThis.fetch = real;
    delete (globalThis as { localStorage?: unknown }).localStorage;
  });
  beforeEach(() => {
    setActivePinia(createPinia());
    storage.clear();
    server.current = new FakeServer();
  });
  afterEach(() => useDocuments().clear());

  const PATH = '/api/documents/set/s';
  const open = (revision = 1) => {
    const documents = useDocuments();
    documents.load('set', { id: 's', revision, document: newSet('Studio') });
    return documents;
  };
  const power = (value: number, gesture = ''): void =>
    useDocuments().edit('set', 's', 'Change power', (set) => void (set.lights[0].lumens = value), gesture);

  it('save themselves after a pause, once for many edits, with a readable name', async () => {
    const documents = open();
    for (let i = 1; i <= 20; i++) power(i);
    expect(documents.state).equal('unsaved');
    await documents.settled();
    expect(documents.state).equal('saved');
    expect(server.current.saves).equal(1);
    expect(server.current.saved.get(PATH)).include({ revision: 2, label: 'Change power' });
    expect(storage.size).equal(0);
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
    await wait(700);
    expect(documents.state).equal('offline');
    expect(JSON.parse([...storage.values()][0]).document.lights[0].lumens).equal(123);
    server.current.mode = 'well';
    await wait(3300);
    expect(documents.state).equal('saved');
    expect(server.current.saved.get(PATH)!.document.lights[0].lumens).equal(123);
  });

  it('take up after a reload what had not reached the server', async () => {
    open();
    server.current.mode = 'away';
    power(77);
    await wait(600);
    // The page is left: its memory goes, the browser's storage stays.
    const kept = new Map(storage);
    useDocuments().clear();
    kept.forEach((value, key) => storage.set(key, value));
    setActivePinia(createPinia());
    server.current.mode = 'well';
    const documents = open();
    expect(documents.get('set', 's')!.lights[0].lumens).equal(77);
    await documents.settled();
    expect(server.current.saved.get(PATH)!.document.lights[0].lumens).equal(77);
  });

  for (const choice of ['mine', 'theirs'] as const) {
    it(`a stale save asks, and "${choice}" does what it says`, async () => {
      const documents = open();
      const theirs = { ...newSet('Studio'), name: 'From the other tab' };
      server.current.saved.set(PATH, { revision: 5, document: theirs, label: '' });
      power(9);
      await wait(700);
      expect(documents.state).equal('conflict');
      expect(documents.conflict!.theirs.revision).equal(5);
      // Going on working meanwhile loses nothing and saves nothing.
      power(10);
      await wait(700);
      expect(server.current.saved.get(PATH)!.revision).equal(5);
      documents.settle(choice);
      if (choice === 'mine') await documents.settled();
      expect(documents.state).equal('saved');
      const now = documents.get('set', 's')!;
      expect(choice === 'mine' ? now.lights[0].lumens : now.name).equal(choice === 'mine' ? 10 : 'From the other tab');
      if (choice === 'mine') expect(server.current.saved.get(PATH)).deep.include({ revision: 6 });
    });
  }

  it('hold what the rules refuse, say why, and save once it is mended', async () => {
    const documents = open();
    power(NaN);
    await wait(700);
    expect(documents.state).equal('refused');
    expect(documents.problem).match(/^Power must be a number between/);
    expect(server.current.saves).equal(0);
    let refused = '';
    await documents.settled().catch((error: Error) => (refused = error.message));
    expect(refused).match(/Power/);
    power(5);
    await documents.settled();
    expect(server.current.saved.get(PATH)!.document.lights[0].lumens).equal(5);
  });

  it('try again after a fault of the server', async () => {
    const documents = open();
    server.current.mode = 'broken';
    power(8);
    await wait(700);
    expect(documents.state).equal('offline');
    server.current.mode = 'well';
    await wait(3300);
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

describe('web: things of a set', () => {
  it('get names and ids of their own', () => {
    expect(freshName(['Key', 'Key 2'], 'Key')).equal('Key 3');
    expect(freshName(['Key 7'], 'Key 7')).equal('Key');
    const set = newSet('Studio');
    const light = newLight(set, 'key');
    expect(light.name).equal('Key 2');
    expect(set.lights.some((l) => l.id === light.id)).equal(false);
    expect(newLight(set, 'top').position[1]).above(0.5);
  });

  it('products get names of their own, cameras start where the last one stands', () => {
    const set = newSet('Studio');
    const names = [0, 1, 2].map((x) => {
      const item = newSetProduct(set, 'p', 'Jar', [x, 1]);
      set.products.push(item);
      expect(item.position).deep.equal([x, 0, 1]);
      return item.name;
    });
    expect(names).deep.equal(['Jar', 'Jar 2', 'Jar 3']);
    const camera = nextCamera(set, set.cameras[0]);
    expect(camera.position).deep.equal(set.cameras[0].position);
    expect(camera.position).not.equal(set.cameras[0].position);
  });

  it('are duplicated and deleted; the last camera stays', () => {
    const set = newSet('Studio');
    const copy = duplicateThing(set, 'light', 'key')!;
    expect(kindOf(set, copy)).equal('light');
    expect(removeThing(set, 'light', 'key')).equal(true);
    expect(kindOf(set, 'key')).equal(null);
    expect(removeThing(set, 'camera', 'hero')).equal(false);
    expect(removeThing(set, 'environment', 'environment')).equal(false);
    expect(duplicateThing(set, 'light', 'nobody')).equal(null);
  });

  it('every field of every kind and shape names a number that is there, and a property path that may be keyed', () => {
    const set = { ...newSet('Studio'), products: [newSetProduct(newSet('x'), 'p', 'Jar')] };
    const samples: Array<[keyof typeof THING_FIELDS, object]> = [
      ['product', set.products[0]],
      ['surface', set.surfaces[0]],
      ['surface', nextCard(set, 'flag')],
      ...LIGHT_SHAPES.map((shape) => ['light', { ...set.lights[0], shape }] as ['light', object]),
      ['environment', set.environment],
      ['camera', set.cameras[0]],
    ];
    for (const [kind, sample] of samples) {
      const fields = fieldsOf(kind, sample).flatMap((g) => g.fields);
      expect(fields.length).above(0);
      for (const { path } of fields) {
        expect(typeof get(sample, path), `${kind}.${path}`).equal('number');
        expect(propertyLabel(kind, path)).match(/^[a-z]/);
        expect(fieldOf(kind, path)!.min).below(fieldOf(kind, path)!.max);
      }
    }
    expect(fieldsOf('light', { ...set.lights[0], shape: 'sun' }).flatMap((g) => g.fields)[0].unit).equal('lx');
    expect(newShot('x', 'set', 'hero', 1).tracks).deep.equal([]);
  });
});
