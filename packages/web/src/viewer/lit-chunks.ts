import { ShaderChunk } from 'three';

/**
 * Lights that shine from a point or along one way: in one loop for all kinds, with one copy of what a finish makes of a light. Dark ones
 * only fill up the list. None of them throws a shadow on a finish.
 */
const POINTS = /* glsl */ `
#if ( NUM_POINT_LIGHTS + NUM_SPOT_LIGHTS + NUM_DIR_LIGHTS > 0 ) && defined( RE_Direct )
  for ( int i = 0; i < NUM_POINT_LIGHTS + NUM_SPOT_LIGHTS + NUM_DIR_LIGHTS; i ++ ) {
    directLight.color = vec3( 0.0 );
    #if NUM_POINT_LIGHTS > 0
      if ( i < NUM_POINT_LIGHTS ) getPointLightInfo( pointLights[ i ], geometryPosition, directLight );
    #endif
    #if NUM_SPOT_LIGHTS > 0
      if ( i >= NUM_POINT_LIGHTS && i < NUM_POINT_LIGHTS + NUM_SPOT_LIGHTS )
        getSpotLightInfo( spotLights[ i - NUM_POINT_LIGHTS ], geometryPosition, directLight );
    #endif
    #if NUM_DIR_LIGHTS > 0
      if ( i >= NUM_POINT_LIGHTS + NUM_SPOT_LIGHTS )
        getDirectionalLightInfo( directionalLights[ i - NUM_POINT_LIGHTS - NUM_SPOT_LIGHTS ], directLight );
    #endif
    if ( directLight.color == vec3( 0.0 ) ) continue;
    RE_Direct(
      directLight, geometryPosition, geometryNormal, geometryViewDir, geometryClearcoatNormal, material, reflectedLight );
  }
#endif
`;

/**
 * Panels light finishes by linearly transformed cosines (Heitz et al. 2016) as three.js has them, in other words: what does not depend on
 * the panel is worked out once a pixel, and panels are gone through by a loop that stays one. Unrolled, each panel adds its code to every
 * program: a program's compiling, not its running, is what the first picture waits for.
 */
const PANELS = /* glsl */ `
#if ( NUM_RECT_AREA_LIGHTS > 0 ) && defined( RE_Direct_RectArea )
  vec3 panelAcross = normalize( geometryViewDir - geometryNormal * dot( geometryViewDir, geometryNormal ) );
  mat3 panelFrame = transpose( mat3( panelAcross, - cross( geometryNormal, panelAcross ), geometryNormal ) );
  vec2 panelUv = LTC_Uv( geometryNormal, geometryViewDir, material.roughness );
  vec4 panelLobe = texture2D( ltc_1, panelUv );
  vec4 panelShare = texture2D( ltc_2, panelUv );
  mat3 panelGloss = mat3( panelLobe.x, 0.0, panelLobe.y, 0.0, 1.0, 0.0, panelLobe.z, 0.0, panelLobe.w ) * panelFrame;
  vec3 panelFresnel =
    material.specularColorBlended * panelShare.x + ( material.specularF90 - material.specularColorBlended ) * panelShare.y;
  #ifdef USE_CLEARCOAT
    vec3 coatAcross =
      normalize( geometryViewDir - geometryClearcoatNormal * dot( geometryViewDir, geometryClearcoatNormal ) );
    vec2 coatUv = LTC_Uv( geometryClearcoatNormal, geometryViewDir, material.clearcoatRoughness );
    vec4 coatLobe = texture2D( ltc_1, coatUv );
    vec4 coatShare = texture2D( ltc_2, coatUv );
    mat3 coatGloss = mat3( coatLobe.x, 0.0, coatLobe.y, 0.0, 1.0, 0.0, coatLobe.z, 0.0, coatLobe.w )
      * transpose( mat3( coatAcross, - cross( geometryClearcoatNormal, coatAcross ), geometryClearcoatNormal ) );
    vec3 coatFresnel =
      material.clearcoatF0 * coatShare.x + ( material.clearcoatF90 - material.clearcoatF0 ) * coatShare.y;
  #endif
  for ( int i = 0; i < NUM_RECT_AREA_LIGHTS; i ++ ) {
    RectAreaLight panel = rectAreaLights[ i ];
    vec3 middle = panel.position - geometryPosition;
    // Panels shine from their fronts; dark ones only fill up the list.
    if ( panel.color == vec3( 0.0 ) ||  dot( cross( panel.halfWidth, panel.halfHeight ), middle ) <= 0.0 ) continue;
    vec3 first = middle + panel.halfWidth - panel.halfHeight;
    vec3 second = middle - panel.halfWidth - panel.halfHeight;
    vec3 third = middle - panel.halfWidth + panel.halfHeight;
    vec3 last = middle + panel.halfWidth + panel.halfHeight;
    reflectedLight.directSpecular += panel.color * panelFresnel
      * panelForm( vec3( 0.0, 0.0, 1.0 ), panelGloss * first, panelGloss * second, panelGloss * third, panelGloss * last );
    reflectedLight.directDiffuse +=
      panel.color * material.diffuseContribution * panelForm( - geometryNormal, first, second, third, last );
    #ifdef USE_CLEARCOAT
      clearcoatSpecularDirect += panel.color * coatFresnel
        * panelForm( vec3( 0.0, 0.0, 1.0 ), coatGloss * first, coatGloss * second, coatGloss * third, coatGloss * last );
    #endif
  }
#endif
`;

/** How much of the light of a panel comes in about a way up; that is turned round where corners are not in the left-handed frame of a finish. */
const PANEL_FORM = /* glsl */ `
float panelForm( const in vec3 up, const in vec3 first, const in vec3 second, const in vec3 third, const in vec3 last ) {
  vec3 a = normalize( first );
  vec3 b = normalize( second );
  vec3 c = normalize( third );
  vec3 d = normalize( last );
  vec3 form = LTC_EdgeVectorFormFactor( a, b ) + LTC_EdgeVectorFormFactor( b, c ) + LTC_EdgeVectorFormFactor( c, d )
    + LTC_EdgeVectorFormFactor( d, a );
  float far = length( form );
  // As LTC_ClippedSphereFormFactor has it, for any way up.
  return max( ( far * far + dot( form, up ) ) / ( far + 1.0 ), 0.0 );
}
`;

const begin = ShaderChunk.lights_fragment_begin;
const from = begin.indexOf('#if ( NUM_POINT_LIGHTS > 0 )');
const to = begin.indexOf('#if defined( RE_IndirectDiffuse )');
ShaderChunk.lights_fragment_begin = begin.slice(0, from) + POINTS + PANELS + begin.slice(to);
ShaderChunk.lights_physical_pars_fragment += PANEL_FORM;

/** The room lights by its harmonics, which the one light probe has; there is no other light from everywhere. */
const IRRADIANCE = 'iblIrradiance += getLightProbeIrradiance( lightProbe, geometryNormal );';
ShaderChunk.lights_fragment_begin = ShaderChunk.lights_fragment_begin.replace(
  'irradiance += getLightProbeIrradiance( lightProbe, geometryNormal );',
  '',
);
ShaderChunk.lights_fragment_maps = ShaderChunk.lights_fragment_maps.replace(
  'iblIrradiance += getIBLIrradiance( geometryNormal );',
  IRRADIANCE,
);
ShaderChunk.lights_fragment_end = ShaderChunk.lights_fragment_end.replace(/\n\tRE_IndirectDiffuse\(.*\);/, '');
