import {
  BufferAttribute,
  BufferGeometry,
  DataTexture,
  EdgesGeometry,
  EquirectangularReflectionMapping,
  FloatType,
  Group,
  LinearFilter,
  LineBasicMaterial,
  LineSegments,
  LinearSRGBColorSpace,
  Mesh,
  PMREMGenerator,
  RGBAFormat,
  Scene,
  ShadowMaterial,
  SpotLight,
  type Material,
  type WebGLRenderer,
} from 'three';
import { clayFinish, type Finish, type PictureSource, type TextureUse } from '@tender-orbit/core/finish';
import type { Mesh as CoreMesh } from '@tender-orbit/core/geometry';
import { panoramaOf, type Panorama } from '@tender-orbit/core/light';
import { meshOfShape, type Tableau, type TableauLight } from '@tender-orbit/core/motion';
import type { LoadedModel } from './models.ts';
import { StageLights } from './stage-lights.ts';
import { disposeMaterial, materialOf } from './materials.ts';

/** What has been loaded so far. */
export interface Loaded {
  models: (key: string) => LoadedModel | undefined;
  pictures: (source: PictureSource) => ImageBitmap | undefined;
  panoramas: (hash: string) => Panorama | undefined;
}

/** The tableau as three.js objects. Objects are kept between frames; only what changed is made anew. */
export class StageScene {
  readonly scene = new Scene();
  private readonly things = new Map<string, { key: string; group: Group; materials: Material[] }>();
  private readonly lights = new StageLights(this.scene);
  private readonly shadow = new SpotLight(0xffffff, 0);
  private readonly catcher = new Mesh(new BufferGeometry(), new ShadowMaterial({ opacity: 0.3 }));
  private readonly edges = new LineBasicMaterial({ color: '#8d8798' });
  private readonly geometries = new WeakMap<CoreMesh, BufferGeometry>();
  private readonly numbers = new WeakMap<CoreMesh, number>();
  private count = 0;
  private readonly pmrem: PMREMGenerator;
  private room = '';

  constructor(renderer: WebGLRenderer) {
    this.pmrem = new PMREMGenerator(renderer);
    this.shadow.castShadow = true;
    this.shadow.shadow.mapSize.set(1024, 1024);
    this.shadow.shadow.radius = 9;
    this.shadow.shadow.bias = -0.0005;
    this.shadow.angle = 0.5;
    this.catcher.receiveShadow = true;
    this.scene.add(this.shadow, this.shadow.target, this.catcher);
  }

  /** Brings the scene to `tableau`. */
  show(tableau: Tableau, loaded: Loaded, clay: boolean, selected: string): void {
    const { models, pictures } = loaded;
    const art = (use: TextureUse, own: readonly ImageBitmap[]): ImageBitmap | undefined =>
      use.picture ? pictures(use.picture) : own[use.image];
    /** Which art of a finish is there: a thing is made anew when more has come. */
    const there = (finish: Finish): boolean[] =>
      Object.values(finish.textures).map((use) => Boolean(use?.picture && pictures(use.picture)));
    const present = new Set<string>();
    for (const instance of tableau.instances) {
      const model = models(instance.model);
      if (!model) continue;
      present.add(instance.id);
      const { camera, shadows } = instance.seenBy;
      const parts = instance.parts.map((p) => [p.index, p.finish, there(p.finish), p.shell && this.numberOf(p.shell)]);
      const key = JSON.stringify([clay, instance.model, parts, camera, shadows]);
      const thing = this.thing(instance.id, key, (group) => {
        const byFinish = new Map<object, Material>();
        for (const part of instance.parts) {
          if (!byFinish.has(part.finish))
            byFinish.set(
              part.finish,
              materialOf(clay ? clayFinish() : part.finish, (use) => art(use, model.images)),
            );
          const mesh = new Mesh(this.geometry(part.shell ?? model.meshes[part.index]), byFinish.get(part.finish)!);
          mesh.userData.part = part.index;
          mesh.castShadow = shadows && (clay || part.finish.transmission === 0 || part.finish.attenuationDistance > 0);
          group.add(mesh);
          if (!camera) group.add(this.outline(mesh));
        }
        return [...byFinish.values()];
      });
      thing.matrix.fromArray(instance.matrix);
    }
    for (const surface of tableau.surfaces) {
      present.add(surface.id);
      const { shape, seenBy } = surface;
      const key = JSON.stringify([clay, shape, surface.finish, there(surface.finish), seenBy]);
      const group = this.thing(surface.id, key, (made) => {
        const material = materialOf(clay ? clayFinish() : surface.finish, (use) => art(use, []));
        const geometry = geometryOf(meshOfShape(shape));
        const mesh = new Mesh(geometry, material);
        mesh.userData.own = true;
        mesh.castShadow = shape.kind !== 'sweep' && seenBy.shadows;
        made.add(mesh);
        if (!seenBy.camera) made.add(this.outline(mesh));
        if (shape.kind === 'sweep') {
          this.catcher.geometry.dispose();
          this.catcher.geometry = geometry.clone().translate(0, 0.0006, 0.0006);
        }
        return [material];
      });
      group.matrix.fromArray(surface.matrix);
    }
    for (const [id, { group, materials }] of this.things) {
      if (present.has(id)) continue;
      this.drop(group, materials);
      this.things.delete(id);
    }
    this.catcher.visible = tableau.surfaces.some((s) => s.shape.kind === 'sweep');
    this.lights.show(tableau.lights, selected);
    this.placeShadow(tableau.lights);
    this.showRoom(tableau, loaded);
    this.scene.environmentIntensity = tableau.environment.intensity;
    this.scene.environmentRotation.y = tableau.environment.rotation;
  }

