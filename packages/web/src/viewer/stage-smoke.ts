import {
  BoxGeometry,
  BufferAttribute,
  BufferGeometry,
  CustomBlending,
  Data3DTexture,
  DoubleSide,
  EdgesGeometry,
  GLSL3,
  LinearFilter,
  LineBasicMaterial,
  LineSegments,
  Matrix4,
  Mesh,
  OneFactor,
  OneMinusSrcAlphaFactor,
  RedFormat,
  RGBAFormat,
  Scene,
  ShaderMaterial,
  UnsignedByteType,
  Vector3,
  type PerspectiveCamera,
} from 'three';
import type { Tableau, TableauVolume } from '@tender-orbit/core/scene';
import { lightSmoke } from '@tender-orbit/core/simulate';

/** Slices through a volume while things move, and when they rest. */
const QUICK = 24;
const FULL = 56;
/** Corners that a slice through a box has at most. */
const CORNERS = 6;
/** Colour of effects, in the domain's outline. */
const VIOLET = '#A88BEB';

interface Shown {
  /** What it was made of. */
  density: Float32Array;
  colours?: Uint32Array;
  lit: string;
  mesh: Mesh<BufferGeometry, ShaderMaterial>;
}

/**
 * Smoke as the viewer draws it: slices through its grid, square to the view, the farthest first, over the picture of the set and
 * hidden by what stands before them. How it is lit is worked out on few cells.
 */
export class StageSmoke {
  readonly scene = new Scene();
  private shown: Shown[] = [];
  private readonly lines = new LineBasicMaterial({ color: VIOLET, toneMapped: false });
  /** Outline of the domain in hand; it belongs to the handles' layer. */
  readonly outline = new LineSegments(new EdgesGeometry(new BoxGeometry(1, 1, 1).translate(0.5, 0.5, 0.5)), this.lines);

  constructor() {
    this.outline.matrixAutoUpdate = false;
    this.outline.visible = false;
  }

  show(tableau: Tableau, clay: boolean): void {
    const { volumes } = tableau;
    while (this.shown.length > volumes.length) this.drop(this.shown.pop()!);
    volumes.forEach((volume, i) => {
      if (!volume.grid) return;
      const plain = clay
        ? {
            ...volume,
            colour: [0.8, 0.8, 0.8] as TableauVolume['colour'],
            grid: { ...volume.grid, colours: undefined },
          }
        : volume;
      const lit = JSON.stringify([tableau.lights, tableau.environment, plain.colour, plain.extinction]);
      const known = this.shown[i] ?? this.make();
      this.shown[i] = known;
      const { density, colours } = plain.grid!;
      if (known.density !== density || known.colours !== colours || known.lit !== lit) this.fill(known, plain, tableau);
      known.density = density;
      known.colours = colours;
      known.lit = lit;
      known.mesh.matrix.fromArray(volume.matrix);
    });
  }

  private make(): Shown {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(new Float32Array(FULL * CORNERS * 3), 3));
    const mesh = new Mesh(geometry, smokeMaterial());
    mesh.matrixAutoUpdate = false;
    mesh.frustumCulled = false;
    this.scene.add(mesh);
    return { density: new Float32Array(0), lit: '', mesh };
  }

  private fill({ mesh }: Shown, volume: TableauVolume, tableau: Tableau): void {
    const { size, density } = volume.grid!;
    const { uniforms } = mesh.material;
    let most = 1e-9;
    for (let i = 0; i < density.length; i++) if (density[i] > most) most = density[i];
    const bytes = new Uint8Array(density.length);
    for (let i = 0; i < density.length; i++) bytes[i] = Math.round((255 * density[i]) / most);
    swap(uniforms.density, texture(bytes, size, RedFormat));
    const lit = lightSmoke(volume, tableau);
    swap(uniforms.light, texture(lit.light, lit.size, RGBAFormat));
    uniforms.extinction.value = volume.extinction * most;
    uniforms.bright.value = lit.most;
  }

  /** Turns the slices to the camera. */
  face(camera: PerspectiveCamera, moving: boolean): void {
    const count = moving ? QUICK : FULL;
    const axis = new Vector3(0, 0, -1).transformDirection(camera.matrixWorld);
    for (const { mesh } of this.shown) {
      const step = slice(mesh.geometry, mesh.matrix, axis, count);
      mesh.material.uniforms.step.value = step;
    }
  }

  /** Shows where a domain is; null for none. */
  showDomain(matrix: readonly number[] | null): void {
    this.outline.visible = matrix !== null;
    if (matrix) this.outline.matrix.fromArray(matrix);
    this.outline.matrixWorldNeedsUpdate = true;
  }

  private drop({ mesh }: Shown): void {
    this.scene.remove(mesh);
    mesh.geometry.dispose();
    const { density, light } = mesh.material.uniforms;
    (density.value as Data3DTexture | null)?.dispose();
    (light.value as Data3DTexture | null)?.dispose();
    mesh.material.dispose();
  }

  dispose(): void {
    this.shown.forEach((shown) => this.drop(shown));
    this.shown = [];
    this.lines.dispose();
    this.outline.geometry.dispose();
  }
}

