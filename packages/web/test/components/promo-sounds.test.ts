import './page.ts';
import { expect } from 'chai';
import type { PromoSound } from '@tender-orbit/core/document';
import { newKitSound } from '@tender-orbit/core/document';
import { SOUND_KIT } from '@tender-orbit/core/audio';
import { soundStems } from '@tender-orbit/core/promo';
import PromoDetails from '../../src/promo/PromoDetails.vue';
import PromoShelf from '../../src/promo/PromoShelf.vue';
import PromoTimeline from '../../src/promo/PromoTimeline.vue';
import { usePlayer, type PromoPlayer } from '../../src/promo/use-player.ts';
import { usePromo } from '../../src/promo/use-promo.ts';
import { useCampaign, useDocuments, useNotices } from '../../src/stores/index.ts';
import type { MixReply, MixRequest } from '../../src/workers/mix-worker.ts';
import { heldWorkers } from './held-workers.ts';
import { clearPage, rest, setNumber } from './mounted.ts';
import { openCampaign, panel } from './open-campaign.ts';

const sounds = (): readonly PromoSound[] => useCampaign().promo!.sounds;
describe('promo: sounds', () => {
  const real = globalThis.fetch;
  const worker = heldWorkers<MixRequest, MixReply>();
  beforeEach(async () => {
    await openCampaign();
    const { run, frame, chosen: choice } = usePromo();
    run({
      label: 'Clips',
      run: (promo) =>
        void promo.clips.push(
          { id: 'a', take: '', start: 0, length: 48 },
          {
            ...{ id: 'b', take: '', start: 0, length: 48 },
            into: { kind: 'push', frames: 8, angle: 0, softness: 0, colour: '#000000' },
          },
        ),
    });
    frame.value = 12;
    choice.value = null;
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  it('of the kit are added at the playhead, and their numbers changed', async () => {
    const shelf = panel(PromoShelf);
    await shelf.find('[data-test=shelf-sounds]').trigger('click');
    await rest();
    await shelf.find('[data-test=kit-riser]').trigger('click');
    expect(sounds()).length(1);
    expect(sounds()[0]).include({ name: 'Riser', at: 12, gain: 0, on: true });
    const details = panel(PromoDetails);
    expect(details.text()).contain(SOUND_KIT.riser.use);
    await setNumber(details, 'Pitch, st', '5');
    await setNumber(details, 'Weight, %', '80');
    await setNumber(details, 'Pan, %', '-50');
    await setNumber(details, 'Ducks the music, dB', '6');
    await setNumber(details, 'Accent at, f', '25');
    const [riser] = sounds();
    expect(riser).include({ pan: -0.5, duck: 6, at: 24 });
    expect(riser.source).deep.include({
      sound: { kind: 'riser', seconds: 2.5, pitch: 5, weight: 0.8, seed: 1 },
    });
    await details.find('input[type=checkbox]').setValue(false);
    expect(sounds()[0].on).equal(false);
    useDocuments().undo();
    expect(sounds()[0].on).equal(true);
    // Keyed at its accent, then softer four frames before it.
    usePromo().frame.value = 24;
    const bead = details.findAll('button').find((b) => /Gain/.test(b.attributes('aria-label') ?? ''))!;
    await bead.trigger('click');
    usePromo().frame.value = 20;
    await rest();
    await setNumber(details, 'Gain, dB', '-3');
    const keys = useCampaign().promo!.tracks.flatMap((t) => t.keys.map((k) => [t.thing, t.path, k.frame, k.value]));
    expect(keys).deep.equal([
      [riser.id, 'gain', -4, -3],
      [riser.id, 'gain', 0, 0],
    ]);
  });

  it('the cut is sounded by one press, which one undo takes back; asked again it says so', async () => {
    const { soundTheCut } = usePromo();
    soundTheCut();
    expect(sounds().map(({ at, name }) => [at, name])).deep.equal([[48, 'Whoosh']]);
    soundTheCut();
    expect(sounds()).length(1);
    expect(useNotices().text).match(/asks for no sound that is not there/);
    useDocuments().undo();
    expect(sounds()).length(0);
  });

  it('lie in rows on the time line, are nudged and deleted by keys', async () => {
    const { run, frame } = usePromo();
    frame.value = 0;
    run({
      label: 'Sounds',
      run: (promo) => void promo.sounds.push(newKitSound('h', 'hit', 10), newKitSound('g', 'glass-tap', 12)),
    });
    let player!: PromoPlayer;
    const holder = panel({
      setup: () => {
        player = usePlayer();
        return () => null;
      },
    });
    const line = panel(PromoTimeline, { player });
    await rest();
    const blocks = line.findAll('[data-test=sound]');
    expect(blocks.map((b) => b.attributes('aria-label'))).deep.equal([
      'Sound Hit, accent on frame 11',
      'Sound Glass tap, accent on frame 13',
    ]);
    // They overlap: the second lies in a row of its own.
    expect(blocks[0].attributes('style')).not.equal(blocks[1].attributes('style'));
    await blocks[0].trigger('keydown', { key: 'ArrowRight' });
    expect(sounds()[0].at).equal(11);
    await blocks[1].trigger('keydown', { key: 'Delete' });
    expect(sounds().map(({ id }) => id)).deep.equal(['h']);
    holder.unmount();
  });

  it('are mixed by a worker: files are given to it once, and of what waits only the latest is mixed', async () => {
    const { run } = usePromo();
    run({ label: 'Hit', run: (promo) => void promo.sounds.push(newKitSound('h', 'hit', 10)) });
    let player!: PromoPlayer;
    const holder = panel({
      setup: () => {
        player = usePlayer();
        return () => null;
      },
    });
    await rest();
    const mixes = () => worker.requests.flatMap((r) => (r.kind === 'mix' ? [r] : []));
    expect(mixes()).length(1);
    for (const at of [11, 12, 13]) run({ label: 'Later', run: (promo) => void (promo.sounds[0].at = at) });
    await rest();
    run({ label: 'Name', run: (promo) => void (promo.name = 'Another') });
    await rest();
    expect(mixes(), 'one at a time').length(1);
    expect(player.track.value).equal(null);
    const answer = (): void => {
      const { id, promo, rate } = mixes().at(-1)!;
      worker.reply({ id, stems: soundStems(promo, rate, null, 48_000) });
    };
    answer();
    expect(player.track.value!.left.some((v) => v !== 0)).equal(true);
    expect(mixes().map(({ promo }) => promo.sounds[0].at)).deep.equal([10, 13]);
    const before = player.track.value;
    answer();
    expect(player.track.value).not.equal(before);
    expect(mixes(), 'a name is not heard').length(2);
    // One that cannot be mixed is not waited for.
    run({ label: 'Later', run: (promo) => void (promo.sounds[0].at = 14) });
    await rest();
    run({ label: 'Later', run: (promo) => void (promo.sounds[0].at = 15) });
    await rest();
    expect(mixes()).length(3);
    worker.fail();
    expect(mixes().at(-1)!.promo.sounds[0].at).equal(15);
    holder.unmount();
  });
});
