import { picturesIn, type Tableau } from '@tender-orbit/core/scene';
import type { ModelData } from '@tender-orbit/core/trace';
import type { Panorama } from '@tender-orbit/core/light';
import { pixelsOf, readModelByKey, readPanorama, readPicture } from './read-model.ts';

export interface TableauData {
  models: Map<string, ModelData>;
  pictures: Map<string, ImageData>;
  panoramas: Map<string, Panorama>;
}

/** Reads what a tableau needs to be traced; what cannot be fetched is left out and asked for again next time. */
export class TableauReader {
  private readonly models = new Map<string, Promise<ModelData>>();
  private readonly panoramas = new Map<string, Promise<Panorama>>();
  private readonly pictures = new Map<string, Promise<ImageData>>();

  async read(tableau: Tableau): Promise<TableauData> {
    const models = new Map<string, ModelData>();
    for (const { model } of tableau.instances)
      await keep(this.models, model, models, async () => {
        const { meshes, images } = await readModelByKey(model);
        return { meshes, images: images.map(pixelsOf) };
      });
    const pictures = new Map<string, ImageData>();
    for (const [key, source] of picturesIn(tableau))
      await keep(this.pictures, key, pictures, () => readPicture(source));
    const panoramas = new Map<string, Panorama>();
    const { asset } = tableau.environment.room;
    if (asset) await keep(this.panoramas, asset, panoramas, () => readPanorama(asset));
    return { models, pictures, panoramas };
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
