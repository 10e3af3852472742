import { pow, sin } from '../maths/index.ts';
import { Document, WebIO, type Node, type Primitive, type Texture } from '@gltf-transform/core';
import { ALL_EXTENSIONS, KHRLightsPunctual } from '@gltf-transform/extensions';
import { mat4, quat, vec3 } from 'gl-matrix';
import { pictureKey, type Finish, type TextureUse } from '../finish/index.ts';
import { multiply, type Mat4, type Mesh } from '../geometry/index.ts';
import type { ShownPart } from '../product/index.ts';
import { EMITTERS, meshOfShape, type Tableau, type TableauInstance, type TableauLight } from '../scene/index.ts';
import { framesToSeconds, type FrameRate } from '../time/index.ts';
import type { ModelImage } from './model.ts';
import { addShapes, animateShapes, shapeFrames, type DeformingMesh } from './write-deforming.ts';
import { writeFinish } from './write-finish.ts';
import { writePrimitive } from './write-model.ts';

/** A shot's set as other software can open it. */
export interface StagedShot {
  name: string;
  /** One for each frame, the first at time 0. */
  tableaux: readonly Tableau[];
  rate: FrameRate;
  /** Meshes and pictures of each model by its key. */
  models: ReadonlyMap<string, { meshes: readonly Mesh[]; images: readonly ModelImage[] }>;
  /** Art by its pictureKey(), encoded. */
  pictures: ReadonlyMap<string, ModelImage>;
}

/**
 * A shot as GLB: products, surfaces, camera and lights with their moves as an animation that has a key at every frame; parts that
 * deform have their shapes as morph targets.
 * Lights follow KHR_lights_punctual: suns are directional, cones are spots, and lamps with a face become points of the same
 * intensity ahead, since glTF has no area lights.
 */
export async function writeStaged(shot: StagedShot): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Tender Orbit';
  document.createBuffer();
  const scene = document.createScene(shot.name);
  document.getRoot().setDefaultScene(scene);
  const first = shot.tableaux[0];
  const finishes = new FinishTable(document, shot);
  const moves: Array<{ node: Node; matrices: Mat4[] }> = [];
  const deforming: DeformingMesh[] = [];
  const place = (node: Node, at: (tableau: Tableau) => Mat4 | undefined): void => {
    scene.addChild(node);
    const start = at(first)!;
    setPlace(node, start);
    moves.push({ node, matrices: shot.tableaux.map((t) => at(t) ?? start) });
  };
  for (const surface of first.surfaces) {
    const primitive = writePrimitive(document, meshOfShape(surface.shape), finishes.of(surface.finish, []));
    const node = document.createNode(surface.name).setMesh(document.createMesh(surface.name).addPrimitive(primitive));
    place(node, (t) => t.surfaces.find((s) => s.id === surface.id)?.matrix);
  }
  for (const instance of first.instances) {
    const model = shot.models.get(instance.model);
    if (!model) continue;
    const found = (t: Tableau): TableauInstance | undefined => t.instances.find((i) => i.id === instance.id);
    const partIn = (t: Tableau, { index, slot }: ShownPart): ShownPart | undefined =>
      found(t)?.parts.find((p) => p.index === index && p.slot === slot);
    const primitive = (part: ShownPart): Primitive =>
      writePrimitive(
        document,
        part.shape?.mesh ?? part.shell ?? model.meshes[part.index],
        finishes.of(part.finish, model.images),
      );
    const shapesOf = (part: ShownPart): Array<Mesh | undefined> =>
      shot.tableaux.map((t) => partIn(t, part)?.shape?.mesh ?? model.meshes[part.index]);
    const framesOf = new Map(instance.parts.map((part) => [part, part.shell ? null : shapeFrames(shapesOf(part))]));
    const moving = (part: ShownPart): boolean =>
      framesOf.get(part) !== null || shot.tableaux.some((t) => partIn(t, part)?.place);
    const fixed = instance.parts.filter((part) => !moving(part));
    if (fixed.length > 0) {
      const mesh = document.createMesh(instance.name);
      for (const part of fixed) mesh.addPrimitive(primitive(part));
      place(document.createNode(instance.name).setMesh(mesh), (t) => found(t)?.matrix);
    }
    for (const part of instance.parts.filter(moving)) {
      const name = `${instance.name} part ${part.index + 1}`;
      const own = primitive(part);
      const node = document.createNode(name).setMesh(document.createMesh(name).addPrimitive(own));
      const frames = framesOf.get(part);
      if (frames) {
        const shapes = shapesOf(part);
        addShapes(
          document,
          own,
          frames.map((frame) => shapes[frame]!),
        );
        deforming.push({ node, frames });
      }
      place(node, (t) => {
        const matrix = found(t)?.matrix;
        const there = partIn(t, part)?.place;
        return matrix && there ? multiply(matrix, there.matrix) : matrix;
      });
    }
  }
  for (const light of first.lights)
    place(writeLight(document, light), (t) => t.lights.find((l) => l.id === light.id)?.matrix);
  const { camera } = first;
  const lens = document
    .createCamera('Camera')
    .setType('perspective')
    .setYFov(camera.verticalFov)
    .setAspectRatio(camera.aspect)
    .setZNear(0.01)
    .setZFar(100);
  place(document.createNode('Camera').setCamera(lens), (t) => t.camera.matrix);
  writeMoves(document, moves, deforming, shot);
  return new WebIO().registerExtensions(ALL_EXTENSIONS).writeBinary(document);
}

