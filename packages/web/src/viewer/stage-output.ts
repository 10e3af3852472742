import {
  Color,
  HalfFloatType,
  ShaderMaterial,
  WebGLRenderTarget,
  type PerspectiveCamera,
  type Scene,
  type ToneMapping,
  type WebGLRenderer,
} from 'three';
import { FullScreenQuad } from 'three/examples/jsm/postprocessing/Pass.js';

/** Handles are no part of the picture: they lie on this layer alone and are drawn over it. */
export const OVERLAY = 2;
/** The viewer's ground where nothing stands. */
const GROUND = new Color(0x2b2b2b);

/**
 * The picture is drawn in linear light, whatever is laid over it is added there, and only then it goes through the view
 * transform: one program a finish serves the picture, its mirror image and what is seen through a filling.
 */
export class StageOutput {
  private readonly smooth = new WebGLRenderTarget(4, 4, { type: HalfFloatType, samples: 4 });
  /** Smoothed edges take half of the time where a processor draws: they wait until things rest. */
  private readonly quick = new WebGLRenderTarget(4, 4, { type: HalfFloatType });
  private readonly develop = new FullScreenQuad(developMaterial());

  draw(
    renderer: WebGLRenderer,
    [scene, ...over]: readonly Scene[],
    camera: PerspectiveCamera,
    { view, exposure, moving }: { view: ToneMapping; exposure: number; moving: boolean },
  ): void {
    const { width, height } = renderer.domElement;
    const linear = moving ? this.quick : this.smooth;
    if (linear.width !== width || linear.height !== height) linear.setSize(width, height);
    renderer.setRenderTarget(linear);
    renderer.setClearColor(0, 0);
    renderer.clear();
    renderer.render(scene, camera);
    renderer.autoClear = false;
    for (const layer of over) renderer.render(layer, camera);
    renderer.setRenderTarget(null);
    renderer.toneMapping = view;
    renderer.toneMappingExposure = exposure;
    (this.develop.material as ShaderMaterial).uniforms.image.value = linear.texture;
    this.develop.render(renderer);
    renderer.clearDepth();
    camera.layers.set(OVERLAY);
    renderer.render(scene, camera);
    renderer.autoClear = true;
    camera.layers.set(0);
  }

  dispose(): void {
    this.smooth.dispose();
    this.quick.dispose();
    (this.develop.material as ShaderMaterial).dispose();
    this.develop.dispose();
  }
}

function developMaterial(): ShaderMaterial {
  return new ShaderMaterial({
    depthTest: false,
    depthWrite: false,
    uniforms: { image: { value: null }, ground: { value: GROUND } },
    vertexShader: /* glsl */ `
      varying vec2 vUv;
      void main() {
        vUv = uv;
        gl_Position = vec4( position.xy, 0.0, 1.0 );
      }`,
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
