import { picturesIn, type Tableau } from '@tender-orbit/core/motion';
import type { ModelData } from '@tender-orbit/core/trace';
import { pixelsOf, readModelByKey, readPicture } from './read-model.ts';

/** Reads what a tableau needs to be traced; what cannot be fetched is left out and asked for again next time. */
export class TableauReader {
  private readonly models = new Map<string, Promise<ModelData>>();
  private readonly pictures = new Map<string, Promise<ImageData>>();

  async read(tableau: Tableau): Promise<{ models: Map<string, ModelData>; pictures: Map<string, ImageData> }> {
    const models = new Map<string, ModelData>();
    for (const { model } of tableau.instances)
      await keep(this.models, model, models, async () => {
        const { meshes, images } = await readModelByKey(model);
        return { meshes, images: images.map(pixelsOf) };
      });
    const pictures = new Map<string, ImageData>();
    for (const [key, source] of picturesIn(tableau))
      await keep(this.pictures, key, pictures, () => readPicture(source));
    return { models, pictures };
  }
}

async function keep<T>(
  known: Map<string, Promise<T>>,
  key: string,
  into: Map<string, T>,
  read: () => Promise<T>,
): Promise<void> {
  if (!known.has(key)) known.set(key, read());
  try {
    into.set(key, await known.get(key)!);
  } catch {
    known.delete(key);
  }
}
