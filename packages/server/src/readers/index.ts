import { ChildPool } from './child-pool.ts';
import type { FontTask } from './read-font-file.ts';
import type { ModelTask } from './read-model-file.ts';
import type { PanoramaTask } from './read-panorama.ts';
import type { PictureTask } from './read-picture-file.ts';

export { ChildPool, type ChildRunOptions } from './child-pool.ts';
export type { FontRead } from './read-font-file.ts';
export type { ModelRead, ModelTask } from './read-model-file.ts';
export type { PictureRead } from './read-picture-file.ts';

/** Everything that readers of strangers' files are asked to do. */
export type ReaderTask = ModelTask | PictureTask | PanoramaTask | FontTask;
export type Readers = ChildPool<ReaderTask>;

export function readerPool(): Readers {
  return new ChildPool<ReaderTask>(new URL('./reader-child.ts', import.meta.url));
}

/**
 * Seconds that a file of so many bytes may take: small files that take long are made to. What is packed - Draco, PIZ - takes
 * longer for its size than what is not.
 */
export function secondsFor(bytes: number, most: number): number {
  return Math.min(most, LEAST_SECONDS + bytes / BYTES_A_SECOND);
}

const LEAST_SECONDS = 4;
const BYTES_A_SECOND = 150_000;
