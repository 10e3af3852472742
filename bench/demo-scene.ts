import sharp from 'sharp';
import type { ProductDocument } from '@tender-orbit/core/document';
import { productOf, readModel } from '@tender-orbit/core/interchange';
import { compile, evaluate, type EvaluateContext, type TableauCamera } from '@tender-orbit/core/scene';
import { buildTurned, type Mesh } from '@tender-orbit/core/geometry';
import { packScene, type DecodedImage, type ModelData, type PackedScene } from '@tender-orbit/core/trace';
import { demoSet, makeModels } from '@tender-orbit/demo';
import { flatten, type Triangles } from './reference/index.ts';
import { heroShot } from './shots.ts';

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
    products.set(`demo-${key}`, productOf(fileName, { fileName, source: key, model: key, unit: 'm' }, model));
  }
  return {
    set: demoSet({ jar: 'demo-jar', dipper: 'demo-dipper', box: 'demo-box' }),
    shot: heroShot('demo-set'),
    models,
    context: { products, meshes: (model) => models.get(model)?.meshes, aspect: 16 / 9 },
  };
}

/** The demo's set with softboxes alone and a plain floor, so that figures compare with those of earlier builds. */
function plainSet(set: DemoScene['set']): DemoScene['set'] {
  const mirror = { strength: 0, blur: 0, reach: 0 };
  return {
    ...set,
    surfaces: set.surfaces.filter((s) => s.kind === 'sweep').map((s) => ({ ...s, mirror })),
    lights: set.lights.map((l) => ({
      ...l,
      ...{ shape: 'softbox' as const, gridAngle: 0, gradient: 'even' as const, height: Math.max(l.height, 0.05) },
      lightLinking: { mode: 'all' as const, things: [] },
    })),
  };
}

export async function packedHero(frame = 24): Promise<PackedScene> {
  const { set, shot, context, models } = await demoScene();
  return packScene(evaluate(compile(plainSet(set), shot), frame, context), models);
}

/** The same picture's triangles for the traversal that is measured against, and its camera. */
export async function referenceHero(frame = 24): Promise<{ triangles: Triangles; camera: TableauCamera }> {
  const { set, shot, context, models } = await demoScene();
  const tableau = evaluate(compile(plainSet(set), shot), frame, context);
  return { triangles: flatten(tableau, models), camera: tableau.camera };
}

/** The demo with its jar many times over, in a wide ring. */
export async function manyThings(count: number): Promise<PackedScene> {
  const { set, shot, context, models } = await demoScene();
  const tableau = evaluate(compile(set, shot), 0, context);
  const instances = Array.from({ length: count }, (_, i) => {
    const matrix = [...tableau.instances[0].matrix];
    const [ring, turn] = [1 + (i % 7) * 0.15, (i / count) * 2 * Math.PI];
    matrix[12] += ring * Math.cos(turn);
    matrix[14] += ring * Math.sin(turn);
    return { ...tableau.instances[0], id: `copy${i}`, matrix };
  });
  return packScene({ ...tableau, instances }, models);
}

/** The demo under `count` softboxes in a half circle whose power adds up to the same. */
export async function manyLights(count: number): Promise<PackedScene> {
  const { set, shot, context, models } = await demoScene();
  const lights = Array.from({ length: count }, (_, i) => {
    const turn = ((i + 0.5) / count) * Math.PI;
    return {
      ...set.lights[0],
      id: `light${i}`,
      width: 0.1,
      height: 0.1,
      lumens: 8000 / count,
      position: [Math.cos(turn), 0.4 + 0.3 * (i % 3), Math.sin(turn)] as [number, number, number],
    };
  });
  return packScene(evaluate(compile({ ...set, lights }, shot), 0, context), models);
}

/** A finely divided vase of about `triangles` triangles. */
export function roundMesh(triangles: number): Mesh {
  const segments = Math.round(Math.sqrt(triangles / 2));
  const profile = Array.from({ length: segments + 1 }, (_, i) => {
    const s = i / segments;
    return [0.05 + 0.02 * Math.sin(s * 9), s * 0.2] as const;
  });
  return buildTurned({ profile, segments });
}
