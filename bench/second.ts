import { composeShot, type LightFrame } from '@tender-orbit/core/composite';
import { newLayer, newPromo, newShot, newTitle, type Layer, type PromoDocument } from '@tender-orbit/core/document';
import { assemble, shownAt, textDrawer } from '@tender-orbit/core/promo';
import type { Picture } from '@tender-orbit/core/picture';
import { openPlates } from '../packages/server/src/promos/open-plates.ts';
import { openTitlePainter } from '../packages/server/src/promos/title-fonts.ts';

export const [WIDTH, HEIGHT] = [1920, 1080];
export const RATE = { num: 24, den: 1 };
export const FRAMES = 72;

/** A part of a promo: a take that changes, a gradient and a grade over it, and a title. */
export async function second(): Promise<{ frame: (n: number) => Picture; close: () => void }> {
  const plates = openPlates();
  const painter = await openTitlePainter();
  const layers: Layer[] = [
    newLayer('take', 't', 'Take'),
    newLayer('gradient', 'g', 'Glow', { blend: 'screen', opacity: 0.4 }),
    newLayer('grade', 'r', 'Grade', { contrast: 1.1, saturation: 1.1 } as never),
  ];
  const shot = { ...newShot('Shot', 'set', 'camera', FRAMES), layers };
  const promo: PromoDocument = {
    ...newPromo('Promo', WIDTH, HEIGHT),
    clips: [{ id: 'c', take: 'take', start: 0, length: FRAMES }],
    titles: [newTitle('title', { text: 'Slow as the hill', size: 120, start: 0, length: FRAMES })],
  };
  const text = textDrawer(painter);
  const lights = [0, 1, 2, 3].map((k): LightFrame => {
    const light = Float32Array.from({ length: WIDTH * HEIGHT * 3 }, (_, i) => {
      const [x, y] = [Math.floor(i / 3) % WIDTH, Math.floor(i / 3 / WIDTH)];
      return 0.2 + 0.15 * Math.sin((x + k * 9) / 40) * Math.cos(y / 50) + 0.02 * ((i * 7919) % 13);
    });
    return { width: WIDTH, height: HEIGHT, light, matte: new Float32Array(WIDTH * HEIGHT) };
  });
  const none = { stills: new Map(), films: new Map(), cubes: new Map(), text };
  const frame = (n: number): Picture => {
    const sources = { ...none, takes: new Map([['', lights[n % lights.length]]]) };
    const made = composeShot(plates, { shot, view: 'neutral' }, n, RATE, { width: WIDTH, height: HEIGHT }, sources);
    return assemble(
      plates,
      promo,
      n,
      shownAt(promo, n, () => FRAMES),
      () => made,
      painter,
    );
  };
  return { frame, close: () => painter.dispose() };
}
