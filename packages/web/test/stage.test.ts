import { expect } from 'chai';
import {
  newCampaign,
  newPromo,
  newSet,
  newShot,
  plainProduct,
  productFinishes,
  settle,
  standOn,
  type ProductDocument,
  noBeats,
} from '@tender-orbit/core/document';
import { makeFinish } from '@tender-orbit/core/finish';
import { boundsOf, buildTurned } from '@tender-orbit/core/geometry';
import type { CampaignBundle, TakeSummary } from '../src/api/index.ts';
import { useCourseFacts } from '../src/frame/course-facts.ts';
import { usePlan } from '../src/plan/use-plan.ts';
import { productTableau } from '../src/products/product-tableau.ts';
import { usePromo } from '../src/promo/use-promo.ts';
import { useCampaign, useDocuments, useNotices, usePlayhead, useStage } from '../src/stores/index.ts';
import { freshPage } from './fresh-page.ts';
import { useKeySelection } from '../src/moves/use-key-selection.ts';
import { useShotBeats } from '../src/moves/use-shot-beats.ts';

const MODEL = 'b'.repeat(64);
const product: ProductDocument = {
  ...plainProduct(),
  version: 3,
  name: 'Jar',
  fileName: 'jar.glb',
  source: MODEL,
  model: MODEL,
  scale: 1,
  extent: [0.06, 0.09, 0.06],
  parts: [{ index: 0, name: 'Body', finish: 'finish-1', triangles: 10, visible: true }],
  finishes: productFinishes([makeFinish('Glass')]),
};
const take = (values: Partial<TakeSummary> = {}): TakeSummary => ({
  ...{
    id: 't1',
    shot: 'shot',
    name: 'Take 1',
    quality: 'draft',
    width: 64,
    height: 36,
    length: 24,
    state: 'done',
    error: null,
  },
  ...{
    done: Array.from({ length: 24 }, (_, i) => i),
    secondsPerFrame: 1,
    secondsLeft: null,
    frames: null,
    times: null,
    passes: false,
    lights: false,
    bytes: 0,
    failed: [],
    createdAt: '2026-01-01T00:00:00Z',
  },
  ...values,
});
const music = {
  asset: MODEL,
  name: 'tune',
  trim: 0,
  gain: 0,
  fadeIn: 0,
  fadeOut: 0,
  tempo: 96,
  firstBeat: 0,
  ...noBeats(),
};

function bundle(): CampaignBundle {
  return {
    campaign: { id: 'c', revision: 1, document: newCampaign('Launch', { client: 'Vellowmere' }) },
    products: [{ id: 'jar', revision: 1, document: product }],
    sets: [{ id: 'set', revision: 1, document: newSet('Studio') }],
    shots: [{ id: 'shot', revision: 1, document: newShot('Jar turns', 'set', 'hero', 48) }],
    promos: [
      {
        id: 'promo',
        revision: 1,
        document: { ...newPromo('Launch', 960, 540), clips: [{ id: 'k', take: 't1', start: 6, length: 18 }], music },
      },
    ],
    takes: [take()],
    deliveries: [],
    simulations: [],
  };
}

