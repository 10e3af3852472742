import {
  AddEquation,
  Box3,
  CustomBlending,
  DepthTexture,
  DoubleSide,
  HalfFloatType,
  Matrix4,
  Mesh,
  OneFactor,
  OneMinusSrcAlphaFactor,
  OrthographicCamera,
  PerspectiveCamera,
  PlaneGeometry,
  ShaderMaterial,
  Vector3,
  WebGLRenderTarget,
  type Scene,
  type WebGLRenderer,
} from 'three';
import { FullScreenQuad } from 'three/examples/jsm/postprocessing/Pass.js';
import type { TableauSurface } from '@tender-orbit/core/scene';

/** Things that touch the floor and are mirrored by it lie on this layer too. */
export const STANDING = 1;
/** Contact is felt up to this height, metres. */
const REACH = 0.035;
const CONTACT_SIZE = 256;
/** Lifts what is laid over the floor off it. */
const LIFT = 0.0009;
/** A floor blurrier than this shows no mirror image that could be told from its sheen. */
const MATT = 0.5;

const FLAT = /* glsl */ `
  varying vec2 vUv;
  void main() {
    vUv = uv;
    gl_Position = vec4( position.xy, 0.0, 1.0 );
  }`;

/** Where things meet the floor it is dark; and a floor that is glossy, or has the artist's mirror, mirrors them. */
export class StageGround {
  private readonly contact = [0, 1].map(() => new WebGLRenderTarget(CONTACT_SIZE, CONTACT_SIZE));
  private readonly image = new WebGLRenderTarget(4, 4, { type: HalfFloatType, depthTexture: new DepthTexture(4, 4) });
  private readonly below = new OrthographicCamera(-1, 1, 1, -1, 0, REACH);
  private readonly mirrored = new PerspectiveCamera();
  private readonly heights = heightMaterial();
  private readonly blur = new FullScreenQuad(blurMaterial());
  private readonly plane = new Mesh(new PlaneGeometry(1, 1).rotateX(-Math.PI / 2), floorMaterial());
  private floor: TableauSurface | undefined;
  private drawnFor = '';
  private wanted = false;

  constructor(private readonly scene: Scene) {
    this.below.layers.set(STANDING);
    this.mirrored.layers.set(STANDING);
    this.plane.renderOrder = 1;
    scene.add(this.plane);
  }

  /**
   * @param floor what things stand on; undefined for none, @param box round what stands there.
   * @param key changes with anything that the contact depends on.
   */
  show(renderer: WebGLRenderer, floor: TableauSurface | undefined, box: Box3, key: string): void {
    this.floor = floor;
    this.wanted = this.plane.visible = floor !== undefined && !box.isEmpty();
    if (!this.wanted) return;
    const centre = box.getCenter(new Vector3());
    const size = box.getSize(new Vector3());
    const side = Math.max(size.x, size.z) + 4 * REACH;
    // Higher for large things: from afar depths are told apart less well.
    this.plane.position.set(centre.x, LIFT * Math.max(1, size.length()), centre.z);
    this.plane.scale.set(side, 1, side);
    if (this.drawnFor === key) return;
    this.drawnFor = key;
    this.drawContact(renderer, centre, side);
  }

  /** Whether what lies over the floor is drawn where there is something. */
  set shown(on: boolean) {
    this.plane.visible = on && this.wanted;
  }

  /** The mirror image as the camera sees it; without `camera` the floor goes without until things rest. */
  mirror(renderer: WebGLRenderer, camera: PerspectiveCamera | null, width: number, height: number): void {
    const { uniforms } = this.plane.material;
    const strength = this.floor ? strengthOf(this.floor) : 0;
    const shown = camera !== null && this.plane.visible && strength > 0.01 && camera.position.y > 0.01;
    uniforms.strength.value = shown ? strength : 0;
    if (!shown || !this.floor) return;
    const soft =
      this.floor.mirror && this.floor.mirror.strength > 0 ? this.floor.mirror.blur : this.floor.finish.roughness;
    uniforms.blur.value = soft;
    uniforms.reach.value = this.floor.mirror?.reach || 0.4;
    this.image.setSize(Math.max(4, Math.round(width / 2)), Math.max(4, Math.round(height / 2)));
    reflect(camera, this.mirrored);
    const matrix = new Matrix4().multiplyMatrices(this.mirrored.projectionMatrix, this.mirrored.matrixWorldInverse);
    (uniforms.toImage.value as Matrix4).copy(matrix);
    (uniforms.fromImage.value as Matrix4).copy(matrix).invert();
    (uniforms.eye.value as Vector3).copy(camera.position);
    uniforms.image.value = this.image.texture;
    uniforms.depths.value = this.image.depthTexture;
    this.drawTo(renderer, this.image, () => renderer.render(this.scene, this.mirrored));
  }

