import './lit-chunks.ts';
import {
  Color,
  CustomBlending,
  DoubleSide,
  FrontSide,
  MeshBasicMaterial,
  MeshPhysicalMaterial,
  MirroredRepeatWrapping,
  ClampToEdgeWrapping,
  RepeatWrapping,
  SRGBColorSpace,
  NoColorSpace,
  OneFactor,
  OneMinusSrcAlphaFactor,
  Texture,
  Vector2,
  type IUniform,
  type Material,
  type MeshBasicMaterialParameters,
} from 'three';
import type { Finish, TextureUse, TextureWrap } from '@tender-orbit/core/finish';

const WRAP = { repeat: RepeatWrapping, mirror: MirroredRepeatWrapping, clamp: ClampToEdgeWrapping } satisfies Record<
  TextureWrap,
  unknown
>;

/** Finds the bitmap of a texture; none while it is not there yet. */
export type ImageLookup = (use: TextureUse) => ImageBitmap | undefined;

/** Whether a finish is a coloured filling, which has two looks. */
export function isFilling(finish: Finish): boolean {
  return !finish.unlit && finish.transmission > 0 && finish.attenuationDistance > 0;
}

/**
 * A finish as the viewer draws it.
 *
 * @param behind what fillings let through; without it they are solids of their colour, which are drawn in half the time
 * @param vertexColors whether the mesh has colours of its own, which multiply the finish's
 */
export function materialOf(
  finish: Finish,
  images: ImageLookup,
  { behind = null, vertexColors = false }: { behind?: IUniform<Texture> | null; vertexColors?: boolean } = {},
): Material {
  const texture = (use: TextureUse | undefined, colour: boolean): Texture | null => {
    const image = use && images(use);
    return image ? textureOf(use, image, colour) : null;
  };
  const color = new Color().setRGB(...finish.baseColor);
  const map = texture(finish.textures.baseColor, true);
  const side = finish.doubleSided ? DoubleSide : FrontSide;
  if (finish.unlit) return displayMaterial({ color, map, side, vertexColors });
  const material = new MeshPhysicalMaterial({
    color,
    map,
    side,
    vertexColors,
    metalness: finish.metallic,
    roughness: finish.roughness,
    ior: Math.min(2.333, finish.ior),
    specularIntensity: finish.specular,
    clearcoat: finish.clearcoat,
    clearcoatRoughness: finish.clearcoatRoughness,
    sheen: Math.max(...finish.sheenColor) > 0 ? 1 : 0,
    sheenColor: new Color().setRGB(...finish.sheenColor),
    sheenRoughness: finish.sheenRoughness,
    iridescence: finish.iridescence,
    iridescenceIOR: finish.iridescenceIor,
    iridescenceThicknessMinimum: finish.iridescenceThickness[0],
    iridescenceThicknessMaximum: finish.iridescenceThickness[1],
    anisotropy: finish.anisotropy,
    anisotropyRotation: finish.anisotropyRotation,
    emissive: new Color().setRGB(...finish.emissive),
    emissiveIntensity: finish.emissiveStrength,
    emissiveMap: texture(finish.textures.emissive, true),
    normalMap: texture(finish.textures.normal, false),
    roughnessMap: texture(finish.textures.metallicRoughness, false),
    metalnessMap: texture(finish.textures.metallicRoughness, false),
    transparent: finish.alphaMode === 'blend',
    opacity: finish.alpha,
    alphaTest: finish.alphaMode === 'mask' ? finish.alphaCutoff : 0,
  });
  if (finish.textures.normal)
    material.normalScale = new Vector2(finish.textures.normal.strength, finish.textures.normal.strength);
  // A label lies on what it is printed on, closer than depths can tell from afar.
  if (finish.alphaMode === 'blend')
    Object.assign(material, { polygonOffset: true, polygonOffsetFactor: -2, polygonOffsetUnits: -2 });
  if (isFilling(finish)) fill(material, finish, behind);
  else if (finish.transmission > 0) seeThrough(material, finish);
  return material;
}

/** What alpha stands for in the linear picture: up to 1 it covers, 2 is a colour of the display. */
const DISPLAY_ALPHA = '2.0';

/** An unlit finish is shown as it is: what develops the picture leaves its colour alone. */
function displayMaterial(values: MeshBasicMaterialParameters): Material {
  const material = new MeshBasicMaterial(values);
  material.onBeforeCompile = (shader) => {
    shader.fragmentShader = shader.fragmentShader.replace(
      '#include <dithering_fragment>',
      `gl_FragColor.a = ${DISPLAY_ALPHA};\n#include <dithering_fragment>`,
    );
  };
  return material;
}

/** How thick a filling counts as, metres: the viewer knows no lengths of paths. */
const FILLING = 0.045;
/** Light that has come in from all round, of what white would give, cd/m2. */
const GLOW = 40;

