import { shortened } from '../text/index.ts';
import {
  findFinish,
  finishIdOf,
  type LabelSlot,
  type ProductDocument,
  type Sheet,
  type SlotFill,
  type Variant,
} from '../document/index.ts';
import { makeFinish, type Finish, type PictureSource, type TextureUse } from '../finish/index.ts';
import type { Mat4, Mesh } from '../geometry/index.ts';
import { labelShell } from './label-shell.ts';

/** A part as a variant shows it. */
export interface ShownPart {
  index: number;
  finish: Finish;
  /** A projected label's own triangles, which lie on those of part `index`. */
  shell?: Mesh;
  /** The slot whose label that is. */
  slot?: string;
  /** Where the part stands in its model when it has a place of its own: a lid, a flap, a bone. */
  place?: PartPlace;
  /** Its vertices in this frame, where they are not the model's: skins, cloth, liquid. */
  shape?: PartShape;
}

/** A part to its model: as the shutter opens, as it closes and one frame before; without those two it does not move. */
export interface PartPlace {
  matrix: Mat4;
  close?: Mat4;
  before?: Mat4;
}

/** A part that deforms. Its triangles are the same at all three times. */
export interface PartShape {
  /** As the shutter opens. */
  mesh: Mesh;
  /** As it closes; vertices go straight there. */
  close?: Pick<Mesh, 'positions' | 'normals'>;
  /** Positions one frame before, for motion vectors. */
  before?: Float32Array;
}

/** The variant of that id, or the product's first. */
export function variantOf(product: ProductDocument, id: string): Variant {
  return product.variants.find((v) => v.id === id) ?? product.variants[0];
}

const bySlot = new WeakMap<Mesh, Map<string, Mesh>>();

/** Results kept of one product: a film has one a frame. */
const KEPT = 64;

/**
 * The parts that a variant shows, with its finishes and art; labels that are projected come after the part they lie on.
 * Results for the same document are the same objects, so that later steps recognise them.
 * @param frame of the shot, from 0: which frame films show.
 */
export function shownParts(
  product: ProductDocument,
  id: string,
  meshes: readonly Mesh[],
  frame = 0,
): readonly ShownPart[] {
  let known = remembered.get(product);
  if (!known) remembered.set(product, (known = { films: product.sheets.filter((s) => s.film), parts: new Map() }));
  const key = known.films.length === 0 ? id : filmKey(id, known.films, frame);
  // One product may stand there several times, with meshes of its own each time.
  let byMeshes = known.parts.get(key);
  if (!byMeshes) {
    if (known.parts.size >= KEPT) known.parts.clear();
    known.parts.set(key, (byMeshes = new WeakMap()));
  }
  let parts = byMeshes.get(meshes);
  if (!parts) byMeshes.set(meshes, (parts = resolve(product, variantOf(product, id), meshes, frame)));
  return parts;
}

function filmKey(id: string, films: readonly Sheet[], frame: number): string {
  let key = id;
  for (const sheet of films) key += ` ${filmFrame(sheet, frame)}`;
  return key;
}

/** Which frame of its film a sheet shows; 0 without one. */
function filmFrame({ film }: Sheet, frame: number): number {
  const count = film?.length ?? 0;
  return count > 0 ? ((Math.floor(frame) % count) + count) % count : 0;
}

interface Remembered {
  /** Sheets that show another picture at each frame. */
  films: readonly Sheet[];
  parts: Map<string, WeakMap<readonly Mesh[], readonly ShownPart[]>>;
}
const remembered = new WeakMap<ProductDocument, Remembered>();

function resolve(product: ProductDocument, variant: Variant, meshes: readonly Mesh[], frame: number): ShownPart[] {
  const sheets = new Map(product.sheets.map((sheet) => [sheet.id, shotAt(sheet, frame)]));
  const out: ShownPart[] = [];
  for (const part of product.parts) {
    if (!part.visible || variant.hidden.includes(part.index) || part.index >= meshes.length) continue;
    let finish: Finish = findFinish(product, finishIdOf(part, variant)) ?? makeFinish('Default');
    const shells: ShownPart[] = [];
    for (const slot of product.slots) {
      const fill = slot.part === part.index && variant.fills.find((f) => f.slot === slot.id);
      const sheet = fill && sheets.get(fill.sheet);
      if (!sheet) continue;
      if (slot.projection === 'uv') finish = withArt(finish, slot, fill, sheet);
      else {
        const shell = shellOf(meshes[part.index], slot);
        if (shell.indices.length > 0)
          shells.push({
            index: part.index,
            shell,
            slot: slot.id,
            finish: printed(withArt(finish, slot, fill, sheet)),
          });
      }
    }
    out.push({ index: part.index, finish }, ...shells);
  }
  return out;
}

function shotAt(sheet: Sheet, frame: number): Sheet {
  const asset = sheet.film?.[filmFrame(sheet, frame)];
  return asset ? { ...sheet, picture: { ...sheet.picture, asset } } : sheet;
}

/** What is printed on a part covers it: on glass it is ink, not tinted glass. Where the art is clear the part shows. */
function printed(finish: Finish): Finish {
  return { ...finish, alphaMode: 'blend', transmission: 0, thickness: 0, attenuationDistance: 0 };
}

function shellOf(mesh: Mesh, slot: LabelSlot): Mesh {
  const { projection, centre, turn, roll, width, height, corner } = slot;
  const key = JSON.stringify([projection, centre, turn, roll, width, height, corner]);
  const known = bySlot.get(mesh) ?? new Map<string, Mesh>();
  bySlot.set(mesh, known);
  const shell = known.get(key) ?? labelShell(mesh, slot);
  // A label that is dragged passes through many places: only the last few are worth keeping.
  if (known.size > 8) known.clear();
  known.set(key, shell);
  return shell;
}

/** A finish under art: only the chosen channels change, so that foil keeps its shine. */
function withArt(finish: Finish, slot: LabelSlot, fill: SlotFill, sheet: Sheet): Finish {
  const { look } = fill;
  const plain = look.black === 0 && look.white === 1 && !look.invert && look.tint.toUpperCase() === '#FFFFFF';
  const picture: PictureSource = { ...sheet.picture, look: plain ? sheet.picture.look : look };
  const rotation = (slot.rotation * Math.PI) / 180;
  const masked = Boolean(slot.mask?.length);
  const still = rotation === 0 && [...slot.offset, slot.repeat[0] - 1, slot.repeat[1] - 1].every((v) => v === 0);
  if (slot.mask?.length) {
    picture.mask = { aspect: slot.height / slot.width, strokes: slot.mask };
    if (!still) picture.mask.place = { offset: slot.offset, repeat: slot.repeat, rotation };
  }
  const use = (source: PictureSource, strength: number): TextureUse => ({
    ...{ image: 0, picture: source, strength },
    // Art under a mask has been laid out already.
    ...(masked
      ? { offset: [0, 0], scale: [1, 1], rotation: 0 }
      : { offset: slot.offset, scale: slot.repeat, rotation }),
    wrap: ['repeat', 'repeat'],
  });
  const textures = { ...finish.textures };
  if (slot.colour) textures.baseColor = use(picture, 1);
  if (slot.emboss !== 0) textures.normal = use({ ...picture, emboss: true }, slot.emboss);
  return {
    ...finish,
    name: shortened(`${finish.name}, ${slot.name}`, 200),
    roughness: slot.roughness >= 0 ? slot.roughness : finish.roughness,
    textures,
  };
}
