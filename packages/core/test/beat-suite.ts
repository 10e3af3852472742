import {
  addVoice,
  bass,
  brush,
  kick,
  mallet,
  noise,
  normalise,
  noteFrequency,
  shaker,
  silence,
  type Sound,
} from '@tender-orbit/core/audio';

/** A made-up track whose beats are known. */
export interface SuiteTrack {
  name: string;
  sound: Sound;
  /** Seconds. */
  beats: number[];
  /** Which of them begin a bar. */
  downbeats: number[];
}

interface Recipe {
  name: string;
  style: 'four' | 'rock' | 'swing' | 'syncopated' | 'half-time' | 'waltz' | 'sparse' | 'shuffle' | 'broken' | 'plucked';
  /** Lowest and highest tempo, beats a minute. */
  tempo: readonly [number, number];
  pads?: number;
  hiss?: number;
  /** Share by which the tempo sways. */
  drift?: number;
  /** Tempo after the middle, as a share of the first. */
  change?: number;
  /** Seconds before the first beat. */
  lead?: number;
}

/** 26 kinds of tracks, 70 to 175 beats a minute. */
const RECIPES: readonly Recipe[] = [
  { name: 'four on the floor, fast', style: 'four', tempo: [122, 134] },
  { name: 'four on the floor, slow, with pads', style: 'four', tempo: [88, 100], pads: 0.5 },
  { name: 'four on the floor, very fast', style: 'four', tempo: [150, 172], hiss: 0.02 },
  { name: 'straight drums', style: 'rock', tempo: [96, 124] },
  { name: 'straight drums, slow', style: 'rock', tempo: [72, 88], pads: 0.4 },
  { name: 'straight drums, fast', style: 'rock', tempo: [140, 160] },
  { name: 'straight drums under hiss', style: 'rock', tempo: [100, 118], hiss: 0.08 },
  { name: 'swing, slow', style: 'swing', tempo: [84, 104] },
  { name: 'swing, fast', style: 'swing', tempo: [120, 150] },
  { name: 'shuffle', style: 'shuffle', tempo: [90, 116], pads: 0.3 },
  { name: 'syncopated kick', style: 'syncopated', tempo: [94, 112] },
  { name: 'syncopated kick, fast', style: 'syncopated', tempo: [124, 140], pads: 0.4 },
  { name: 'broken beat', style: 'broken', tempo: [160, 175] },
  { name: 'broken beat, slower', style: 'broken', tempo: [128, 144], pads: 0.3 },
  { name: 'half time', style: 'half-time', tempo: [132, 150] },
  { name: 'half time, slow', style: 'half-time', tempo: [84, 100], pads: 0.3 },
  { name: 'waltz', style: 'waltz', tempo: [100, 130] },
  { name: 'waltz, slow, with pads', style: 'waltz', tempo: [80, 96], pads: 0.5 },
  { name: 'waltz, fast', style: 'waltz', tempo: [140, 165] },
  { name: 'sparse', style: 'sparse', tempo: [80, 100] },
  { name: 'sparse under pads', style: 'sparse', tempo: [100, 124], pads: 0.5 },
  { name: 'plucked, no drums', style: 'plucked', tempo: [84, 112], pads: 0.3 },
  { name: 'plucked, no drums, lead-in', style: 'plucked', tempo: [100, 120], lead: 1.7 },
  { name: 'straight drums that sway', style: 'rock', tempo: [98, 120], drift: 0.04 },
  { name: 'four on the floor that sways', style: 'four', tempo: [108, 126], drift: 0.03, pads: 0.3 },
  { name: 'tempo change', style: 'rock', tempo: [96, 108], change: 1.28 },
  { name: 'tempo change, slower', style: 'four', tempo: [120, 132], change: 0.8 },
];

const RATE = 44100;
const SECONDS = 24;

/** Every track of the suite in the version of a seed: other tempi, melodies, loudness and small untidiness. */
export function beatSuite(seed: number): Array<() => SuiteTrack> {
  return RECIPES.map((recipe, i) => () => track(recipe, seed * 1000 + i));
}

