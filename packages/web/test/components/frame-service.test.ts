import './page.ts';
import { expect } from 'chai';
import { usePresence } from '../../src/frame/use-presence.ts';
import { useCampaign, useSession, useStage } from '../../src/stores/index.ts';
import { preloadShot } from '../../src/viewer/preload.ts';
import { clearPage, rest } from './mounted.ts';
import { asked, openCampaign, panel } from './open-campaign.ts';

const real = globalThis.fetch;

describe('what the frame does by itself', () => {
  const clock = performance.now.bind(performance);
  let now = 0;
  beforeEach(async () => {
    performance.now = () => now;
    await openCampaign({});
  });
  afterEach(async () => {
    performance.now = clock;
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  it('tells the server now and then that somebody is at work, only for those who want a core left free', async () => {
    const told = (): number => asked.filter(([, path]) => path === '/api/session/presence').length;
    const sign = async (at: number, kind: string): Promise<number> => {
      now = at;
      window.dispatchEvent(new Event(kind));
      await rest();
      return told();
    };
    const frame = panel({ setup: () => (usePresence(), () => null) });
    expect(await sign(1000, 'pointermove')).equal(0);
    await useSession().choose({ spareCore: true });
    expect(await sign(2000, 'pointermove')).equal(1);
    expect(await sign(31_000, 'keydown')).equal(1);
    expect(await sign(32_000, 'keydown')).equal(2);
    frame.unmount();
    expect(await sign(99_000, 'wheel')).equal(2);
  });

  it('asks for what the shot in hand shows before a viewer is opened', () => {
    const requests: Array<{ kind: string; room?: { asset: string } }> = [];
    const never = (): Promise<void> => new Promise(() => undefined);
    const { postMessage } = Worker.prototype;
    Worker.prototype.postMessage = (request: never) => void requests.push(request);
    const asset = 'ab'.repeat(32);
    useStage().run({
      label: 'Room',
      run: (set) => void (set.environment.room = { ...set.environment.room, kind: 'file', asset }),
    });
    void preloadShot(never);
    Worker.prototype.postMessage = postMessage;
    expect(requests.flatMap(({ kind, room }) => (kind === 'room' ? [room?.asset] : []))).deep.equal([asset]);
    // Nothing is asked for twice, and a shot without its camera asks for nothing at all.
    const before = requests.length;
    void preloadShot(never);
    useStage().run({ label: 'No cameras', run: (set) => void (set.cameras = []) });
    void preloadShot(never);
    expect(requests.length).equal(before);
  });
});
