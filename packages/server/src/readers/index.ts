import { ChildPool } from './child-pool.ts';
import type { ModelTask } from './read-model-file.ts';
import type { PanoramaTask } from './read-panorama.ts';
import type { PictureTask } from './read-picture-file.ts';

export { ChildPool, type ChildRunOptions } from './child-pool.ts';
export type { ModelRead, ModelTask } from './read-model-file.ts';
export type { PictureRead } from './read-picture-file.ts';

/** Everything that readers of strangers' files are asked to do. */
export type ReaderTask = ModelTask | PictureTask | PanoramaTask;
export type Readers = ChildPool<ReaderTask>;

export function readerPool(): Readers {
  return new ChildPool<ReaderTask>(new URL('./reader-child.ts', import.meta.url));
}