function track(recipe: Recipe, seed: number): SuiteTrack {
  const random = noise(seed * 7919 + 17);
  for (let i = 0; i < 8; i++) random();
  const unit = (): number => (random() + 1) / 2;
  const perBar = recipe.style === 'waltz' ? 3 : 4;
  const first = recipe.tempo[0] + (recipe.tempo[1] - recipe.tempo[0]) * unit();
  const beats: number[] = [];
  for (let t = recipe.lead ?? 0.1 + 0.4 * unit(); t < SECONDS - 0.6;) {
    beats.push(t);
    const now = recipe.change && t > SECONDS / 2 ? first * recipe.change : first;
    t += 60 / (now * (1 + (recipe.drift ?? 0) * Math.sin((2 * Math.PI * t) / 17)));
  }
  const sound = silence(SECONDS * RATE, RATE);
  const play = new Player(sound, beats, random);
  const bars = Math.ceil(beats.length / perBar);
  for (let bar = 0; bar < bars; bar++) STYLES[recipe.style](play, bar, bar * perBar, unit);
  if (recipe.pads) addPads(sound, recipe.pads, beats, perBar, unit);
  if (recipe.hiss) for (let i = 0; i < sound.left.length; i++) sound.left[i] += random() * recipe.hiss;
  normalise(sound, 0.9);
  return { name: recipe.name, sound, beats, downbeats: beats.filter((_, i) => i % perBar === 0) };
}

type Voice = (t: number) => number;

/** Plays voices at beats of a track, by people: a little early or late, louder or softer. */
class Player {
  constructor(
    private readonly sound: Sound,
    private readonly beats: readonly number[],
    private readonly random: () => number,
  ) {}

  /** @param beat counted from the first, with parts. */
  hit(beat: number, voice: Voice, level: number, length = 0.5): void {
    const i = Math.floor(beat);
    if (i < 0 || i + 1 >= this.beats.length) return;
    const at = this.beats[i] + (this.beats[i + 1] - this.beats[i]) * (beat - i) + this.random() * 0.004;
    addVoice(this.sound, at, length, level * (1 + 0.18 * this.random()), this.random() * 0.3, voice);
  }
  kick(beat: number, level = 0.9): void {
    this.hit(beat, kick(), level, 0.6);
  }
  snare(beat: number, level = 0.7): void {
    this.hit(beat, brush((this.random() * 1e9) | 1), level, 0.4);
  }
  hat(beat: number, level = 0.35): void {
    this.hit(beat, shaker((this.random() * 1e9) | 1, 45), level, 0.2);
  }
  note(beat: number, note: number, level = 0.3): void {
    this.hit(beat, mallet(noteFrequency(note)), level, 1);
  }
  low(beat: number, note: number, length: number, level = 0.4): void {
    this.hit(beat, bass(noteFrequency(note), length), level, length);
  }
}

const SCALE = [62, 64, 66, 69, 71, 74, 76, 78];
const ROOTS = [38, 35, 43, 45];
const some = (unit: () => number): number => SCALE[Math.floor(unit() * SCALE.length) % SCALE.length];

