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

/** The numbers of each kind of thing; those changed most come first. */
export const THING_FIELDS: Record<ThingKind, FieldGroup[]> = {
  product: [
    { title: 'Turn', fields: [degrees('turn', 'Turn'), degrees('tilt', 'Tilt'), degrees('roll', 'Roll')] },
    {
      title: 'Place',
      fields: [length('position.0', 'Across'), length('position.1', 'Lift'), length('position.2', 'Forward')],
    },
  ],
  surface: [
    { title: 'Look', fields: [percent('roughness', 'Roughness')] },
    {
      title: 'Shape',
      fields: [
        length('radius', 'Curve', 0, 0.6),
        length('width', 'Width', 0.05, 3.2),
        length('depth', 'Depth', 0.05, 2.4),
        length('height', 'Height', 0, 1.8),
      ],
    },
  ],
  light: [
    {
      title: 'Light',
      fields: [
        { path: 'lumens', label: 'Power', unit: 'lm', scale: 1, min: 0, max: 1e6, step: 50 },
        { path: 'kelvin', label: 'Colour', unit: 'K', scale: 1, min: 1000, max: 25000, step: 50, usual: 5500 },
      ],
    },
    { title: 'Size', fields: [length('width', 'Width', 0.01), length('height', 'Height', 0.01)] },
    { title: 'Place', fields: place },
    { title: 'Aim', fields: aim },
  ],
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
        { path: 'sensorWidth', label: 'Sensor', unit: 'mm', scale: 1, min: 1, max: 100, step: 0.1, usual: 36 },
      ],
    },
    { title: 'Place', fields: place },
    { title: 'Aim', fields: aim },
  ],
};

/** What a property is called, for tracks and for edit names. */
export function propertyLabel(kind: ThingKind, path: string): string {
  for (const group of THING_FIELDS[kind])
    for (const field of group.fields) if (field.path === path) return field.label.toLowerCase();
  return path;
}

export function fieldOf(kind: ThingKind, path: string): NumberSpec | undefined {
  return THING_FIELDS[kind].flatMap((g) => g.fields).find((f) => f.path === path);
}
