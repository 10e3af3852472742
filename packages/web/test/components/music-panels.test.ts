import './page.ts';
import { expect } from 'chai';
import { addClip, addPath, addRule, bringMusic, changeMusic, type MusicUse } from '@tender-orbit/core/document';
import { suggestPath } from '@tender-orbit/core/staging';
import PlanPaths from '../../src/plan/PlanPaths.vue';
import BeatDetails from '../../src/promo/BeatDetails.vue';
import { usePromo } from '../../src/promo/use-promo.ts';
import KeyMore from '../../src/set/details/KeyMore.vue';
import { useMoveSelection } from '../../src/things/use-move-selection.ts';
import ShotMusic from '../../src/moves/ShotMusic.vue';
import { useShotBeats, useShotParts } from '../../src/moves/use-shot-beats.ts';
import { useCampaign, useDocuments, usePlayhead, useStage } from '../../src/stores/index.ts';
import { useFilm } from '../../src/viewer/film.ts';
import { clearPage, rest, type show } from './mounted.ts';
import { openCampaign, panel, turning } from './open-campaign.ts';

type Wrapper = ReturnType<typeof show>;
const real = globalThis.fetch;
const HASH = 'a'.repeat(64);
const music = (): MusicUse => useCampaign().promo!.music!;
const pressed = (wrapper: Wrapper, words: string): Promise<void> =>
  wrapper
    .findAll('button')
    .find((b) => b.text() === words)!
    .trigger('click');

describe('music under shots', () => {
  beforeEach(async () => {
    await openCampaign({});
    useDocuments().run('promo', 'promo', bringMusic({ asset: HASH, name: 'Tune' }));
    const beats = Array.from({ length: 12 }, (_, i) => 0.5 + i * 0.5);
    const sections = [{ from: 0, to: 1, kind: 'quiet' as const }];
    useDocuments().run('promo', 'promo', changeMusic('Beats', { beats, tempo: 120, firstBeat: 0.5, sections }));
  });
  afterEach(async () => {
    useMoveSelection().clear();
    useFilm().wanted = false;
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  it('beats are put right by one press each', async () => {
    const details = panel(BeatDetails, { music: music() });
    expect(details.text()).contain('12 beats, 120 bpm, 4 in a bar');
    await pressed(details, 'Half');
    expect([music().beats.length, music().tempo]).deep.equal([6, 60]);
    await details.setProps({ music: music() } as never);
    await pressed(details, 'Double');
    await details.setProps({ music: music() } as never);
    await pressed(details, 'Bar a beat later');
    expect([music().beats.length, music().downbeat]).deep.equal([11, 1]);
    useDocuments().undo();
    useDocuments().undo();
    useDocuments().undo();
    expect(music().beats).length(12);
  });

  it('that loops grows with the cut, and undone with it', async () => {
    const pieces = [
      { from: 0, to: 2 },
      { from: 0.5, to: 2 },
    ];
    const { run } = usePromo();
    run(changeMusic('Loop music', { pieces, loops: true }));
    const rounds = (): number => music().pieces!.length - 1;
    expect(rounds()).equal(1);
    run(addClip({ id: 'clip', take: 'take', start: 0, length: 24 * 8 }, 'Take'));
    expect(rounds()).equal(4);
    useDocuments().undo();
    expect(rounds()).equal(1);
    await rest();
  });

  it('a shot has its place in the music by the cut, or by hand', async () => {
    const grid = useShotBeats();
    const parts = useShotParts();
    expect([grid.value!.times![0], parts.value[0]]).deep.equal([0.5, { from: 0, to: 24, kind: 'quiet' }]);
    const fields = panel(ShotMusic);
    const input = fields.find('input[aria-label="In the music, s"]');
    await input.setValue('0.75');
    await input.trigger('keydown', { key: 'Enter' });
    expect(useCampaign().shot!.musicFrom).equal(0.75);
    expect(grid.value!.times![0]).equal(-0.25);
    expect(parts.value[0]).deep.equal({ from: 0, to: 6, kind: 'quiet' });
    await rest();
    await pressed(fields, 'By the cut');
    expect(useCampaign().shot!.musicFrom).equal(null);
  });

  it('points of a path are dragged by arrow keys on the plan, of the one that is ridden on', async () => {
    const { set, shot } = useCampaign();
    useDocuments().run('shot', 'shot', addPath(suggestPath('way', set!, shot!, 'item')));
    const plan = panel(PlanPaths, { scale: 100 });
    expect(plan.findAll('[data-test=path-point]')).length(0);
    useDocuments().run(
      'shot',
      'shot',
      addRule({
        ...{ id: 'ride', name: 'Ride', thing: 'item', path: '', muted: false },
        ...{ kind: 'ride', target: 'way', progress: 0, orient: false, bank: 0 },
      }),
    );
    useMoveSelection().choose('rule', 'ride');
    await rest();
    const before = useCampaign().shot!.paths[0].points[1].at[0];
    await plan.findAll('[data-test=path-point]')[1].trigger('keydown', { key: 'ArrowRight' });
    expect(useCampaign().shot!.paths[0].points[1].at[0]).closeTo(before + 0.01, 1e-6);
  });

  it('switches and variants are keyed at the playhead', async () => {
    useStage().selected = 'item';
    const more = panel(KeyMore, { id: 'item' });
    await more.find('.v-expansion-panel-title').trigger('click');
    await rest();
    await more.find('[aria-label="Key Visible"]').trigger('click');
    usePlayhead().seek(8, 48);
    await rest();
    const check = more.findAll('.v-checkbox').find((c) => c.text() === 'Visible')!;
    await check.find('input').setValue(false);
    const { keys } = useCampaign().shot!.tracks.find((t) => t.path !== 'turn')!;
    expect(keys.map((k) => k.frame)).deep.equal([0, 8]);
  });

  it('a preview knows which of its frames an edit touches', () => {
    const film = useFilm();
    const picture = { width: 2, height: 1, close: () => undefined } as unknown as ImageBitmap;
    film.wanted = true;
    useDocuments().run('shot', 'shot', turning('item'));
    expect([film.ready.length, film.share, film.next]).deep.equal([48, 0, usePlayhead().frame]);
    for (let frame = 0; frame < 48; frame++) film.keep(frame, film.shows[frame], picture);
    expect([film.share, film.next, film.pictureAt(5)]).deep.equal([1, null, picture]);
    useDocuments().run('shot', 'shot', {
      label: 'Exposure',
      run: (shot) =>
        void shot.tracks.push({
          ...{ thing: 'hero', path: 'exposure' },
          keys: [
            { frame: 20, value: 0, ease: 'linear' },
            { frame: 30, value: 1, ease: 'linear' },
          ],
        }),
    });
    expect(film.ready.indexOf(false)).equal(21);
    expect(film.ready.filter(Boolean)).length(21);
  });
});
