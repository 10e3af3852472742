import {
  BufferAttribute,
  BufferGeometry,
  DirectionalLight,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
  PointLight,
  RectAreaLight,
  RingGeometry,
  SpotLight,
  Vector3,
  type Light,
  type Scene,
} from 'three';
import { RectAreaLightUniformsLib } from 'three/examples/jsm/lights/RectAreaLightUniformsLib.js';
import { EMITTERS, type TableauLight } from '@tender-orbit/core/scene';

type Kind = 'area' | 'spot' | 'point' | 'sun';

/** Programs are for as many lights of a kind, twice as many, and so on. */
const STEPS: Record<Kind, number> = { area: 4, spot: 2, point: 2, sun: 1 };

interface ShownLight {
  kind: Kind;
  light: Light;
  face: Mesh;
}

function kindOf({ kind, cone }: TableauLight): Kind {
  if (kind === 'rect' || (kind === 'disc' && !cone)) return 'area';
  if (kind === 'disc') return 'spot';
  return kind === 'sun' ? 'sun' : 'point';
}

/** The lights of a tableau as three.js has them, each with an outline that shows where it is while staging. */
export class StageLights {
  private readonly shown = new Map<string, ShownLight>();
  private readonly spare: Record<Kind, Light[]> = { area: [], spot: [], point: [], sun: [] };

  constructor(private readonly scene: Scene) {
    RectAreaLightUniformsLib.init();
  }

  faces(): Mesh[] {
    return [...this.shown.values()].map((l) => l.face);
  }

  /** @param exposure that the picture gets: outlines are as bright as their colour says at any. */
  show(lights: readonly TableauLight[], selected: string, exposure: number): void {
    for (const light of lights) {
      const known = this.lightFor(light);
      this.place(known, light);
      const { color } = known.face.material as MeshBasicMaterial;
      color.set(light.id === selected ? '#E9B44C' : '#5f4f2c').multiplyScalar(1 / exposure);
    }
    for (const [id, known] of this.shown) {
      if (!lights.some((l) => l.id === id)) this.remove(id, known);
    }
    for (const kind of Object.keys(STEPS) as Kind[]) this.pad(kind);
  }

  /** Adds dark lights, so that one more of the set's own needs no other programs of all finishes. */
  private pad(kind: Kind): void {
    const spare = this.spare[kind];
    const own = [...this.shown.values()].filter((l) => l.kind === kind).length;
    const count = Math.max(1, Math.ceil(own / STEPS[kind])) * STEPS[kind] - own;
    for (const dark of spare.splice(count)) this.scene.remove(dark);
    while (spare.length < count) {
      const dark = Object.assign(make(kind), { intensity: 0 });
      dark.layers.enableAll();
      spare.push(dark);
      this.scene.add(dark);
    }
  }

  private lightFor(light: TableauLight): ShownLight {
    const kind = kindOf(light);
    const round = light.kind !== 'rect';
    const known = this.shown.get(light.id);
    if (known?.kind === kind && known.face.userData.round === round) return known;
    if (known) this.remove(light.id, known);
    const face = new Mesh(round ? ringGeometry() : panelGeometry(), new MeshBasicMaterial());
    face.userData = { thing: light.id, round };
    face.matrixAutoUpdate = false;
    const made: ShownLight = { kind, light: make(kind), face };
    // The mirror image of the floor is lit by them too.
    made.light.layers.enableAll();
    this.shown.set(light.id, made);
    this.scene.add(made.light, face);
    if (made.light instanceof SpotLight || made.light instanceof DirectionalLight) this.scene.add(made.light.target);
    return made;
  }

  private place({ light, face }: ShownLight, lit: TableauLight): void {
    const { matrix, radiance, width, height, cone, angle } = lit;
    const emitter = EMITTERS[lit.kind];
    const peak = Math.max(...radiance, 1e-6);
    light.color.setRGB(radiance[0] / peak, radiance[1] / peak, radiance[2] / peak);
    const at = new Vector3(matrix[12], matrix[13], matrix[14]);
    const ahead = at.clone().sub(new Vector3(matrix[8], matrix[9], matrix[10]));
    if (light instanceof RectAreaLight) {
      light.intensity = peak;
      light.width = width;
      light.height = height;
      light.matrixAutoUpdate = false;
      light.matrix.fromArray(matrix);
    } else if (light instanceof SpotLight && cone) {
      light.intensity = peak * emitter.projectedArea(lit);
      light.angle = Math.min(1.5, cone.outer);
      light.penumbra = 1 - cone.inner / cone.outer;
      light.position.copy(at);
      light.target.position.copy(ahead);
    } else if (light instanceof DirectionalLight) {
      light.intensity = peak * 2 * Math.PI * (1 - Math.cos((angle ?? 0.01) / 2));
      light.position.copy(at);
      light.target.position.copy(ahead);
    } else {
      light.intensity = peak * emitter.projectedArea(lit);
      light.position.copy(at);
    }
    const half = emitter.half(lit) ?? [0.03, 0.03];
    face.matrix.fromArray(matrix).multiply(new Matrix4().makeScale(2 * half[0], 2 * half[1], 1));
  }

  private remove(id: string, { light, face }: ShownLight): void {
    this.scene.remove(light, face);
    if (light instanceof SpotLight || light instanceof DirectionalLight) this.scene.remove(light.target);
    light.dispose();
    face.geometry.dispose();
    (face.material as MeshBasicMaterial).dispose();
    this.shown.delete(id);
  }
}

function make(kind: Kind): Light {
  switch (kind) {
    case 'area':
      return new RectAreaLight();
    case 'spot':
      return new SpotLight();
    case 'point':
      return new PointLight();
    case 'sun':
      return new DirectionalLight();
  }
}

function ringGeometry(): BufferGeometry {
  return new RingGeometry(0.47, 0.5, 40);
}

/** A frame round the unit square: the outline of a panel. */
function panelGeometry(): BufferGeometry {
  const a = 0.5;
  const b = 0.47;
  const outer = [-a, -a, 0, a, -a, 0, a, a, 0, -a, a, 0];
  const inner = [-b, -b, 0, b, -b, 0, b, b, 0, -b, b, 0];
  const index = [0, 1, 2, 3].flatMap((i) => {
    const j = (i + 1) % 4;
    return [i, j, j + 4, i, j + 4, i + 4, j, i, j + 4, j + 4, i, i + 4];
  });
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from([...outer, ...inner]), 3));
  geometry.setIndex(index);
  return geometry;
}