  dispose(): void {
    for (const target of [...this.contact, this.image]) target.dispose();
    this.image.depthTexture?.dispose();
    for (const material of [this.heights, this.blur.material as ShaderMaterial, this.plane.material])
      material.dispose();
    this.blur.dispose();
    this.plane.geometry.dispose();
  }

  /** How near things come to the floor, seen from below, then blurred both ways. */
  private drawContact(renderer: WebGLRenderer, centre: Vector3, side: number): void {
    Object.assign(this.below, { left: -side / 2, right: side / 2, top: side / 2, bottom: -side / 2 });
    this.below.position.set(centre.x, 0, centre.z);
    this.below.up.set(0, 0, 1);
    this.below.lookAt(centre.x, 1, centre.z);
    this.below.updateProjectionMatrix();
    const [sharp, half] = this.contact;
    this.drawTo(renderer, sharp, () => {
      this.scene.overrideMaterial = this.heights;
      renderer.render(this.scene, this.below);
      this.scene.overrideMaterial = null;
    });
    const { uniforms } = this.blur.material as ShaderMaterial;
    const step = (REACH * 0.22) / side;
    for (const [from, to, x, y] of [
      [sharp, half, step, 0],
      [half, sharp, 0, step],
    ] as const) {
      uniforms.image.value = from.texture;
      uniforms.along.value = [x, y];
      this.drawTo(renderer, to, () => this.blur.render(renderer));
    }
    this.plane.material.uniforms.contact.value = sharp.texture;
  }

  private drawTo(renderer: WebGLRenderer, target: WebGLRenderTarget, draw: () => void): void {
    const { visible } = this.plane;
    this.plane.visible = false;
    renderer.setRenderTarget(target);
    renderer.setClearColor(0, 0);
    renderer.clear();
    draw();
    renderer.setRenderTarget(null);
    this.plane.visible = visible;
  }
}

/** Share of light that comes back straight: the artist's mirror, or what gloss there is when seen at a slant. */
function strengthOf({ mirror, finish, catcher }: TableauSurface): number {
  const gloss = Math.max(0, 1 - finish.roughness / MATT);
  const metal = finish.metallic * Math.max(...finish.baseColor);
  const own = catcher ? 0 : gloss * gloss * (0.06 * (1 - finish.metallic) + metal);
  return Math.min(1, (mirror?.strength ?? 0) + own);
}

/** The camera that sees from under the floor what the floor shows `from`. */
function reflect(from: PerspectiveCamera, to: PerspectiveCamera): void {
  const ahead = from.getWorldDirection(new Vector3());
  const up = new Vector3(0, 1, 0).transformDirection(from.matrixWorld);
  to.position.set(from.position.x, -from.position.y, from.position.z);
  to.up.set(-up.x, up.y, -up.z);
  to.lookAt(to.position.x + ahead.x, to.position.y - ahead.y, to.position.z + ahead.z);
  to.updateMatrixWorld();
  to.projectionMatrix.copy(from.projectionMatrix);
  to.projectionMatrix.elements[9] *= -1;
  to.projectionMatrixInverse.copy(to.projectionMatrix).invert();
}

