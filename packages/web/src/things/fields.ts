import type { BlockSurface, LightShape, SetLight, SetSurface } from '@tender-orbit/core/document';

/** One number of a thing, as a field: `unit` is shown, `scale` turns the stored value into the shown one. */
export interface NumberSpec {
  path: string;
  label: string;
  unit: string;
  scale: number;
  min: number;
  max: number;
  step: number;
  usual?: number;
}

const length = (path: string, label: string, min = -1000, usual?: number): NumberSpec => ({
  path,
  label,
  unit: 'cm',
  scale: 100,
  min: min * 100,
  max: 100000,
  step: 1,
  usual,
});
const degrees = (path: string, label: string): NumberSpec => ({
  path,
  label,
  unit: 'deg',
  scale: 1,
  min: -36000,
  max: 36000,
  step: 1,
  usual: 0,
});
const percent = (path: string, label: string): NumberSpec => ({
  path,
  label,
  unit: '%',
  scale: 100,
  min: 0,
  max: 100,
  step: 1,
});
const place = [length('position.0', 'Across'), length('position.1', 'Height'), length('position.2', 'Forward')];
const aim = [length('aim.0', 'Aim across'), length('aim.1', 'Aim height'), length('aim.2', 'Aim forward')];

export interface FieldGroup {
  title: string;
  fields: NumberSpec[];
}

export type ThingKind = 'product' | 'surface' | 'light' | 'environment' | 'camera';

const lumens: NumberSpec = { path: 'lumens', label: 'Power', unit: 'lm', scale: 1, min: 0, max: 1e6, step: 50 };
const kelvin: NumberSpec = {
  ...{ path: 'kelvin', label: 'Colour', unit: 'K', scale: 1, min: 1000, max: 25000, step: 50, usual: 5500 },
};
const lightPlace = [
  { title: 'Place', fields: place },
  { title: 'Aim', fields: aim },
];
const lightGroups = (power: NumberSpec, title: string, fields: NumberSpec[]): FieldGroup[] => [
  { title: 'Light', fields: [power, kelvin] },
  { title, fields },
  ...lightPlace,
];
const honeycomb: NumberSpec = {
  ...{ path: 'spread', label: 'Honeycomb', unit: 'deg', scale: 1, min: 0, max: 89, step: 1, usual: 0 },
};
const diameter = length('width', 'Diameter', 0.005);
const beam: NumberSpec = { path: 'cone', label: 'Beam', unit: 'deg', scale: 1, min: 1, max: 175, step: 1, usual: 40 };

/** The numbers of each shape of light. */
const LIGHT_FIELDS: Record<LightShape, FieldGroup[]> = {
  softbox: lightGroups(lumens, 'Size', [length('width', 'Width', 0.005), length('height', 'Height', 0.005), honeycomb]),
  disc: lightGroups(lumens, 'Size', [diameter, honeycomb]),
  sphere: lightGroups(lumens, 'Size', [diameter]),
  spot: lightGroups(lumens, 'Beam', [beam, percent('softness', 'Soft edge'), diameter]),
  point: lightGroups(lumens, 'Size', []),
  sun: lightGroups({ ...lumens, unit: 'lx', step: 500 }, 'Size', [
    { ...beam, label: 'Apparent size', min: 0.05, max: 30, step: 0.1, usual: 0.53 },
  ]),
};

const SWEEP_FIELDS: FieldGroup[] = [
  { title: 'Look', fields: [percent('roughness', 'Roughness')] },
  {
    title: 'Mirror image',
    fields: [
      percent('mirror.strength', 'Strength'),
      percent('mirror.blur', 'Blur'),
      length('mirror.reach', 'Gone after', 0, 0.15),
    ],
  },
  {
    title: 'Shape',
    fields: [
      length('radius', 'Curve', 0, 0.6),
      length('width', 'Width', 0.05, 3.2),
      length('depth', 'Depth', 0.05, 2.4),
      length('height', 'Height', 0, 1.8),
    ],
  },
];
const CARD_FIELDS: FieldGroup[] = [
  { title: 'Look', fields: [percent('roughness', 'Roughness')] },
  { title: 'Size', fields: [length('width', 'Width', 0.01), length('height', 'Height', 0.01)] },
  ...lightPlace,
];

