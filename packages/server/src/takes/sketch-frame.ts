import sharp from 'sharp';
import { takeLength, type TakeSnapshot } from '@tender-orbit/core/document';
import { lightPower, sketch } from '@tender-orbit/core/scene';
import { tableaux, type Files, type Probe } from './render-frame.ts';

/** Frames over a take at which its lights are looked at: what is full in one of them is full. */
const LOOKED_AT = 5;

/** A frame of a take as a flat drawing, with what moves where it is: for timing, before anything is rendered. */
export async function sketchFrame(snapshot: TakeSnapshot, frame: number, files: Files): Promise<Uint8Array> {
  const { width, height } = snapshot;
  const { at, loaded } = await tableaux(snapshot, files);
  const last = takeLength(snapshot) - 1;
  const looks = Array.from({ length: LOOKED_AT }, (_, n) => Math.round((n / (LOOKED_AT - 1)) * last));
  const power = Math.max(...looks.map((n) => lightPower(at(n))));
  const meshes = (model: string) => loaded.get(model)?.meshes;
  const { pixels } = sketch(at(frame), { width, height, meshes, power });
  return sharp(pixels, { raw: { width, height, channels: 4 } })
    .removeAlpha()
    .webp({ quality: 90 })
    .toBuffer();
}

/** What such a frame costs. */
export async function sketchProbe(snapshot: TakeSnapshot, files: Files): Promise<Probe> {
  const middle = Math.floor(takeLength(snapshot) / 2);
  // The first one loads the models.
  await sketchFrame(snapshot, 0, files);
  const started = performance.now();
  const { length } = await sketchFrame(snapshot, middle, files);
  const secondsPerFrame = (performance.now() - started) / 1000;
  return { secondsPerFrame, bytesPerFrame: length, layers: 0, simulation: 0 };
}
