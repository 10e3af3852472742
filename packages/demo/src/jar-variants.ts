import {
  findFinish,
  finishIdOf,
  newSlot,
  newVariant,
  plainLook,
  type ProductDocument,
  type ProductFinish,
  type Variant,
} from '@tender-orbit/core/document';
import { hexToLinear, makeFinish, type Finish } from '@tender-orbit/core/finish';
import type { Honey } from './art.ts';

/** Label art of a honey as a stored file. */
export interface StoredArt {
  asset: string;
  width: number;
  height: number;
}

const LOOKS: Record<Honey, { name: string; honey: string | null; lid: [string, number] | null }> = {
  heather: { name: 'Heather', honey: null, lid: null },
  clover: { name: 'Clover', honey: '#FBE0A0', lid: ['#E9E4DA', 0.4] },
  pine: { name: 'Pine', honey: '#A4511F', lid: ['#2E3B40', 0.45] },
};

/** The jar in three honeys: labels, honeys and lids. The first is the jar as it was modelled. */
export function dressJar(jar: ProductDocument, art: Record<Honey, StoredArt>): ProductDocument {
  const part = (name: string): number => jar.parts.find((p) => p.name === name)!.index;
  const finishes: ProductFinish[] = [...jar.finishes];
  const own = (finish: Finish): string => {
    const id = `finish-${finishes.length + 1}`;
    finishes.push({ ...finish, id });
    return id;
  };
  const finishOf = (name: string): Finish =>
    findFinish(
      jar,
      finishIdOf(
        jar.parts.find((p) => p.name === name)!,
        undefined,
      ),
    )!;
  const variants = (Object.keys(LOOKS) as Honey[]).map((kind): Variant => {
    const { name, honey, lid } = LOOKS[kind];
    const wears: Variant['finishes'] = [];
    if (honey) {
      const finish = { ...finishOf('Honey'), name: `${name} honey`, attenuationColor: hexToLinear(honey)! };
      wears.push({ part: part('Honey'), finish: own(finish) });
    }
    if (lid) {
      const finish = own(
        makeFinish(`${name} lid`, { baseColor: hexToLinear(lid[0])!, roughness: lid[1], clearcoat: 0.5 }),
      );
      wears.push(...['Lid', 'Lid emboss'].map((p) => ({ part: part(p), finish })));
    }
    return { ...newVariant(kind, name), finishes: wears, fills: [{ slot: 'label', sheet: kind, look: plainLook() }] };
  });
  return {
    ...jar,
    finishes,
    variants,
    slots: [newSlot('label', 'Label', part('Label'))],
    sheets: (Object.keys(LOOKS) as Honey[]).map((kind) => ({
      ...{ id: kind, name: `${LOOKS[kind].name} label`, width: art[kind].width, height: art[kind].height },
      picture: { asset: art[kind].asset, pattern: null, look: null, emboss: false },
    })),
  };
}
