import { readFileSync } from 'node:fs';
import { inflateSync } from 'node:zlib';
import { expect } from 'chai';
import sharp from 'sharp';
import { peaks, SAMPLE_RATE, writeWav } from '@tender-orbit/core/audio';
import { validateDocument } from '@tender-orbit/core/document';
import { boundsOf, boundsSize } from '@tender-orbit/core/geometry';
import { productOf, readModel, type Model } from '@tender-orbit/core/interchange';
import { compileMoves, poseSet } from '@tender-orbit/core/motion';
import { compile, evaluate, evaluateMotion } from '@tender-orbit/core/scene';
import { readFrame, runOf } from '@tender-orbit/core/simulate';
import { missingFrames, placedClips, promoBeats, promoLength } from '@tender-orbit/core/promo';
import { beatsBetween } from '@tender-orbit/core/time';
import {
  demoCampaign,
  demoPromo,
  demoSet,
  heroShot,
  lidShot,
  makeModels,
  makeMusicFile,
  MUSIC,
  TAKE_SETTINGS,
  takeFrame,
  DEMO_TAKES,
  demoSmoke,
  revealShot,
} from '@tender-orbit/demo';
import { makeMusic } from '../src/music.ts';
import { demoScenes, plain } from './demo-scenes.ts';

const HASH = 'a'.repeat(64);

describe('demo: the models', () => {
  const models = new Map<string, Model>();
  const files = new Map<string, Uint8Array>();
  before(async () => {
    for (const { key, glb } of await makeModels()) {
      files.set(key, glb);
      models.set(key, await readModel(glb));
    }
  });

  it('have real sizes in metres', () => {
    const sizes: Record<string, number[]> = {
      jar: [0.068, 0.092, 0.068],
      dipper: [0.028, 0.16, 0.028],
      box: [0.0924, 0.12, 0.0924],
      smoker: [0.0964, 0.179, 0.146],
    };
    for (const [key, size] of Object.entries(sizes)) {
      const made = boundsSize(boundsOf(models.get(key)!.parts.map((p) => p.mesh)));
      made.forEach((v, a) => expect(v, `${key} ${a}`).closeTo(size[a], 0.0015));
    }
  });

  it('are the same bytes every time they are made', async () => {
    for (const { key, glb } of await makeModels())
      expect(Buffer.from(glb).equals(Buffer.from(files.get(key)!))).equal(true);
  });

  it('a jar of glass holds the honey, which fills its cavity without a gap', () => {
    const jar = models.get('jar')!;
    const part = (name: string) => boundsOf([jar.parts.find((p) => p.name === name)!.mesh]);
    const [glass, honey, label] = [part('Glass'), part('Honey'), part('Label')];
    for (let a = 0; a < 3; a++) expect(honey.min[a] > glass.min[a] && honey.max[a] < glass.max[a]).equal(true);
    // The label lies on the outside of the glass, not in it.
    expect(label.max[0] - glass.max[0]).within(0.0001, 0.001);
    const finish = jar.finishes[jar.parts.find((p) => p.name === 'Honey')!.finish];
    expect(finish).include({ transmission: 1 });
    expect(finish.attenuationDistance).above(0);
  });

  it('carry art that is drawn, not blank', async () => {
    for (const model of models.values()) {
      for (const image of model.images) {
        const { channels } = await sharp(image.bytes).stats();
        expect(Math.max(...channels.slice(0, 3).map((c) => c.stdev)), image.name).above(3);
      }
    }
  });
});

describe('demo: the documents', () => {
  const set = demoSet({ jar: 'demo-jar', dipper: 'demo-dipper', box: 'demo-box' });
  const byTake = { hero: heroShot('demo-set'), lid: lidShot('demo-set'), reveal: revealShot('demo-set') };
  const shots = Object.values(byTake);
  const ids = { hero: 'take-hero', lid: 'take-lid', reveal: 'take-reveal' };
  const promo = demoPromo(ids, { asset: HASH, name: 'x.wav', tempo: MUSIC.tempo });

  it('pass the same checks as a person work', () => {
    expect(validateDocument('campaign', demoCampaign())).deep.equal(demoCampaign());
    expect(validateDocument('set', set)).deep.equal(set);
    for (const shot of shots) expect(validateDocument('shot', shot)).deep.equal(shot);
    expect(validateDocument('promo', promo)).deep.equal(promo);
  });

  it('every track moves something that is there', () => {
    for (const shot of shots) {
      const moves = compileMoves(set, shot);
      const [first, last] = [poseSet(moves, 0), poseSet(moves, shot.length - 1)];
      expect(JSON.stringify(first)).not.equal(JSON.stringify(last));
      expect(set.cameras.some((c) => c.id === shot.camera)).equal(true);
    }
  });

  it('products stand on the floor and do not stand in each other', async () => {
    const models = new Map<string, Model>(
      await Promise.all((await makeModels()).map(async ({ key, glb }) => [key, await readModel(glb)] as const)),
    );
    const products = new Map(
      [...models].map(([key, model]) => [
        `demo-${key}`,
        productOf(key, { fileName: `${key}.glb`, source: key, model: key, unit: 'm' }, model),
      ]),
    );
    const { instances } = evaluate(compile(set, shots[0]), 20, {
      products,
      meshes: (key) => models.get(key)!.parts.map((p) => p.mesh),
      aspect: 16 / 9,
    });
    const boxes = instances.map((i) =>
      boundsOf(
        models.get(i.model)!.parts.map((p) => p.mesh),
        i.matrix,
      ),
    );
    boxes.forEach((box) => expect(Math.abs(box.min[1])).below(1e-6));
    const [jar, , dipper] = boxes;
    expect(dipper.min[0]).above(jar.max[0] - 0.002);
  });

  it('the promo cuts on the beat and fits its takes', () => {
    expect(promoLength(promo)).equal(300);
    expect(promo.clips.length).at.least(6);
    const beats = beatsBetween(promoBeats(promo)!, demoCampaign().frameRate, 0, 300).map((b) => Math.round(b.frame));
    for (const { from, clip } of placedClips(promo)) {
      expect(beats).include(from);
      const { length } = byTake[DEMO_TAKES.find((key) => ids[key] === clip.take)!];
      expect(missingFrames(promo, clip.id, length), clip.id).deep.equal({ before: 0, after: 0 });
    }
  });

  it('the shipped takes are whole, of the stated size, and small enough to ship', async () => {
    let bytes = 0;
    for (const key of DEMO_TAKES) {
      for (let frame = 0; frame < byTake[key].length; frame++) {
        const file = takeFrame(key, frame);
        expect(file, `${key} ${frame}`).not.equal(null);
        bytes += file!.length;
      }
      const { width, height } = await sharp(takeFrame(key, 0)!).metadata();
      expect({ width, height }).deep.equal({ width: TAKE_SETTINGS[key].width, height: TAKE_SETTINGS[key].height });
    }
    expect(bytes).below(12e6);
  });
});

