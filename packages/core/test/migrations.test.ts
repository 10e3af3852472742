import { readdirSync, readFileSync } from 'node:fs';
import { expect } from 'chai';
import {
  DOCUMENT_KINDS,
  findFinish,
  finishIdOf,
  migrate,
  migrateDelivery,
  migrateTake,
  newCampaign,
  newPromo,
  newSet,
  newShot,
  validateDocument,
  type CampaignDocument,
  type DeliverySnapshot,
  type DocumentKind,
  type ProductDocument,
  type SetDocument,
  type ShotDocument,
  type TakeSnapshot,
} from '@tender-orbit/core/document';
import { compileMoves, poseSet } from '@tender-orbit/core/motion';
import { builtDocument, newBuilder } from '@tender-orbit/core/product';

const FOLDER = new URL('./fixtures/documents/', import.meta.url);
const stored = <T = Record<string, unknown>>(name: string): T =>
  JSON.parse(readFileSync(new URL(`${name}.json`, FOLDER), 'utf8')) as T;

/** Fixtures are called `kind-vN` or `kind-what-vN`, and were written by the application as it was at that version. */
const FIXTURES = readdirSync(FOLDER).map((file) => {
  const [, kind, version] = /^([a-z]+)(?:-[a-z]+)?-v(\d+)\.json$/.exec(file)!;
  return { name: file.replace('.json', ''), kind, version: Number(version) };
});
const ofDocuments = FIXTURES.filter(({ kind }) => DOCUMENT_KINDS.includes(kind as DocumentKind));

const CURRENT: Record<DocumentKind, number> = {
  campaign: newCampaign('C').version,
  product: builtDocument('P', newBuilder('carton')).version,
  set: newSet('S').version,
  shot: newShot('S', 'set', 'hero', 1).version,
  promo: newPromo('P', 640, 360).version,
};

