import { Problem } from '../problem/index.ts';

/** What a model may hold. Checked on what a file declares, before any of it is unpacked. */
export const MODEL_LIMITS = {
  triangles: 4_000_000,
  vertices: 12_000_000,
  parts: 5000,
  nodes: 100_000,
  images: 256,
  /** Pixels of all pictures together. */
  texels: 268_435_456,
};

export type ModelCount = keyof typeof MODEL_LIMITS;

/** @throws Problem `model/too-heavy` when a model declares more of something than is taken. */
export function checkCount(fileName: string, what: ModelCount, count: number): void {
  const limit = MODEL_LIMITS[what];
  if (count <= limit) return;
  const said = what === 'images' ? 'pictures' : what === 'texels' ? 'pixels in its pictures' : what;
  throw new Problem(
    'model/too-heavy',
    `"${fileName}" has ${count.toLocaleString('en')} ${said}; the limit is ${limit.toLocaleString('en')}: simplify it.`,
    fileName,
  );
}

/** @throws Problem `model/cut-off` that says how much of a file is missing. */
export function cutOff(fileName: string, there: number, needed: number): Problem {
  const [a, b] = [there, needed].map((n) => n.toLocaleString('en'));
  return new Problem(
    'model/cut-off',
    `"${fileName}" is cut off: ${a} of ${b} bytes are there. Copy it again.`,
    fileName,
  );
}

/** A file that cannot be read as what it says it is. */
export function brokenModel(fileName: string, format: string, why: string): Problem {
  return new Problem(
    'model/broken',
    `"${fileName}" could not be read as ${format} (${why}): export it again and retry.`,
    fileName,
  );
}
