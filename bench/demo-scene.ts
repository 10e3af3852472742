import sharp from 'sharp';
import type { ProductDocument } from '@tender-orbit/core/document';
import { productOf, readModel } from '@tender-orbit/core/interchange';
import { evaluate, type EvaluateContext } from '@tender-orbit/core/motion';
import { packScene, type DecodedImage, type ModelData, type PackedScene } from '@tender-orbit/core/trace';
import { demoSet, heroShot, makeModels } from '@tender-orbit/demo';

export interface DemoScene {
  set: ReturnType<typeof demoSet>;
  shot: ReturnType<typeof heroShot>;
  context: EvaluateContext;
  models: Map<string, ModelData>;
}

let made: Promise<DemoScene> | null = null;

/** The demo's hero shot with its models in memory; the same for every bench. */
export function demoScene(): Promise<DemoScene> {
  return (made ??= load());
}

async function load(): Promise<DemoScene> {
  const products = new Map<string, ProductDocument>();
  const models = new Map<string, ModelData>();
  for (const { key, fileName, glb } of await makeModels()) {
    const model = await readModel(glb);
    const images: DecodedImage[] = [];
    for (const { bytes } of model.images) {
      const { data, info } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
      images.push({ width: info.width, height: info.height, data });
    }
    models.set(key, { meshes: model.parts.map((p) => p.mesh), images });
    products.set(`demo-${key}`, productOf(fileName, fileName, key, key, model));
  }
  return {
    set: demoSet({ jar: 'demo-jar', dipper: 'demo-dipper', box: 'demo-box' }),
    shot: heroShot('demo-set'),
    models,
    context: { products, meshes: (model) => models.get(model)?.meshes, aspect: 16 / 9 },
  };
}

export async function packedHero(frame = 24): Promise<PackedScene> {
  const { set, shot, context, models } = await demoScene();
  return packScene(evaluate(set, shot, frame, context), models);
}