describe('migrations: documents that earlier versions stored', () => {
  for (const kind of DOCUMENT_KINDS) {
    it(`there is a ${kind} of every version before the present one`, () => {
      const versions = new Set(ofDocuments.filter((f) => f.kind === kind).map((f) => f.version));
      for (let version = 1; version < CURRENT[kind]; version++)
        expect(versions.has(version), `v${version}`).equal(true);
    });
  }

  for (const { name, kind, version } of ofDocuments) {
    it(`${name} opens, is sound, and is not touched by being opened`, () => {
      const old = stored(name);
      expect(old.version).equal(version);
      const before = JSON.stringify(old);
      const document = validateDocument(kind as DocumentKind, old);
      expect(document.version).equal(CURRENT[kind as DocumentKind]);
      expect(JSON.stringify(old)).equal(before);
      expect(document.name).equal(old.name);
      // What is of today's version goes through again unchanged.
      expect(migrate(kind as DocumentKind, document)).equal(document);
    });
  }

  it('a set of version 1 has what version 2 gave it, whatever defaults are today', () => {
    const set = migrate('set', stored('set-v1'));
    for (const light of set.lights)
      expect(light).deep.include({
        ...{ gridAngle: 0, beamAngle: 40, softness: 0.3, gradient: 'even', mark: '#E9B44C' },
        lightLinking: { mode: 'all', things: [] },
        gobo: { pattern: 'none', distance: 0.3, width: 0.6, height: 0.6, repeat: 4, seed: 1 },
      });
    // Takes made before there was motion blur stay as they were.
    for (const camera of set.cameras) expect(camera.shutter).equal(0);
    expect(set.products[0].rayVisibility).deep.equal({
      camera: true,
      reflections: true,
      shadows: true,
      lighting: true,
    });
    expect(set.surfaces[0]).deep.include({ mirror: { strength: 0, blur: 0.1, reach: 0.15 }, finish: null });
    expect(set.environment.room).deep.equal({ kind: 'studio', asset: '', boxes: [] });
  });

  it('a set of version 3 keeps every value under the trade’s names', () => {
    const old = stored<{ lights: Array<Record<string, unknown>>; surfaces: unknown[] }>('set-v3');
    const set = migrate('set', old);
    expect(set.surfaces.length).equal(old.surfaces.length);
    set.lights.forEach((light, i) => {
      const { spread, cone, touches } = old.lights[i];
      expect(light).deep.include({ gridAngle: spread, beamAngle: cone, lightLinking: touches });
      expect(light).not.have.any.keys('spread', 'cone', 'touches');
    });
    // Only sweeps have a mirror image.
    for (const surface of set.surfaces) expect('mirror' in surface).equal(surface.kind === 'sweep');
  });

  it('a product of version 2 keeps each part’s finish, in every variant, when finishes get ids', () => {
    type Old = Pick<ProductDocument, 'name'> & {
      finishes: Array<{ name: string }>;
      parts: Array<{ index: number; finish: number }>;
      variants: Array<{ finishes: Array<{ part: number; finish: number }> }>;
    };
    const old = stored<Old>('product-v2');
    old.variants[0].finishes = [{ part: old.parts[0].index, finish: old.finishes.length - 1 }];
    const product = migrate('product', old as never);
    const names = product.parts.map((part) => findFinish(product, part.finish)!.name);
    expect(names).deep.equal(old.parts.map((part) => old.finishes[part.finish].name));
    expect(findFinish(product, finishIdOf(product.parts[0], product.variants[0]))!.name).equal(
      old.finishes.at(-1)!.name,
    );
  });

  it('kits in a campaign go with the sets they are used on', () => {
    const campaign = migrate('campaign', stored('campaign-v2')) as CampaignDocument;
    expect(campaign.kits[0].lights[0]).include.keys('gridAngle', 'lightLinking');
    expect(campaign.kits[0].cards[0]).include.keys('rayVisibility');
  });

  it('a shot’s moves follow the properties they move', () => {
    const old = stored('shot-v1') as unknown as { tracks: unknown[] };
    const keys = [
      { frame: 0, value: 10, ease: 'linear' },
      { frame: 10, value: 50, ease: 'linear' },
    ];
    const moved = {
      ...old,
      tracks: [
        { thing: 'key', path: 'spread', keys },
        { thing: 'key', path: 'cone', keys },
      ],
    };
    const shot = migrate('shot', moved) as ShotDocument;
    expect(shot.tracks.map((t) => t.path)).deep.equal(['gridAngle', 'beamAngle']);
    const key = poseSet(compileMoves(newSet('S'), shot), 5).lights[0];
    expect([key.gridAngle, key.beamAngle]).deep.equal([30, 30]);
  });

  it('a document of a newer version is refused by name instead of losing what cannot be read', () => {
    for (const kind of DOCUMENT_KINDS)
      expect(() => migrate(kind, { version: 99 })).throw(`This ${kind} was saved by a newer`);
  });
});

describe('migrations: what embeds documents', () => {
  for (const { name } of FIXTURES.filter(({ kind }) => kind === 'take')) {
    it(`${name}: set, shot and products come along`, () => {
      const take = migrateTake(stored<TakeSnapshot>(name));
      expect(validateDocument('set', take.set)).deep.equal(take.set);
      expect(validateDocument('shot', take.shot)).deep.equal(take.shot);
      for (const product of Object.values(take.products))
        expect(validateDocument('product', product)).deep.equal(product);
      expect([take.quality, take.width, take.height]).deep.equal(['final', 960, 540]);
    });
  }

  it('a delivery’s promo comes along', () => {
    const delivery = migrateDelivery(stored<DeliverySnapshot>('delivery-promo-v1'));
    expect(validateDocument('promo', delivery.promo)).deep.equal(delivery.promo);
    expect(delivery.takeLengths).deep.equal({ 'take-1': 48, 'take-2': 36 });
  });

  it('a take whose shot is of a version to come is refused, not rendered wrong', () => {
    const take = stored<TakeSnapshot>('take-set-v3');
    expect(() => migrateTake({ ...take, shot: { ...take.shot, version: 99 } as never })).throw(/newer Tender Orbit/);
    expect(() => migrateTake({ ...take, set: { ...take.set, version: 99 } as never as SetDocument })).throw(/newer/);
  });
});