function swap(uniform: { value: unknown }, made: Data3DTexture): void {
  (uniform.value as Data3DTexture | null)?.dispose();
  uniform.value = made;
}

function texture(
  data: Uint8Array,
  size: readonly number[],
  format: typeof RedFormat | typeof RGBAFormat,
): Data3DTexture {
  const made = new Data3DTexture(new Uint8Array(data), size[0], size[1], size[2]);
  made.format = format;
  made.type = UnsignedByteType;
  made.minFilter = made.magFilter = LinearFilter;
  made.unpackAlignment = 1;
  made.needsUpdate = true;
  return made;
}

const EDGES: ReadonlyArray<readonly [number, number]> = [
  ...([
    [0, 1],
    [2, 3],
    [4, 5],
    [6, 7],
  ] as const),
  ...([
    [0, 2],
    [1, 3],
    [4, 6],
    [5, 7],
  ] as const),
  ...([
    [0, 4],
    [1, 5],
    [2, 6],
    [3, 7],
  ] as const),
];
const corner = (n: number): Vector3 => new Vector3(n & 1, (n >> 1) & 1, n >> 2);

/** Cuts the unit cube, as it lies in the world, by planes square to an axis. @returns metres between them. */
function slice(geometry: BufferGeometry, matrix: Matrix4, axis: Vector3, count: number): number {
  const corners = Array.from({ length: 8 }, (_, n) => corner(n));
  const along = corners.map((c) => c.clone().applyMatrix4(matrix).dot(axis));
  const [near, far] = [Math.min(...along), Math.max(...along)];
  const step = (far - near) / count;
  const position = geometry.getAttribute('position') as BufferAttribute;
  const indices: number[] = [];
  let vertex = 0;
  const right = new Vector3(axis.y, axis.z, -axis.x).cross(axis).normalize();
  const up = axis.clone().cross(right);
  for (let s = 0; s < count; s++) {
    const at = far - (s + 0.5) * step;
    const points: Vector3[] = [];
    for (const [a, b] of EDGES) {
      const [p, q] = [along[a] - at, along[b] - at];
      if (p < 0 === q < 0) continue;
      points.push(corners[a].clone().lerp(corners[b], p / (p - q)));
    }
    if (points.length < 3) continue;
    const middle = points.reduce((sum, p) => sum.add(p), new Vector3()).divideScalar(points.length);
    const angle = (p: Vector3): number => {
      const world = p.clone().sub(middle).transformDirection(matrix);
      return Math.atan2(world.dot(up), world.dot(right));
    };
    points.sort((p, q) => angle(p) - angle(q));
    points.slice(0, CORNERS).forEach((p, i) => {
      position.setXYZ(vertex + i, p.x, p.y, p.z);
      if (i > 1) indices.push(vertex, vertex + i - 1, vertex + i);
    });
    vertex += Math.min(CORNERS, points.length);
  }
  position.needsUpdate = true;
  geometry.setIndex(indices);
  return step;
}

function smokeMaterial(): ShaderMaterial {
  return new ShaderMaterial({
    glslVersion: GLSL3,
    side: DoubleSide,
    transparent: true,
    depthWrite: false,
    toneMapped: false,
    blending: CustomBlending,
    blendSrc: OneFactor,
    blendDst: OneMinusSrcAlphaFactor,
    blendSrcAlpha: OneFactor,
    blendDstAlpha: OneMinusSrcAlphaFactor,
    uniforms: {
      density: { value: null },
      light: { value: null },
      extinction: { value: 0 },
      bright: { value: 1 },
      step: { value: 0.01 },
    },
    vertexShader: /* glsl */ `
      out vec3 place;
      void main() {
        place = position;
        gl_Position = projectionMatrix * modelViewMatrix * vec4( position, 1.0 );
      }`,
    fragmentShader: /* glsl */ `
      precision highp sampler3D;
      uniform sampler3D density;
      uniform sampler3D light;
      uniform float extinction;
      uniform float bright;
      uniform float step;
      in vec3 place;
      out vec4 colour;
      void main() {
        float thick = texture( density, place ).r * extinction * step;
        if ( thick < 0.0005 ) discard;
        float hidden = 1.0 - exp( - thick );
        colour = vec4( texture( light, place ).rgb * bright * hidden, hidden );
      }`,
  });
}