function heightMaterial(): ShaderMaterial {
  return new ShaderMaterial({
    side: DoubleSide,
    vertexShader: /* glsl */ `
      varying float height;
      void main() {
        vec4 world = modelMatrix * vec4( position, 1.0 );
        height = world.y;
        gl_Position = projectionMatrix * viewMatrix * world;
      }`,
    fragmentShader: /* glsl */ `
      varying float height;
      void main() {
        float near = 1.0 - clamp( height / ${REACH.toFixed(3)}, 0.0, 1.0 );
        gl_FragColor = vec4( near * near );
      }`,
  });
}

function blurMaterial(): ShaderMaterial {
  return new ShaderMaterial({
    uniforms: { image: { value: null }, along: { value: [0, 0] } },
    vertexShader: FLAT,
    fragmentShader: /* glsl */ `
      uniform sampler2D image;
      uniform vec2 along;
      varying vec2 vUv;
      void main() {
        float sum = 0.0;
        float weights = 0.0;
        for ( int i = -4; i <= 4; i++ ) {
          float w = exp( -0.12 * float( i * i ) );
          sum += w * texture2D( image, vUv + along * float( i ) * 0.5 ).r;
          weights += w;
        }
        gl_FragColor = vec4( sum / weights );
      }`,
  });
}

/**
 * Laid over the floor: darkness of contact, and the mirror image, softer and fainter the further from the floor what it
 * shows (taps on a sunflower's spiral; a tap counts when what it finds is blurred as far as this).
 */
function floorMaterial(): ShaderMaterial {
  return new ShaderMaterial({
    transparent: true,
    depthWrite: false,
    blending: CustomBlending,
    blendEquation: AddEquation,
    blendSrc: OneFactor,
    blendDst: OneMinusSrcAlphaFactor,
    uniforms: {
      contact: { value: null },
      image: { value: null },
      depths: { value: null },
      toImage: { value: new Matrix4() },
      fromImage: { value: new Matrix4() },
      eye: { value: new Vector3() },
      strength: { value: 0 },
      blur: { value: 0 },
      reach: { value: 0.4 },
    },
    vertexShader: /* glsl */ `
      varying vec2 vUv;
      varying vec3 place;
      void main() {
        vUv = uv;
        vec4 world = modelMatrix * vec4( position, 1.0 );
        place = world.xyz;
        gl_Position = projectionMatrix * viewMatrix * world;
      }`,
    fragmentShader: /* glsl */ `
      #include <common>
      uniform sampler2D contact;
      uniform sampler2D image;
      uniform sampler2D depths;
      uniform mat4 toImage;
      uniform mat4 fromImage;
      uniform vec3 eye;
      uniform float strength;
      uniform float blur;
      uniform float reach;
      varying vec2 vUv;
      varying vec3 place;
      const int TAPS = 12;
      void main() {
        // Seen from below the map is the right way round along x and turned along z.
        float dark = 0.72 * texture2D( contact, vec2( 1.0 - vUv.x, 1.0 - vUv.y ) ).r;
        vec3 light = vec3( 0.0 );
        float cover = 0.0;
        if ( strength > 0.0 ) {
          vec4 at = toImage * vec4( place, 1.0 );
          vec2 middle = at.xy / at.w * 0.5 + 0.5;
          float scale = blur / distance( eye, place );
          float counted = 0.0;
          for ( int i = 0; i < TAPS; i++ ) {
            float r = sqrt( float( i ) / float( TAPS ) );
            float turn = float( i ) * 2.399963;
            vec2 spot = middle + r * 0.2 * scale * vec2( cos( turn ), sin( turn ) ) * 0.5;
            vec4 found = texture2D( image, spot );
            vec4 world = fromImage * vec4( spot * 2.0 - 1.0, texture2D( depths, spot ).r * 2.0 - 1.0, 1.0 );
            float height = found.a > 0.0 ? max( 0.0, world.y / world.w ) : reach;
            if ( r * 0.2 > height * 1.6 + 0.004 ) continue;
            float fade = max( 0.0, 1.0 - height / reach );
            light += found.rgb * fade * fade;
            cover += found.a * fade * fade;
            counted += 1.0;
          }
          light *= strength / max( 1.0, counted );
          cover *= strength / max( 1.0, counted );
        }
        gl_FragColor = vec4( light, max( dark, cover * 0.35 ) );
      }`,
  });
}
