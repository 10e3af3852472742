import type { Sound } from '@tender-orbit/core/audio';
import type { SoundStems } from '@tender-orbit/core/promo';
import type { MixReply, MixRequest } from '../workers/mix-worker.ts';

type Mix = Omit<Extract<MixRequest, { kind: 'mix' }>, 'kind' | 'id' | 'music' | 'files'> & {
  music: { asset: string; sound: Sound } | null;
  files: ReadonlyMap<string, Sound>;
};

/** Asks a worker for the sound of a promo: one mix at a time, and of what waits only the latest. */
export class MixClient {
  private readonly worker = new Worker(new URL('../workers/mix-worker.ts', import.meta.url), { type: 'module' });
  private readonly sent = new Set<string>();
  private asked = 0;
  private busy = false;
  private next: Mix | null = null;
  private waiting: Array<() => void> = [];

  constructor(private readonly heard: (stems: SoundStems) => void) {
    this.worker.onmessage = ({ data }: MessageEvent<MixReply>) => {
      this.heard(data.stems);
      this.goOn();
    };
    // What could not be mixed leaves the sound as it was; nobody waits for it.
    this.worker.onerror = () => this.goOn();
  }

  private goOn(): void {
    this.busy = false;
    const next = this.next;
    this.next = null;
    if (next) this.ask(next);
    else for (const done of this.waiting.splice(0)) done();
  }

  ask(mix: Mix): void {
    if (this.busy) {
      this.next = mix;
      return;
    }
    this.busy = true;
    const { promo, rate, cuts, music, files } = mix;
    if (music) this.send(music.asset, music.sound);
    for (const [asset, sound] of files) this.send(asset, sound);
    // Documents are proxies in here; a worker gets plain ones.
    const plain = JSON.parse(JSON.stringify({ promo, rate, cuts })) as Pick<Mix, 'promo' | 'rate' | 'cuts'>;
    const about = { music: music?.asset ?? '', files: [...files.keys()] };
    this.post({ kind: 'mix', id: ++this.asked, ...plain, ...about });
  }

  /** Waits until what was asked for is heard. */
  settled(): Promise<void> {
    return this.busy ? new Promise((done) => this.waiting.push(done)) : Promise.resolve();
  }

  close(): void {
    this.worker.terminate();
    for (const done of this.waiting.splice(0)) done();
  }

  private send(asset: string, { left, right, sampleRate }: Sound): void {
    if (this.sent.has(asset)) return;
    this.sent.add(asset);
    this.post({ kind: 'sound', asset, sound: { left, right, sampleRate } });
  }

  private post(request: MixRequest): void {
    this.worker.postMessage(request);
  }
}
