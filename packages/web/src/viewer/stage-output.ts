import {
  Color,
  ConstantAlphaFactor,
  CustomBlending,
  HalfFloatType,
  LinearMipmapLinearFilter,
  OneMinusConstantAlphaFactor,
  ShaderMaterial,
  WebGLRenderTarget,
  type PerspectiveCamera,
  type Scene,
  type Texture,
  type ToneMapping,
  type WebGLRenderer,
} from 'three';
import { FullScreenQuad } from 'three/examples/jsm/postprocessing/Pass.js';

/** Handles are no part of the picture: they lie on this layer alone and are drawn over it. */
export const OVERLAY = 2;
/** The viewer's ground where nothing stands. */
const GROUND = new Color(0x2b2b2b);

/** Rows of eight that passes look into: those of any first few lie apart. */
const ROWS = [0, 4, 2, 6, 1, 5, 3, 7];
/** A picture that things rest in is the mean of so many, each moved by a part of a pixel: edges are smooth. */
export const PASSES = ROWS.length;
/** As many are enough where each takes long. */
export const FEW_PASSES = PASSES / 2;

/** Where in the pixel a pass looks, pixels from its middle: no two look into one row or column of eight. */
export function jitterOf(pass: number): [number, number] {
  const row = ROWS[pass];
  return [((row * 3) % PASSES) / PASSES + 1 / 16 - 0.5, row / PASSES + 1 / 16 - 0.5];
}

/** Which picture is drawn: a quick one, or one of those that a picture at rest is the mean of. */
export type Pass = number | 'quick';

/**
 * The picture is drawn in linear light, whatever is laid over it is added there, and only then it goes through the view transform. All
 * that is drawn goes into pictures of one kind: where a processor draws, a finish is compiled anew for each kind, and the first picture
 * waits for that.
 */
export class StageOutput {
  private readonly linear = new WebGLRenderTarget(4, 4, { type: HalfFloatType });
  private readonly mean = new WebGLRenderTarget(4, 4, { type: HalfFloatType, depthBuffer: false });
  /** What is seen through fillings, half as large. */
  private readonly behind = new WebGLRenderTarget(4, 4, {
    type: HalfFloatType,
    generateMipmaps: true,
    minFilter: LinearMipmapLinearFilter,
  });
  /** What fillings read it by. */
  readonly seenThrough: { value: Texture } = { value: this.behind.texture };
  private readonly develop = new FullScreenQuad(developMaterial());
  private readonly add = new FullScreenQuad(addMaterial());

  /** Draws what fillings let through: what is there without them and without what lies over it. */
  drawBehind(renderer: WebGLRenderer, scene: Scene, camera: PerspectiveCamera): void {
    const { width, height } = renderer.domElement;
    this.behind.setSize(Math.max(4, width >> 1), Math.max(4, height >> 1));
    renderer.setRenderTarget(this.behind);
    renderer.setClearColor(0, 0);
    renderer.clear();
    renderer.render(scene, camera);
    renderer.setRenderTarget(null);
  }

  draw(
    renderer: WebGLRenderer,
    [scene, ...over]: readonly Scene[],
    camera: PerspectiveCamera,
    { view, exposure, pass }: { view: ToneMapping; exposure: number; pass: Pass },
  ): void {
    const { width, height } = renderer.domElement;
    this.linear.setSize(width, height);
    renderer.setRenderTarget(this.linear);
    renderer.setClearColor(0, 0);
    renderer.clear();
    renderer.render(scene, camera);
    renderer.autoClear = false;
    for (const layer of over) renderer.render(layer, camera);
    if (pass !== 'quick') {
      this.mean.setSize(width, height);
      renderer.setRenderTarget(this.mean);
      if (pass === 0) renderer.clear();
      const material = this.add.material as ShaderMaterial;
      material.blendAlpha = 1 / (pass + 1);
      material.uniforms.image.value = this.linear.texture;
      this.add.render(renderer);
    }
    renderer.setRenderTarget(null);
    renderer.toneMapping = view;
    renderer.toneMappingExposure = exposure;
    const shown = pass === 'quick' ? this.linear : this.mean;
    (this.develop.material as ShaderMaterial).uniforms.image.value = shown.texture;
    this.develop.render(renderer);
    renderer.autoClear = true;
  }

  /** Draws handles over the picture. */
  drawOverlay(renderer: WebGLRenderer, scene: Scene, camera: PerspectiveCamera): void {
    renderer.autoClear = false;
    renderer.clearDepth();
    camera.layers.set(OVERLAY);
    renderer.render(scene, camera);
    renderer.autoClear = true;
    camera.layers.set(0);
  }

  dispose(): void {
    for (const target of [this.linear, this.mean, this.behind]) target.dispose();
    for (const quad of [this.develop, this.add]) {
      (quad.material as ShaderMaterial).dispose();
      quad.dispose();
    }
  }
}

const FLAT = /* glsl */ `
  varying vec2 vUv;
  void main() {
    vUv = uv;
    gl_Position = vec4( position.xy, 0.0, 1.0 );
  }`;

/** Brings a picture into a mean by its share. */
function addMaterial(): ShaderMaterial {
  return new ShaderMaterial({
    depthTest: false,
    depthWrite: false,
    transparent: true,
    blending: CustomBlending,
    blendSrc: ConstantAlphaFactor,
    blendDst: OneMinusConstantAlphaFactor,
    uniforms: { image: { value: null } },
    vertexShader: FLAT,
    // Half floats end here: what lies beyond would be all that is left of a mean.
    fragmentShader: /* glsl */ `
      uniform sampler2D image;
      varying vec2 vUv;
      void main() {
        gl_FragColor = clamp( texture2D( image, vUv ), 0.0, 60000.0 );
      }`,
  });
}

function developMaterial(): ShaderMaterial {
  return new ShaderMaterial({
    depthTest: false,
    depthWrite: false,
    uniforms: { image: { value: null }, ground: { value: GROUND } },
    vertexShader: FLAT,
    fragmentShader: /* glsl */ `
      uniform sampler2D image;
      uniform vec3 ground;
      varying vec2 vUv;
      void main() {
        vec4 light = texture2D( image, vUv );
        // Half floats end here, and no curve knows what to do with what lies beyond.
        // Where an unlit edge is smoothed, its small numbers are lost among the scene's: what lies behind is shown whole.
        float unlit = clamp( light.a - 1.0, 0.0, 1.0 );
        gl_FragColor = vec4( clamp( light.rgb / max( 1.0 - unlit, 0.2 ), 0.0, 60000.0 ), 1.0 );
        #include <tonemapping_fragment>
        // Unlit finishes are colours of the display already; they are marked by what no cover can be.
        if ( unlit > 0.99 ) gl_FragColor.rgb = clamp( light.rgb, 0.0, 1.0 );
        gl_FragColor.rgb = mix( ground, gl_FragColor.rgb, clamp( light.a, 0.0, 1.0 ) );
        #include <colorspace_fragment>
      }`,
  });
}
