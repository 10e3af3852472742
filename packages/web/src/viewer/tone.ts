import { CustomToneMapping, LinearToneMapping, NeutralToneMapping, ShaderChunk, type ToneMapping } from 'three';
import type { ViewTransform } from '@tender-orbit/core/document';

// The same curve as filmic() in core/picture, which takes and the traced view go through.
ShaderChunk.tonemapping_pars_fragment = ShaderChunk.tonemapping_pars_fragment.replace(
  'vec3 CustomToneMapping( vec3 color ) { return color; }',
  `vec3 CustomToneMapping( vec3 color ) {
    color *= toneMappingExposure;
    vec3 v = ( color * 0.94 + ( color.r + color.g + color.b ) / 3.0 * 0.06 ) * 0.8;
    return min( vec3( 1.0 ), ( v * ( 2.51 * v + 0.03 ) ) / ( v * ( 2.43 * v + 0.59 ) + 0.14 ) );
  }`,
);

/** What three.js calls each view transform. */
export const TONE: Record<ViewTransform, ToneMapping> = {
  neutral: NeutralToneMapping,
  filmic: CustomToneMapping,
  plain: LinearToneMapping,
};