describe('web: the open campaign', () => {
  const real = globalThis.fetch;
  // Nothing plays in these tests; stopping asks for it all the same.
  const frames = globalThis as { cancelAnimationFrame?: unknown };
  let sent: string[] = [];
  before(() => {
    globalThis.fetch = (async (path: string, init: { method: string }) => {
      sent.push(`${init.method} ${path}`);
      if (path === '/api/campaigns/c') return Response.json(bundle());
      if (init.method === 'POST' && path.endsWith('/shots'))
        return Response.json({ id: 'shot2', revision: 1, document: newShot('Shot 2', 'set', 'hero', 48) });
      return Response.json({ id: 'x', revision: 2 });
    }) as unknown as typeof fetch;
  });
  after(() => {
    globalThis.fetch = real;
    delete frames.cancelAnimationFrame;
  });
  beforeEach(async () => {
    frames.cancelAnimationFrame = () => undefined;
    await freshPage();
    sent = [];
    await useCampaign().open('c');
    usePlayhead().seek(0, 1);
    useKeySelection().clear();
  });
  afterEach(() => useCampaign().close());

  it('knows its shot, set, camera, takes and covers', () => {
    const campaign = useCampaign();
    expect(campaign.set!.name).equal('Studio');
    expect(campaign.camera!.id).equal('hero');
    expect(campaign.coverOf('shot')).equal('/api/takes/t1/frames/12');
    expect(campaign.coverOf('nobody')).equal(null);
    expect(campaign.busy).equal(false);
  });

  it('adds shots and deletes them', async () => {
    const campaign = useCampaign();
    await campaign.addShot();
    expect(campaign.shotId).equal('shot2');
    await campaign.removeShot('shot2');
    expect(campaign.shots.map((s) => s.id)).deep.equal(['shot']);
    expect(campaign.shotId).equal('shot');
    expect(sent).include('DELETE /api/documents/shot/shot2');
  });

  it('a number without keys changes the set, one with keys gets a key at the playhead', () => {
    const [stage, campaign] = [useStage(), useCampaign()];
    stage.setNumber('key', 'lumens', 500, 'Change power');
    expect(campaign.set!.lights[0].lumens).equal(500);
    expect(campaign.shot!.tracks).deep.equal([]);
    stage.toggleKey('key', 'lumens', 'power');
    expect(stage.isKeyed('key', 'lumens')).equal('key');
    usePlayhead().seek(24, 48);
    expect(stage.isKeyed('key', 'lumens')).equal('track');
    stage.setNumber('key', 'lumens', 900, 'Change power');
    expect(campaign.shot!.tracks[0].keys.map((k) => [k.frame, k.value])).deep.equal([
      [0, 500],
      [24, 900],
    ]);
    expect(campaign.set!.lights[0].lumens).equal(500);
    usePlayhead().seek(12, 48);
    expect(stage.number('key', 'lumens')).within(501, 899);
    usePlayhead().seek(24, 48);
    stage.toggleKey('key', 'lumens', 'power');
    expect(campaign.shot!.tracks[0].keys).length(1);
  });

  it('a product is put where there is room: beside others, and not into a block or what stands on it', () => {
    const [stage, campaign] = [useStage(), useCampaign()];
    stage.addBlock('plinth');
    const block = campaign.set!.surfaces.find((s) => s.kind === 'block')!;
    stage.addProduct('jar');
    stage.run(standOn(campaign.set!.products[0].id, block.id));
    for (let i = 0; i < 3; i++) stage.addProduct('jar');
    const places = campaign.set!.products.map((p) => p.position);
    for (const [i, a] of places.entries())
      for (const b of places.slice(i + 1)) expect(Math.max(Math.abs(a[0] - b[0]), Math.abs(a[2] - b[2]))).above(0.06);
    for (const [x, , z] of places.slice(1))
      expect(
        Math.abs(x - block.position[0]) < block.width / 2 && Math.abs(z - block.position[2]) < block.depth / 2,
      ).equal(false);
    expect(campaign.set!.products.slice(1).every((p) => p.standsOn === '' && p.position[1] === 0)).equal(true);
    stage.addBlock('tabletop');
    stage.addProduct('jar');
    expect(campaign.set!.products.at(-1)!.standsOn).equal(campaign.set!.surfaces.at(-1)!.id);
  });

  it('things are put on the set, renamed, duplicated and taken off, each as one step back', () => {
    const [stage, campaign, documents] = [useStage(), useCampaign(), useDocuments()];
    stage.addProduct('jar');
    const placed = stage.selected;
    expect(campaign.set!.products[0]).include({ id: placed, product: 'jar', seated: true });
    stage.rename(placed, '  Hero jar ');
    stage.duplicate(placed);
    expect(campaign.set!.products.map((p) => p.name)).deep.equal(['Hero jar', 'Hero jar 2']);
    stage.remove(placed);
    stage.addLight('top');
    stage.addCamera();
    expect(campaign.set!.cameras).length(2);
    for (let i = 0; i < 6; i++) documents.undo();
    expect(campaign.set).deep.equal(settle(newSet('Studio')));
  });

  it('the last camera cannot be deleted, and it is said why', () => {
    useStage().remove('hero');
    expect(useCampaign().set!.cameras).length(1);
    expect(useNotices().text).match(/at least one camera/);
  });

  it('the course line tells how far the work is', () => {
    const facts = useCourseFacts();
    expect(facts.value.set.text).equal('3 lights');
    expect(facts.value.composite).deep.equal({ text: 'takes 1/1', done: 1 });
    expect(facts.value.moves.done).equal(0);
    useStage().toggleKey('hero', 'focalLength', 'focal length');
    expect(facts.value.moves).deep.equal({ text: '1 of 1 shot', done: 1 });
    expect(facts.value.release.done).equal(0);
  });

  it('beats fall on the shot where its take stands in the promo', () => {
    // The clip starts 6 frames into the take, so promo frame 0 is shot frame 6.
    const grid = useShotBeats().value!;
    expect(grid.tempo).equal(96);
    expect(grid.firstBeat).closeTo(6 / 24, 1e-9);
  });

  it('the orbit plan moves a light as one step and keeps its scale meanwhile', () => {
    const plan = usePlan(() => true, 100);
    const before = plan.reach.value;
    const fill = plan.marks.value.find((m) => m.id === 'fill')!;
    expect(plan.grab({ shiftKey: false } as PointerEvent, fill)).equal(true);
    for (const x of [1, 2, 3]) plan.place(fill, [x, 0.4, 0.6], 'drag');
    expect(plan.reach.value).equal(before);
    plan.release();
    expect(plan.reach.value).above(3);
    expect(useCampaign().set!.lights.find((l) => l.id === 'fill')!.position).deep.equal([3, 0.4, 0.6]);
    useDocuments().undo();
    expect(useCampaign().set).deep.equal(settle(newSet('Studio')));
  });

  it('arrows turn a light round the product at its distance and height', () => {
    const plan = usePlan(() => false, 100);
    const spot = plan.marks.value.find((m) => m.id === 'key')!;
    const distance = Math.hypot(...spot.position);
    plan.nudge({ key: 'ArrowRight', preventDefault: () => undefined } as KeyboardEvent, spot);
    const moved = useCampaign().set!.lights.find((l) => l.id === 'key')!.position;
    expect(Math.hypot(...moved)).closeTo(distance, 1e-3);
    expect(moved[1]).closeTo(spot.position[1], 1e-3);
    expect(moved).not.deep.equal(spot.position);
  });

  it('draws the trail of what is keyed, and none where that is not wanted', () => {
    const stage = useStage();
    stage.toggleKey('key', 'position.0', 'across');
    expect(usePlan(() => true, 100).trails.value, 'what does not move has none').deep.equal([]);
    usePlayhead().seek(20, 48);
    stage.setNumber('key', 'position.0', 2, 'Move');
    expect(usePlan(() => true, 100).trails.value.map((t) => t.id)).deep.equal(['key']);
    expect(usePlan(() => false, 100).trails.value).deep.equal([]);
  });

  it('the promo takes clips, titles and music away as asked', () => {
    const promo = usePromo();
    promo.frame.value = 4;
    promo.addTake(take({ id: 't2', length: 30 }));
    expect(promo.length.value).equal(48);
    promo.addTitle();
    const [title] = promo.promo.value!.titles;
    expect(title).include({ start: 4, size: 60 });
    promo.editTitle(title.id, 'Write title', { text: 'Slow' });
    expect(promo.promo.value!.titles[0].text).equal('Slow');
    promo.removeChosen();
    expect(promo.promo.value!.titles).deep.equal([]);
    promo.chosen.value = { kind: 'music' };
    promo.removeChosen();
    expect(promo.promo.value!.music).equal(null);
    expect(promo.grid.value).equal(null);
    for (let i = 0; i < 5; i++) useDocuments().undo();
    expect(promo.promo.value).deep.equal(settle(bundle().promos[0].document));
  });

  it('keys are chosen alone, together, and let go', () => {
    const keys = useKeySelection();
    const track = { thing: 'key', path: 'lumens' };
    keys.only(track, 0);
    keys.toggle(track, 5);
    expect(keys.count.value).equal(2);
    keys.toggle(track, 0);
    expect(keys.list()).deep.equal([{ ...track, frame: 5 }]);
    keys.only(track, 9);
    expect(keys.has(track, 5)).equal(false);
  });
});