/** It bends and colours what lies behind it; what the lights throw in from all sides comes out in its colour. */
function fill(material: MeshPhysicalMaterial, finish: Finish, behind: IUniform<Texture> | null): void {
  const [r, g, b] = finish.attenuationColor.map((c) => Math.pow(c, (2 * FILLING) / finish.attenuationDistance));
  material.emissive.setRGB(r, g, b);
  material.emissiveIntensity = GLOW;
  if (!behind) {
    material.color.setRGB(r * 0.6, g * 0.6, b * 0.6);
    material.roughness = Math.max(0.12, finish.roughness);
    return;
  }
  const absorbed = finish.attenuationColor.map((c) => -Math.log(Math.max(1e-4, c)) / finish.attenuationDistance);
  material.onBeforeCompile = (shader) => {
    Object.assign(shader.uniforms, {
      ...{ behind, through: { value: finish.transmission }, absorbed: { value: absorbed } },
    });
    shader.fragmentShader = shader.fragmentShader
      .replace('#include <transmission_pars_fragment>', FILLING_UNIFORMS)
      .replace('#include <transmission_fragment>', SEE_FILLING_THROUGH)
      .replace('#include <opaque_fragment>', '#include <opaque_fragment>\n  gl_FragColor.a *= fillingAlpha;');
  };
}

const FILLING_UNIFORMS = /* glsl */ `
uniform sampler2D behind;
uniform float through;
uniform vec3 absorbed;
uniform mat4 modelMatrix;
uniform mat4 projectionMatrix;
`;

/**
 * What is behind, where the ray that is bent once comes out; less sharp the rougher the filling is, less bright by what it absorbs on
 * the way (Beer and Lambert). Finishes of three.js that transmit draw the set once more for each of them, smoothed by the graphics
 * card, and read it by sixteen texels.
 */
const SEE_FILLING_THROUGH = /* glsl */ `
  vec3 bent = refract( - geometryViewDir, normal, 1.0 / material.ior );
  float wide = ${FILLING.toFixed(4)} * length( modelMatrix[ 0 ].xyz );
  vec4 exit = projectionMatrix * vec4( geometryPosition + normalize( bent ) * wide, 1.0 );
  float blur = material.roughness * clamp( material.ior * 2.0 - 2.0, 0.0, 1.0 );
  vec4 beyond = textureLod( behind, exit.xy / exit.w * 0.5 + 0.5, log2( float( textureSize( behind, 0 ).x ) ) * blur );
  vec3 kept = material.diffuseContribution * exp( - absorbed * wide );
  vec3 mirrored = EnvironmentBRDF( normal, geometryViewDir, material.specularColorBlended, material.specularF90, material.roughness );
  float fillingAlpha = mix( 1.0, 1.0 - ( 1.0 - beyond.a ) * ( kept.r + kept.g + kept.b ) / 3.0, through );
  totalDiffuse = mix( totalDiffuse, ( 1.0 - mirrored ) * kept * beyond.rgb, through );
`;

/**
 * The rasteriser cannot show one refracting body inside another: clear glass is a thin skin of highlights, so honey in a
 * jar looks like it; takes are exact.
 */
function seeThrough(material: MeshPhysicalMaterial, finish: Finish): void {
  // Highlights are added whole; what is behind loses only what the glass takes.
  const kept = Math.max(...finish.baseColor) * finish.transmission;
  material.transparent = true;
  material.blending = CustomBlending;
  material.blendSrc = OneFactor;
  material.blendDst = OneMinusSrcAlphaFactor;
  material.opacity = 0.06 + 0.6 * (1 - kept);
  material.color.multiplyScalar(0.02 + 0.6 * (1 - finish.transmission));
  material.depthWrite = false;
  material.side = FrontSide;
}

function textureOf(use: TextureUse, image: ImageBitmap, colour: boolean): Texture {
  const texture = new Texture(image);
  texture.flipY = false;
  texture.colorSpace = colour ? SRGBColorSpace : NoColorSpace;
  texture.wrapS = WRAP[use.wrap[0]];
  texture.wrapT = WRAP[use.wrap[1]];
  texture.offset.set(...use.offset);
  texture.repeat.set(...use.scale);
  texture.rotation = use.rotation;
  texture.anisotropy = 1;
  texture.needsUpdate = true;
  return texture;
}

/** Frees the textures of a material that is not drawn any more. */
export function dropTextures(material: Material): void {
  for (const [name, value] of Object.entries(material))
    if (value instanceof Texture) {
      value.dispose();
      Object.assign(material, { [name]: null });
    }
}

/** Frees a material with its textures. */
export function disposeMaterial(material: Material): void {
  dropTextures(material);
  material.dispose();
}
