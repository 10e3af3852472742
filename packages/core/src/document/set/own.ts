import {
  choice,
  colour,
  number,
  place,
  readProperty,
  share,
  smallLength,
  toggle,
  turn,
  type Properties,
  type PropertyValue,
} from '../../properties/index.ts';
import { BUILDER_PROPERTIES } from '../product/builders/index.ts';
import { TEXTURE_SLOTS, type TextureSlot } from '../../finish/index.ts';

/**
 * What of its product a placed product can have otherwise, frame by frame, by paths that begin with `own.`: a lid that is
 * lifted, a vessel that is filled, a label that wanders, a finish that changes. It is keyed in a shot and stands in no set:
 * a path is `own.<group>.<item>.<property>`.
 */
export const OWN = 'own.';

/** What an own path is about: numbers of the builder, animations of the model and parts by their index, label slots and finishes by id. */
export const OWN_GROUPS = ['body', 'clips', 'parts', 'labels', 'finishes'] as const;
export type OwnGroup = (typeof OWN_GROUPS)[number];

/** Values at a frame by their path without `own.`. */
export type OwnValues = Readonly<Record<string, PropertyValue>>;

/** About which line of the box round it a part turns. */
export const HINGES = ['middle', 'base', 'top', 'back', 'front', 'left', 'right'] as const;
export type Hinge = (typeof HINGES)[number];

/** Several parts move as one: their numbers with this between them. */
export const PART_JOINT = '-';

const PART: Properties = {
  shift: place('Shift', ['Shift across', 'Shift up', 'Shift forward']),
  turn: turn('Turn'),
  tilt: turn('Tilt'),
  roll: turn('Roll'),
  hinge: choice('Turns about', HINGES),
};

/** One of the model's own animations: its time, and how much it counts beside the others. */
const CLIP: Properties = {
  seconds: number('Time', 's', -3600, 3600, { step: 0.05 }),
  weight: share('Weight', { usual: 1 }),
};

const ratio = (label: string): Properties[string] => number(label, '', -1000, 1000, { step: 0.01 });

const LABEL: Properties = {
  'offset.0': ratio('Art across'),
  'offset.1': ratio('Art up'),
  'repeat.0': ratio('Repeat across'),
  'repeat.1': ratio('Repeat up'),
  rotation: turn('Art rotation'),
  centre: place('Label', ['Label across', 'Label up', 'Label forward']),
  turn: turn('Label turn'),
  roll: turn('Label roll'),
  width: smallLength('Label width', 1e-4, 1000, { step: 1 }),
  height: smallLength('Label height', 1e-4, 1000, { step: 1 }),
  emboss: number('Emboss', '', -20, 20, { step: 0.1 }),
  black: share('Black point'),
  white: share('White point'),
  invert: toggle('Invert'),
  tint: colour('Tint'),
};

const TEXTURE_NAMES: Record<TextureSlot, string> = {
  baseColor: 'Colour texture',
  metallicRoughness: 'Roughness texture',
  normal: 'Normal texture',
  emissive: 'Emission texture',
  transmission: 'Transmission texture',
  clearcoat: 'Clearcoat texture',
};

const texture = (slot: TextureSlot): Properties => ({
  [`textures.${slot}.offset.0`]: ratio(`${TEXTURE_NAMES[slot]} across`),
  [`textures.${slot}.offset.1`]: ratio(`${TEXTURE_NAMES[slot]} up`),
  [`textures.${slot}.scale.0`]: ratio(`${TEXTURE_NAMES[slot]} repeat across`),
  [`textures.${slot}.scale.1`]: ratio(`${TEXTURE_NAMES[slot]} repeat up`),
  [`textures.${slot}.rotation`]: turn(`${TEXTURE_NAMES[slot]} rotation`),
  [`textures.${slot}.strength`]: number(`${TEXTURE_NAMES[slot]} strength`, '', -100, 100, { step: 0.05 }),
});

const FINISH: Properties = {
  baseColor: colour('Colour'),
  roughness: share('Roughness'),
  metallic: share('Metallic'),
  transmission: share('Transmission'),
  ior: number('IOR', '', 1, 4, { step: 0.01 }),
  thickness: smallLength('Thickness', 0, 100, { step: 0.1 }),
  attenuationColor: colour('Attenuation'),
  attenuationDistance: smallLength('Attenuation distance', 0, 1e6, { step: 1 }),
  clearcoat: share('Clearcoat'),
  clearcoatRoughness: share('Coat roughness'),
  specular: share('Specular'),
  sheenColor: colour('Sheen colour'),
  sheenRoughness: share('Sheen roughness'),
  iridescence: share('Iridescence'),
  anisotropy: share('Anisotropy'),
  anisotropyRotation: turn('Anisotropy rotation'),
  alpha: share('Opacity'),
  emissive: colour('Emission'),
  emissiveStrength: number('Emission power', 'cd', 0, 1e6, { step: 10 }),
  ...Object.assign({}, ...TEXTURE_SLOTS.map(texture)),
};

const under = (prefix: string, properties: Properties): Properties =>
  Object.fromEntries(Object.entries(properties).map(([path, property]) => [`${prefix}.${path}`, property]));

/** All own properties by path, `*` for the part, slot or finish. */
export const OWN_PROPERTIES: Properties = {
  ...Object.assign({}, ...Object.entries(BUILDER_PROPERTIES).map(([kind, of]) => under(`own.body.${kind}`, of))),
  ...under('own.clips.*', CLIP),
  ...under('own.parts.*', PART),
  ...under('own.labels.*', LABEL),
  ...under('own.finishes.*', FINISH),
};

/** What an own path says; null for a path that is none. */
export function readOwnPath(path: string): { group: OwnGroup; item: string; name: string } | null {
  if (!path.startsWith(OWN)) return null;
  const [, group, item, ...name] = path.split('.');
  if (!OWN_GROUPS.includes(group as OwnGroup) || !item || name.length === 0) return null;
  return { group: group as OwnGroup, item, name: name.join('.') };
}

/** The names of what can be keyed of an item: own paths of its group without those before. */
export function ownNames(group: OwnGroup, item: string): string[] {
  const prefix = group === 'body' ? `own.body.${item}.` : `own.${group}.*.`;
  return Object.keys(OWN_PROPERTIES)
    .filter((path) => path.startsWith(prefix))
    .map((path) => path.slice(prefix.length));
}

/** Numbers of the parts that an item of the group `parts` names. */
export const partsOfItem = (item: string): number[] => item.split(PART_JOINT).map(Number);

/** A value of a thing as a mover gives it: own values lie side by side under their paths. */
export function readPosed(thing: object, path: string): unknown {
  if (!path.startsWith(OWN)) return readProperty(thing, path);
  return (thing as { own?: OwnValues }).own?.[path.slice(OWN.length)];
}
