import './page.ts';
import { expect } from 'chai';
import { addFootage, type Clip, type Footage, type PromoDocument } from '@tender-orbit/core/document';
import ClipDetails from '../../src/promo/ClipDetails.vue';
import FootageShelf from '../../src/promo/FootageShelf.vue';
import OwnWave from '../../src/promo/OwnWave.vue';
import PromoDetails from '../../src/promo/PromoDetails.vue';
import PromoTimeline from '../../src/promo/PromoTimeline.vue';
import { usePlayer, type PromoPlayer } from '../../src/promo/use-player.ts';
import { usePromo } from '../../src/promo/use-promo.ts';
import { useCampaign } from '../../src/stores/index.ts';
import { choose, clearPage, rest, setNumber } from './mounted.ts';
import { openCampaign, panel } from './open-campaign.ts';

const promo = (): PromoDocument => useCampaign().promo!;
const film: Footage = {
  ...{ id: 'film', name: 'Heath.mp4', list: 'a'.repeat(64), poster: 'b'.repeat(64) },
  ...{ frames: 90, width: 1280, height: 720, rate: 30 },
};
const seal: Footage = { ...film, id: 'seal', name: 'Seal.png', frames: 1, width: 400, height: 400, rate: 24 };
describe('promo: footage', () => {
  const real = globalThis.fetch;
  beforeEach(async () => {
    await openCampaign();
    const { run, frame, chosen } = usePromo();
    run(addFootage(film));
    run(addFootage(seal));
    frame.value = 12;
    chosen.value = null;
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  it('goes into the cut at its own speed, a still for two seconds, and a clip can be swapped for it', async () => {
    const shelf = panel(FootageShelf);
    expect(shelf.text()).contain('3.0 s at 30').contain('still');
    const [first, second] = shelf.findAll('[data-test=footage-clip]');
    await first.trigger('click');
    await second.trigger('click');
    const [moving, still] = promo().clips as Clip[];
    expect(moving).deep.include({ take: 'film', length: 72 });
    expect(moving.pace).deep.include({ from: 1.25, to: 1.25, reverse: false });
    expect(still).include({ take: 'seal', length: 48 });
    expect(still.pace).equal(undefined);
    const details = panel(ClipDetails, { clip: still });
    expect(details.text()).contain('Seal.png').not.contain('was deleted');
    await choose(details, 'Take', 'Heath.mp4 (footage)');
    expect(promo().clips[1].take).equal('film');
  });

  it('that is heard has its waveform at the foot of its clip, as soon as its sound is there', async () => {
    const { run } = usePromo();
    run(addFootage({ ...film, id: 'click', name: 'Click.mp4', sound: 'e'.repeat(64) }));
    await panel(FootageShelf).findAll('[data-test=footage-clip]')[2].trigger('click');
    const { id } = promo().clips[0];
    const answering = globalThis.fetch;
    const globals = globalThis as unknown as { OfflineAudioContext?: unknown };
    globals.OfflineAudioContext = class {
      // A click after a second and a half: half of what the clip shows.
      decodeAudioData = (): Promise<unknown> => {
        const samples = new Float32Array(3 * 48_000);
        samples[1.5 * 48_000 + 10] = 0.5;
        return Promise.resolve({ numberOfChannels: 1, getChannelData: () => samples });
      };
    };
    globalThis.fetch = (() => Promise.resolve(new Response(new Uint8Array(4)))) as typeof fetch;
    const wave = panel(OwnWave, { id, shows: 'click' });
    expect(wave.find('svg').exists()).equal(false);
    await rest();
    globalThis.fetch = answering;
    delete globals.OfflineAudioContext;
    const outline = wave.find('path').attributes('d')!;
    // From the middle line up to the top, and back, at one place alone.
    const high = outline
      .slice(1)
      .split('L')
      .filter((point) => point.endsWith(' 0.00'));
    expect(high.map((point) => Math.round(parseFloat(point)))).deep.equal([500]);
    expect(panel(OwnWave, { id, shows: 'film' }).find('svg').exists()).equal(false);
  });

  it('that has a sound is heard in the cut, and the mix asks for its file', async () => {
    const { run } = usePromo();
    run(addFootage({ ...film, id: 'heard', name: 'Heard.mp4', sound: 'c'.repeat(64) }));
    await panel(FootageShelf).findAll('[data-test=footage-clip]')[2].trigger('click');
    expect(promo().clips[0]).deep.include({ take: 'heard', sound: { gain: 0, pitch: 'kept' } });
    const fetched: string[] = [];
    const answering = globalThis.fetch;
    globalThis.fetch = ((url: string, init?: RequestInit) => {
      fetched.push(String(url));
      return answering(url, init);
    }) as typeof fetch;
    const holder = panel({
      setup: () => {
        usePlayer();
        return () => null;
      },
    });
    await rest();
    expect(fetched).include(`/api/assets/${'c'.repeat(64)}`);
    holder.unmount();
  });

  it('is laid over the picture at the playhead, and its numbers are changed', async () => {
    const { run } = usePromo();
    run({
      label: 'Clip',
      run: (document) => void document.clips.push({ id: 'c', take: 'film', start: 0, length: 40 }),
    });
    const shelf = panel(FootageShelf);
    await shelf.findAll('[data-test=footage-over]')[1].trigger('click');
    expect(promo().overlays[0]).include({ footage: 'seal', start: 12, length: 28, speed: 0, size: 0.3 });
    const details = panel(PromoDetails);
    await setNumber(details, 'Across, %', '80');
    await setNumber(details, 'Height, %', '45');
    await setNumber(details, 'Starts at, f', '5');
    await choose(details, 'Arrives by', 'Rise');
    expect(promo().overlays[0]).include({ x: 0.8, size: 0.45, start: 4 });
    expect(promo().overlays[0].arrive).deep.equal({ kind: 'rise', frames: 10 });
    expect(details.find('input[aria-label="Speed, %"]').exists()).equal(false);
  });

  it('overlays lie on the time line, are nudged and deleted by keys; footage goes with its overlays', async () => {
    const shelf = panel(FootageShelf);
    await shelf.findAll('[data-test=footage-over]')[0].trigger('click');
    await shelf.findAll('[data-test=footage-over]')[1].trigger('click');
    let player!: PromoPlayer;
    const holder = panel({
      setup: () => {
        player = usePlayer();
        return () => null;
      },
    });
    const line = panel(PromoTimeline, { player });
    await rest();
    const bars = line.findAll('[data-test=overlay]');
    expect(bars.map((b) => b.attributes('aria-label'))).deep.equal(['Overlay Heath.mp4', 'Overlay Seal.png']);
    await bars[1].trigger('keydown', { key: 'ArrowLeft' });
    expect(promo().overlays[1].start).equal(11);
    await bars[1].trigger('keydown', { key: 'Delete' });
    expect(promo().overlays).length(1);
    await shelf.find('button[aria-label="Remove Heath.mp4"]').trigger('click');
    expect(promo().overlays).length(0);
    expect(promo().footage.map(({ id }) => id)).deep.equal(['seal']);
    holder.unmount();
  });
});