describe('web: a product by itself', () => {
  const mesh = buildTurned({
    profile: [
      [0, 0],
      [0.03, 0],
      [0.03, 0.09],
      [0, 0.09],
    ],
    segments: 24,
  });

  it('is framed whole, seated, whatever its size', () => {
    for (const scale of [0.01, 1, 30]) {
      for (const aspect of [0.6, 1, 2]) {
        const { instances, camera, lights } = productTableau({ ...product, scale }, [mesh], aspect);
        const box = boundsOf([mesh], instances[0].matrix);
        expect(Math.abs(box.min[1])).below(1e-6 * Math.max(1, scale));
        const m = camera.matrix;
        const tangent = Math.tan(camera.verticalFov / 2);
        for (let corner = 0; corner < 8; corner++) {
          const d = [0, 1, 2].map((a) => (corner & (1 << a) ? box.max[a] : box.min[a]) - camera.position[a]);
          const along = (i: number): number => d[0] * m[i * 4] + d[1] * m[i * 4 + 1] + d[2] * m[i * 4 + 2];
          expect(Math.abs(along(1) / -along(2))).below(tangent);
          expect(Math.abs(along(0) / -along(2))).below(tangent * aspect);
        }
        expect(lights).length(3);
      }
    }
  });

  it('is shown even when all its parts are hidden', () => {
    const hidden = { ...product, parts: [{ ...product.parts[0], visible: false }] };
    expect(productTableau(hidden, [mesh], 1).instances[0].parts).deep.equal([]);
  });
});