/** Materials and textures, each written once however many parts wear them. */
class FinishTable {
  private readonly known = new Map<Finish, ReturnType<typeof writeFinish>>();
  private readonly textures = new Map<ModelImage, Texture>();

  constructor(
    private readonly document: Document,
    private readonly shot: StagedShot,
  ) {}

  of(finish: Finish, images: readonly ModelImage[]): ReturnType<typeof writeFinish> {
    const known = this.known.get(finish);
    if (known) return known;
    const material = writeFinish(this.document, finish, (use) => this.texture(use, images));
    this.known.set(finish, material);
    return material;
  }

  private texture(use: TextureUse, images: readonly ModelImage[]): Texture | null {
    const image = use.picture ? this.shot.pictures.get(pictureKey(use.picture)) : images[use.image];
    if (!image) return null;
    const known =
      this.textures.get(image) ??
      this.document.createTexture(image.name).setImage(new Uint8Array(image.bytes)).setMimeType(image.mimeType);
    this.textures.set(image, known);
    return known;
  }
}

function writeLight(document: Document, light: TableauLight): Node {
  const brightest = Math.max(...light.radiance, 1e-9);
  const lamp = document
    .createExtension(KHRLightsPunctual)
    .createLight(light.name)
    .setColor(light.radiance.map((c) => c / brightest) as [number, number, number]);
  const emitter = EMITTERS[light.kind];
  const face = emitter.projectedArea(light);
  if (emitter.distant) {
    // A sun's radiance times the solid angle of its disc is what falls on what faces it: lux.
    const half = Math.max(1e-4, (light.angle ?? 0.0093) / 2);
    lamp.setType('directional').setIntensity(brightest * Math.PI * pow(sin(half), 2));
  } else if (light.cone) {
    const outer = Math.min(Math.PI / 2, light.cone.outer);
    lamp.setType('spot').setIntensity(brightest * face);
    lamp.setInnerConeAngle(Math.min(light.cone.inner, outer - 1e-3)).setOuterConeAngle(outer);
  } else lamp.setType('point').setIntensity(brightest * face);
  return document.createNode(light.name).setExtension('KHR_lights_punctual', lamp);
}

interface Placed {
  translation: vec3;
  rotation: quat;
  scale: vec3;
}

function placedBy(matrix: Mat4): Placed {
  const m = matrix as unknown as mat4;
  const scale = mat4.getScaling([0, 0, 0], m) as vec3;
  // Rotation is read from the matrix without its scale.
  const plain = mat4.scale([...matrix] as unknown as mat4, m, [1 / scale[0], 1 / scale[1], 1 / scale[2]]);
  const rotation = quat.normalize([0, 0, 0, 1], mat4.getRotation([0, 0, 0, 1], plain));
  return { translation: [matrix[12], matrix[13], matrix[14]], rotation, scale };
}

function setPlace(node: Node, matrix: Mat4): void {
  const { translation, rotation, scale } = placedBy(matrix);
  node
    .setTranslation([...translation] as [number, number, number])
    .setRotation([...rotation] as [number, number, number, number])
    .setScale([...scale] as [number, number, number]);
}

function writeMoves(
  document: Document,
  moves: Array<{ node: Node; matrices: Mat4[] }>,
  deforming: readonly DeformingMesh[],
  shot: StagedShot,
): void {
  const moving = moves.filter(({ matrices }) =>
    matrices.some((m) => m.some((v, i) => Math.abs(v - matrices[0][i]) > 1e-7)),
  );
  if (moving.length + deforming.length === 0) return;
  const buffer = document.getRoot().listBuffers()[0];
  const times = Float32Array.from(shot.tableaux, (_, frame) => framesToSeconds(frame, shot.rate));
  const input = document.createAccessor('times').setType('SCALAR').setArray(times).setBuffer(buffer);
  const animation = document.createAnimation(shot.name);
  for (const mesh of deforming) animateShapes(document, animation, mesh, (frame) => framesToSeconds(frame, shot.rate));
  for (const { node, matrices } of moving) {
    const places = matrices.map(placedBy);
    // Neighbouring keys on the same side of the sphere, so that interpolation takes the short way.
    for (let i = 1; i < places.length; i++)
      if (quat.dot(places[i - 1].rotation, places[i].rotation) < 0)
        quat.scale(places[i].rotation, places[i].rotation, -1);
    for (const path of ['translation', 'rotation', 'scale'] as const) {
      const values = places.map((p) => [...p[path]]);
      if (values.every((v) => v.every((c, i) => Math.abs(c - values[0][i]) < 1e-7))) continue;
      const output = document
        .createAccessor()
        .setType(path === 'rotation' ? 'VEC4' : 'VEC3')
        .setArray(Float32Array.from(values.flat()))
        .setBuffer(buffer);
      const sampler = document.createAnimationSampler().setInput(input).setOutput(output).setInterpolation('LINEAR');
      const channel = document.createAnimationChannel().setTargetNode(node).setTargetPath(path).setSampler(sampler);
      animation.addSampler(sampler).addChannel(channel);
    }
  }
}