describe('demo: the smoke', () => {
  it('ships as it is simulated today, from first to last', async () => {
    const { context, scenes } = await demoScenes();
    const shot = revealShot('demo-set');
    const program = compile(scenes[0].set, shot);
    const run = runOf(program, program.effects[0], context, 'coarse', demoCampaign().frameRate);
    const frames = demoSmoke();
    expect(frames.map(([key]) => key)).deep.equal(Array.from({ length: shot.length - 1 }, (_, n) => run.key(n + 1)));
    const last = readFrame(new Uint8Array(inflateSync(frames.at(-1)![1])));
    expect(last.kind === 'smoke' && last.density.some((d) => d > 0)).equal(true);
  });
});

describe('demo: the music', () => {
  const music = makeMusic();

  it('lasts twenty seconds at its tempo, in eight bars', () => {
    expect(music.left.length).equal(MUSIC.seconds * SAMPLE_RATE);
    expect((MUSIC.bars * 4 * 60) / MUSIC.tempo).equal(MUSIC.seconds);
  });

  it('never clips, is not silent, and is wider than mono', () => {
    const loudest = music.left.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
    expect(loudest).within(0.3, 0.95);
    let [difference, sum] = [0, 0];
    for (let i = 0; i < music.left.length; i += 7) {
      difference += (music.left[i] - music.right[i]) ** 2;
      sum += (music.left[i] + music.right[i]) ** 2;
    }
    expect(difference / sum).within(0.001, 0.6);
  });

  it('its bars begin with a stroke: louder just after the downbeat than just before', () => {
    let louder = 0;
    for (let bar = 1; bar < MUSIC.bars; bar++) {
      const at = (bar * 4 * 60) / MUSIC.tempo;
      const [before] = peaks(music, at - 0.06, at - 0.01, 1);
      const [after] = peaks(music, at, at + 0.05, 1);
      if (after > before * 1.2) louder++;
    }
    expect(louder).at.least(MUSIC.bars - 2);
  });

  it('is written as a wav file that is the same every time', function () {
    // Twenty seconds of sound are made once more, on whatever machine this is.
    this.timeout(300_000);
    const file = makeMusicFile();
    expect(Buffer.from(file).equals(Buffer.from(writeWav(music)))).equal(true);
    expect(String.fromCharCode(...file.subarray(0, 4))).equal('RIFF');
  });
});

describe('demo: the same tableaux as ever', () => {
  const kept = JSON.parse(readFileSync(new URL('./fixtures/tableaux.json', import.meta.url), 'utf8')) as Record<
    string,
    unknown
  >;

  it('every shot evaluates to what was kept before shots were compiled', async () => {
    const { context, scenes } = await demoScenes();
    const seen = new Set<string>();
    for (const { name, set, shot, frames } of scenes)
      for (const frame of frames) {
        const key = `${name} ${frame}`;
        seen.add(key);
        expectClose(plain(evaluateMotion(compile(set, shot), frame, context)), kept[key], key);
      }
    expect([...seen].sort()).deep.equal(Object.keys(kept).sort());
  });
});

/** Equal, numbers to a billionth: trigonometry may differ in its last bits. */
function expectClose(actual: unknown, wanted: unknown, path: string): void {
  if (typeof wanted === 'number' && typeof actual === 'number') {
    if (Math.abs(actual - wanted) > 1e-9 * Math.max(1, Math.abs(wanted))) expect(actual, path).equal(wanted);
  } else if (typeof wanted === 'object' && wanted !== null && typeof actual === 'object' && actual !== null) {
    // Finishes of products have got ids since.
    const keys = Object.keys(actual).filter((key) => key !== 'id' || key in wanted);
    expect(keys.sort(), path).deep.equal(Object.keys(wanted).sort());
    for (const [key, value] of Object.entries(wanted))
      expectClose((actual as Record<string, unknown>)[key], value, `${path}.${key}`);
  } else expect(actual, path).equal(wanted);
}