const STYLES: Record<Recipe['style'], (play: Player, bar: number, b: number, unit: () => number) => void> = {
  four(play, bar, b, unit) {
    for (let i = 0; i < 4; i++) {
      play.kick(b + i);
      play.hat(b + i + 0.5, 0.5);
      if (unit() < 0.5) play.hat(b + i + 0.25, 0.15);
    }
    play.snare(b + 1);
    play.snare(b + 3);
    play.low(b + 0.5, ROOTS[bar % 4], 0.3);
    play.low(b + 2.5, ROOTS[bar % 4], 0.3);
    if (unit() < 0.6) play.note(b + Math.floor(unit() * 8) / 2, some(unit));
  },
  rock(play, bar, b, unit) {
    play.kick(b);
    play.kick(b + 2);
    if (unit() < 0.6) play.kick(b + 2.5, 0.7);
    if (unit() < 0.25) play.kick(b + 3.5, 0.6);
    play.snare(b + 1);
    play.snare(b + 3);
    for (let i = 0; i < 8; i++) play.hat(b + i / 2, i % 2 ? 0.25 : 0.4);
    play.low(b, ROOTS[bar % 4], 0.8);
    if (unit() < 0.5) play.low(b + 2, ROOTS[bar % 4], 0.5);
    for (let i = 0; i < 4; i++) if (unit() < 0.4) play.note(b + i / 1 + (unit() < 0.5 ? 0 : 0.5), some(unit));
  },
  swing(play, bar, b, unit) {
    for (let i = 0; i < 4; i++) {
      play.hat(b + i, 0.5);
      if (i % 2) play.hat(b + i + 2 / 3, 0.4);
      play.low(b + i, ROOTS[bar % 4] + [0, 4, 7, 9][i], 0.4, 0.45);
    }
    play.kick(b, 0.5);
    play.snare(b + 1, 0.4);
    play.snare(b + 3, 0.4);
    for (let i = 0; i < 4; i++) if (unit() < 0.45) play.note(b + i + (unit() < 0.5 ? 2 / 3 : 0), some(unit));
  },
  shuffle(play, bar, b, unit) {
    for (let i = 0; i < 4; i++) {
      play.hat(b + i, 0.45);
      play.hat(b + i + 2 / 3, 0.3);
    }
    play.kick(b);
    play.kick(b + 2);
    if (unit() < 0.5) play.kick(b + 1 + 2 / 3, 0.6);
    play.snare(b + 1);
    play.snare(b + 3);
    play.low(b, ROOTS[bar % 4], 0.5);
    play.low(b + 2, ROOTS[bar % 4] + 7, 0.5);
  },
  syncopated(play, bar, b, unit) {
    for (const at of [0, 1.5, 2.5, 3.5]) if (at === 0 || unit() < 0.85) play.kick(b + at, at ? 0.75 : 0.95);
    play.snare(b + 1);
    play.snare(b + 3);
    for (let i = 0; i < 8; i++) play.hat(b + i / 2, 0.32);
    for (const at of [0, 0.75, 1.5, 2.25, 3]) if (unit() < 0.6) play.note(b + at, some(unit), 0.35);
    play.low(b, ROOTS[bar % 4], 0.4);
    play.low(b + 1.5, ROOTS[bar % 4], 0.4);
  },
  broken(play, bar, b, unit) {
    play.kick(b);
    play.kick(b + 2.5, 0.85);
    if (unit() < 0.3) play.kick(b + 3.75, 0.5);
    play.snare(b + 1);
    play.snare(b + 3);
    if (unit() < 0.5) play.snare(b + 1.75, 0.25);
    for (let i = 0; i < 8; i++) play.hat(b + i / 2, i % 2 ? 0.3 : 0.38);
    play.low(b, ROOTS[bar % 4], 1.2);
  },
  'half-time'(play, bar, b, unit) {
    play.kick(b);
    if (unit() < 0.6) play.kick(b + 1.5, 0.6);
    play.snare(b + 2, 0.9);
    for (let i = 0; i < 4; i++) {
      play.hat(b + i, 0.5);
      if (unit() < 0.5) play.hat(b + i + 0.5, 0.2);
    }
    play.low(b, ROOTS[bar % 4], 1);
    for (let i = 0; i < 4; i++) if (unit() < 0.4) play.note(b + i, some(unit));
  },
  waltz(play, bar, b, unit) {
    play.low(b, ROOTS[bar % 4], 0.6, 0.6);
    play.kick(b, 0.6);
    for (const i of [1, 2]) {
      play.note(b + i, ROOTS[bar % 4] + 24, 0.35);
      play.note(b + i, ROOTS[bar % 4] + 28, 0.3);
      play.hat(b + i, 0.35);
    }
    if (unit() < 0.5) play.note(b + 1.5, some(unit), 0.25);
    play.note(b, some(unit), 0.4);
  },
  sparse(play, bar, b, unit) {
    play.kick(b, 0.8);
    if (unit() < 0.7) play.snare(b + 2, 0.5);
    for (let i = 0; i < 4; i++) if (unit() < 0.7) play.hat(b + i, 0.35);
    if (unit() < 0.7) play.low(b, ROOTS[bar % 4], 1);
    for (let i = 0; i < 4; i++) if (unit() < 0.35) play.note(b + i, some(unit), 0.4);
  },
  plucked(play, bar, b, unit) {
    play.low(b, ROOTS[bar % 4], 0.9, 0.6);
    play.low(b + 2, ROOTS[bar % 4] + 7, 0.7, 0.4);
    for (let i = 0; i < 8; i++)
      if (unit() < (i % 2 ? 0.45 : 0.85)) play.note(b + i / 2, some(unit), i % 2 ? 0.25 : 0.4);
  },
};

function addPads(sound: Sound, level: number, beats: readonly number[], perBar: number, unit: () => number): void {
  for (let i = 0; i + perBar < beats.length; i += perBar) {
    const length = beats[i + perBar] - beats[i] + 0.4;
    for (const note of [0, 4, 7])
      addVoice(
        sound,
        beats[i] + 0.02 * unit(),
        length,
        level * 0.12,
        0,
        strings(ROOTS[(i / perBar) % 4] + 24 + note, length),
      );
  }
}

/** A chord tone that swells: two strings a little apart. */
function strings(note: number, length: number): Voice {
  const f = noteFrequency(note) * 2 * Math.PI;
  return (t) =>
    (Math.sin(f * t) + Math.sin(f * 1.002 * t) + 0.3 * Math.sin(2 * f * t)) * Math.min(1, t / 0.4, (length - t) / 0.4);
}