  private showRoom({ environment: { room } }: Tableau, { panoramas }: Loaded): void {
    const file = room.kind === 'file' ? panoramas(room.asset) : undefined;
    const key = JSON.stringify([room, Boolean(file)]);
    if (key === this.room) return;
    this.room = key;
    this.scene.environment?.dispose();
    const texture = panoramaTexture(panoramaOf(room, file));
    this.scene.environment = this.pmrem.fromEquirectangular(texture).texture;
    texture.dispose();
  }

  /** Groups that can be picked, with the id of their thing in `userData.thing`. */
  pickable(): Group[] {
    return [...this.things.values()].map((t) => t.group);
  }

  lightFaces(): Mesh[] {
    return this.lights.faces();
  }

  /** What the camera does not see is drawn as faint outlines while staging, never in a picture that stands for the result. */
  setPanelsVisible(visible: boolean): void {
    for (const face of this.lights.faces()) face.visible = visible;
    for (const { group } of this.things.values())
      for (const child of group.children) if (child instanceof LineSegments) child.visible = visible;
  }

  /** Edges in the place of a thing that is hidden from the camera; it casts its shadow as before. */
  private outline(mesh: Mesh): LineSegments {
    const material = mesh.material as Material;
    material.colorWrite = false;
    material.depthWrite = false;
    return new LineSegments(new EdgesGeometry(mesh.geometry, 30), this.edges);
  }

  dispose(): void {
    for (const { materials } of this.things.values()) materials.forEach(disposeMaterial);
    this.things.clear();
    this.scene.environment?.dispose();
    this.pmrem.dispose();
  }

  /** Takes a thing off the scene. Models' geometries are shared and stay; a surface's or an outline's is its own. */
  private drop(group: Group, materials: Material[]): void {
    this.scene.remove(group);
    materials.forEach(disposeMaterial);
    for (const child of group.children)
      if ((child instanceof Mesh && child.userData.own) || child instanceof LineSegments) child.geometry.dispose();
  }

  private thing(id: string, key: string, build: (group: Group) => Material[]): Group {
    const known = this.things.get(id);
    if (known?.key === key) return known.group;
    if (known) {
      this.drop(known.group, known.materials);
    }
    const group = new Group();
    group.matrixAutoUpdate = false;
    group.userData.thing = id;
    const materials = build(group);
    this.things.set(id, { key, group, materials });
    this.scene.add(group);
    return group;
  }

  /** A number that a label's triangles are known by. */
  private numberOf(mesh: CoreMesh): number {
    if (!this.numbers.has(mesh)) this.numbers.set(mesh, this.count++);
    return this.numbers.get(mesh)!;
  }

  private geometry(mesh: CoreMesh): BufferGeometry {
    let geometry = this.geometries.get(mesh);
    if (!geometry) {
      geometry = geometryOf(mesh);
      this.geometries.set(mesh, geometry);
    }
    return geometry;
  }

  /** One soft shadow from the light that gives most; area lights cast none in a rasteriser. */
  private placeShadow(lights: TableauLight[]): void {
    const power = (l: TableauLight): number =>
      (l.radiance[1] * l.width * l.height) / Math.max(0.05, l.matrix[12] ** 2 + l.matrix[13] ** 2 + l.matrix[14] ** 2);
    const main = [...lights].sort((a, b) => power(b) - power(a))[0];
    this.shadow.visible = main !== undefined;
    if (!main) return;
    this.shadow.position.set(main.matrix[12], main.matrix[13], main.matrix[14]);
    this.shadow.target.position.set(0, 0.03, 0);
    const distance = this.shadow.position.length();
    this.shadow.angle = Math.min(1.2, Math.atan2(0.35, distance) + 0.1);
    this.shadow.shadow.camera.near = 0.02;
    this.shadow.shadow.camera.far = distance + 1.5;
    this.shadow.penumbra = 1;
  }
}

function geometryOf(mesh: CoreMesh): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
  geometry.setAttribute('normal', new BufferAttribute(mesh.normals, 3));
  geometry.setAttribute('uv', new BufferAttribute(mesh.uvs, 2));
  if (mesh.colors) geometry.setAttribute('color', new BufferAttribute(mesh.colors, 4));
  if (mesh.tangents) geometry.setAttribute('tangent', new BufferAttribute(mesh.tangents, 4));
  geometry.setIndex(new BufferAttribute(mesh.indices, 1));
  return geometry;
}

/** A room; three looks up its columns from +X, the core's middle column is -Z, a quarter turn apart. */
function panoramaTexture({ width, height, data }: Panorama): DataTexture {
  const rgba = new Float32Array(width * height * 4).fill(1);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const from = (y * width + ((x + width * 0.75) % width)) * 3;
      rgba.set(data.subarray(from, from + 3), ((height - 1 - y) * width + x) * 4);
    }
  }
  const texture = new DataTexture(rgba, width, height, RGBAFormat, FloatType);
  texture.mapping = EquirectangularReflectionMapping;
  texture.colorSpace = LinearSRGBColorSpace;
  texture.minFilter = LinearFilter;
  texture.magFilter = LinearFilter;
  texture.needsUpdate = true;
  return texture;
}