const BLOCK_FIELDS: FieldGroup[] = [
  { title: 'Look', fields: [percent('roughness', 'Roughness')] },
  {
    title: 'Size',
    fields: [
      length('width', 'Width', 0.005),
      length('height', 'Height', 0),
      length('depth', 'Depth', 0),
      { ...length('bevel', 'Edge', 0), unit: 'mm', scale: 1000, step: 0.5, max: 10000 },
      { path: 'steps', label: 'Steps', unit: '', scale: 1, min: 1, max: 40, step: 1, usual: 3 },
    ],
  },
  { title: 'Place', fields: [degrees('turn', 'Turn'), ...place] },
];

/** The numbers of a body: a flat one has no edge, only a flight has steps. */
function blockFields({ form }: BlockSurface): FieldGroup[] {
  const flat = form === 'floor' || form === 'wall';
  const without = [
    ...(flat ? ['bevel'] : []),
    ...(form === 'steps' ? [] : ['steps']),
    ...(form === 'wall' || form === 'drum' ? ['depth'] : []),
  ];
  return BLOCK_FIELDS.map((g) => ({ ...g, fields: g.fields.filter((f) => !without.includes(f.path)) }));
}

/** The numbers of each kind of thing; those changed most come first. */
export const THING_FIELDS: Record<ThingKind, FieldGroup[]> = {
  product: [
    { title: 'Turn', fields: [degrees('turn', 'Turn'), degrees('tilt', 'Tilt'), degrees('roll', 'Roll')] },
    {
      title: 'Size',
      fields: [{ path: 'scale', label: 'Times', unit: '%', scale: 100, min: 0.1, max: 100000, step: 1, usual: 1 }],
    },
    {
      title: 'Place',
      fields: [length('position.0', 'Across'), length('position.1', 'Lift'), length('position.2', 'Forward')],
    },
  ],
  surface: [...SWEEP_FIELDS, ...CARD_FIELDS.slice(1), ...BLOCK_FIELDS.slice(1)],
  light: Object.values(LIGHT_FIELDS).flat(),
  environment: [
    {
      title: 'Room',
      fields: [
        { path: 'intensity', label: 'Brightness', unit: 'cd', scale: 1, min: 0, max: 100000, step: 5, usual: 150 },
        degrees('rotation', 'Rotation'),
      ],
    },
  ],
  camera: [
    {
      title: 'Lens',
      fields: [
        { path: 'focalLength', label: 'Focal length', unit: 'mm', scale: 1, min: 4, max: 1200, step: 1, usual: 85 },
        { path: 'fNumber', label: 'Aperture', unit: 'f/', scale: 1, min: 0, max: 128, step: 0.1, usual: 5.6 },
        length('focus', 'Focus', 0, 0),
        { path: 'exposure', label: 'Exposure', unit: 'EV', scale: 1, min: -20, max: 20, step: 0.1, usual: 0 },
        { path: 'shutter', label: 'Shutter', unit: 'deg', scale: 1, min: 0, max: 720, step: 5, usual: 180 },
      ],
    },
    {
      title: 'Body',
      fields: [
        { path: 'sensorWidth', label: 'Sensor', unit: 'mm', scale: 1, min: 1, max: 100, step: 0.1, usual: 36 },
        { path: 'blades', label: 'Blades', unit: '', scale: 1, min: 0, max: 16, step: 1, usual: 0 },
        { ...percent('shiftX', 'Shift across'), min: -100, usual: 0 },
        { ...percent('shiftY', 'Shift up'), min: -100, usual: 0 },
      ],
    },
    { title: 'Place', fields: place },
    { title: 'Aim', fields: aim },
  ],
};

/** The numbers of a thing, by its shape where kinds have several. */
export function fieldsOf(kind: ThingKind, thing: object): FieldGroup[] {
  if (kind === 'light') return LIGHT_FIELDS[(thing as SetLight).shape].filter((g) => g.fields.length > 0);
  if (kind === 'surface') {
    const surface = thing as SetSurface;
    if (surface.kind === 'block') return blockFields(surface);
    return surface.kind === 'card' ? CARD_FIELDS : SWEEP_FIELDS;
  }
  return THING_FIELDS[kind];
}

/** What a property is called, for tracks and for edit names. */
export function propertyLabel(kind: ThingKind, path: string): string {
  for (const group of THING_FIELDS[kind])
    for (const field of group.fields) if (field.path === path) return field.label.toLowerCase();
  return path;
}

export function fieldOf(kind: ThingKind, path: string): NumberSpec | undefined {
  return THING_FIELDS[kind].flatMap((g) => g.fields).find((f) => f.path === path);
}
