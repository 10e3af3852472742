import { analyseMusic, addVoice, silence } from '@tender-orbit/core/audio';
import { beatSuite } from '../packages/core/test/beat-suite.ts';
import { medianMs, type Bench } from './bench.ts';

/** A version of the suite that nothing was tuned on, and that the tests do not use either. */
const UNSEEN = 202;
const NEAR = 0.07;

interface Figures {
  f: number[];
  late: number[];
  bars: number;
}
let judged: Figures | null = null;

/** F-measures of the suite's tracks, how late their beats are, and how many bars begin right; worked out once. */
function figures(): Figures {
  if (judged) return judged;
  const [f, late]: [number[], number[]] = [[], []];
  let bars = 0;
  for (const make of beatSuite(UNSEEN)) {
    const { sound, beats: known, downbeats } = make();
    const heard = analyseMusic(sound);
    const used = new Set<number>();
    let sum = 0;
    for (const beat of heard.beats) {
      const i = known.findIndex((t, k) => !used.has(k) && Math.abs(t - beat) <= NEAR);
      if (i < 0) continue;
      used.add(i);
      sum += beat - known[i];
    }
    f.push((2 * used.size) / (heard.beats.length + known.length));
    late.push(sum / Math.max(1, used.size));
    if (downbeats.some((t) => Math.abs(t - heard.beats[heard.downbeat]) < NEAR)) bars++;
  }
  return (judged = { f, late, bars: bars / f.length });
}
const mean = (values: readonly number[]): number => values.reduce((sum, v) => sum + v, 0) / values.length;
const note = (): string => `${figures().f.length} made-up tracks, seed ${UNSEEN}, which nothing was tuned on`;

export const beatBenches: Bench[] = [
  {
    name: 'beats/f-measure-mean',
    unit: '',
    run: async () => ({ value: mean(figures().f), note: note() }),
  },
  {
    name: 'beats/f-measure-min',
    unit: '',
    run: async () => ({ value: Math.min(...figures().f), note: note() }),
  },
  {
    name: 'beats/mean-late-ms',
    unit: 'ms',
    run: async () => ({ value: mean(figures().late) * 1000, note: 'signed; before is negative' }),
  },
  {
    name: 'beats/bars-right',
    unit: '',
    run: async () => ({ value: figures().bars, note: 'share of tracks whose bars begin where they do' }),
  },
  {
    name: 'beats/seconds-for-3-minutes',
    unit: 's',
    run: async () => {
      const sound = silence(180 * 48000);
      for (let t = 0.1; t < 179; t += 0.5)
        addVoice(sound, t, 0.2, 0.8, 0, (s) => Math.sin(2 * Math.PI * 90 * s) * Math.exp(-20 * s));
      const ms = await medianMs(3, () => void analyseMusic(sound));
      return { value: ms / 1000, note: 'one thread, 48 kHz stereo' };
    },
  },
];
