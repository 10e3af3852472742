import { hexToLinear, makeFinish, type Finish, type TextureUse } from './finish.ts';
import type { PatternRecipe } from './patterns.ts';

/** A ready finish and the group it is listed in. */
export interface LibraryFinish {
  group: 'Glass and liquids' | 'Metals' | 'Paper and board' | 'Plastic and rubber' | 'Wood and cloth' | 'Mineral';
  finish: Finish;
}

const hex = (value: string): Finish['baseColor'] => hexToLinear(value)!;
function patterned(pattern: Partial<PatternRecipe> & Pick<PatternRecipe, 'kind' | 'colours'>, scale = 4): TextureUse {
  return {
    image: 0,
    picture: {
      asset: '',
      pattern: { seed: 7, count: 6, amount: 0.5, softness: 0.2, size: 512, ...pattern },
      look: null,
      emboss: false,
    },
    offset: [0, 0],
    rotation: 0,
    scale: [scale, scale],
    strength: 1,
    wrap: ['repeat', 'repeat'],
  };
}
const glass = (name: string, colour: string, more: Partial<Finish> = {}): Finish =>
  makeFinish(name, { roughness: 0, transmission: 1, thickness: 0.003, ior: 1.5, baseColor: hex(colour), ...more });
const liquid = (name: string, colour: string, distance: number, ior = 1.34): Finish =>
  makeFinish(name, {
    ...{ roughness: 0, transmission: 1, thickness: 0.06, ior },
    attenuationColor: hex(colour),
    attenuationDistance: distance,
  });
const metal = (name: string, colour: string, roughness: number, more: Partial<Finish> = {}): Finish =>
  makeFinish(name, { metallic: 1, roughness, baseColor: hex(colour), ...more });
const matt = (name: string, colour: string, roughness: number, more: Partial<Finish> = {}): Finish =>
  makeFinish(name, { roughness, baseColor: hex(colour), ...more });

/** Finishes to begin with. Colours and indices of refraction are those of the real materials, as far as they have one. */
export const FINISH_LIBRARY: readonly LibraryFinish[] = [
  ...[
    glass('Clear glass', '#FAFDFB'),
    glass('Frosted glass', '#F6FAF8', { roughness: 0.35 }),
    glass('Smoked glass', '#8D8791'),
    glass('Green bottle glass', '#7FA38A'),
    liquid('Heather honey', '#FABF4B', 0.034, 1.49),
    liquid('Water', '#E8F4F6', 0.8),
    liquid('Dark syrup', '#8A3B16', 0.02, 1.42),
  ].map((finish) => ({ group: 'Glass and liquids', finish }) as const),
  ...[
    metal('Polished brass', '#E3BE72', 0.12),
    metal('Brushed steel', '#C3C5C7', 0.32, { anisotropy: 0.75 }),
    metal('Polished chrome', '#DADCDD', 0.04),
    metal('Copper', '#E2A07D', 0.2),
    metal('Anodised black', '#26252A', 0.38),
    metal('Gold foil', '#F0C867', 0.18, { clearcoat: 0.3, clearcoatRoughness: 0.1 }),
    metal('Pearl foil', '#E6E3EA', 0.2, { iridescence: 1, iridescenceThickness: [180, 420] }),
  ].map((finish) => ({ group: 'Metals', finish }) as const),
  ...[
    matt('Kraft paper', '#B88E60', 0.85, {
      textures: { baseColor: patterned({ kind: 'noise', colours: ['#B58A5B', '#C29A6C', '#A87F52'], count: 24 }) },
      baseColor: [1, 1, 1],
    }),
    matt('Coated paper', '#F3F1EC', 0.38, { clearcoat: 0.15, clearcoatRoughness: 0.3 }),
    matt('Laid paper', '#EFE7D6', 0.8),
    matt('White board', '#F6F5F2', 0.6),
    matt('Heather board', '#5A4668', 0.62),
  ].map((finish) => ({ group: 'Paper and board', finish }) as const),
  ...[
    matt('Gloss plastic', '#D9D6D0', 0.12),
    matt('Painted plastic', '#7C5A94', 0.28, { clearcoat: 0.8, clearcoatRoughness: 0.05 }),
    matt('Soft-touch plastic', '#39343F', 0.62, { sheenColor: [0.08, 0.08, 0.09], sheenRoughness: 0.5 }),
    matt('Rubber', '#1D1C1F', 0.78, { specular: 0.6 }),
    matt('Frosted film', '#E9EDEE', 0.4, { transmission: 0.7, thickness: 0 }),
  ].map((finish) => ({ group: 'Plastic and rubber', finish }) as const),
  ...[
    matt('Oiled oak', '#B98A57', 0.55, {
      textures: { baseColor: patterned({ kind: 'grain', colours: ['#C39762', '#A87543', '#8B5C32'], count: 7 }, 1) },
      baseColor: [1, 1, 1],
    }),
    matt('Walnut', '#6B452B', 0.5, {
      textures: { baseColor: patterned({ kind: 'grain', colours: ['#7A5233', '#5B3820', '#432817'], seed: 3 }, 1) },
      baseColor: [1, 1, 1],
    }),
    matt('Linen', '#D8CDB8', 0.9, {
      textures: { baseColor: patterned({ kind: 'weave', colours: ['#B9AC93', '#DED3BE', '#CFC2A8'], count: 24 }) },
      baseColor: [1, 1, 1],
      sheenColor: [0.12, 0.11, 0.1],
      sheenRoughness: 0.6,
    }),
    matt('Felt', '#6E5E7C', 0.95, { sheenColor: [0.3, 0.26, 0.34], sheenRoughness: 0.8 }),
    matt('Beeswax', '#E0B458', 0.42, { specular: 0.8, sheenColor: [0.1, 0.07, 0.02], sheenRoughness: 0.4 }),
  ].map((finish) => ({ group: 'Wood and cloth', finish }) as const),
  ...[
    matt('Glazed ceramic', '#EDE8DF', 0.3, { clearcoat: 1, clearcoatRoughness: 0.03 }),
    matt('Unglazed clay', '#B0714E', 0.9),
    matt('Slate', '#474A50', 0.7),
    matt('Terrazzo', '#E4DED4', 0.25, {
      textures: {
        baseColor: patterned(
          { kind: 'terrazzo', colours: ['#E6E0D6', '#B79C7E', '#6F6A75'], count: 9, softness: 0.02 },
          2,
        ),
      },
      baseColor: [1, 1, 1],
    }),
    matt('Plaster', '#E5E0D8', 0.95),
  ].map((finish) => ({ group: 'Mineral', finish }) as const),
];
