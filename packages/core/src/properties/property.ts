/** A value that a key or a field can hold: a number, a colour or choice by its text, a switch, a place. */
export type PropertyValue = number | string | boolean | number[];

/** How values between two keys come about. */
export type Interpolation = 'curve' | 'hold';

interface Common {
  /** The trade's name, as it stands beside the field. */
  label: string;
  interpolation: Interpolation;
}

/** A number in the unit that documents use; `display` is how a person sees it. */
export interface NumberProperty extends Common {
  type: 'number' | 'turn';
  min: number;
  max: number;
  /** Values are whole multiples of this; 0 leaves them as they are. */
  rounding: number;
  /** An open range inside min..max that no value may lie in; the nearer end is taken. */
  gap?: readonly [number, number];
  /** What a double click brings back, in the document's unit. */
  usual?: number;
  /** `scale` turns the stored value into the shown one; `step` is in shown units. */
  display: { unit: string; scale: number; step: number };
}

/** sRGB hex in documents; blended in linear light. */
export interface ColourProperty extends Common {
  type: 'colour';
}

export interface SwitchProperty extends Common {
  type: 'switch';
}

export interface ChoiceProperty<T extends string = string> extends Common {
  type: 'choice';
  choices: readonly T[];
}

/** Something else by its id: held until the next key. Empty: none, or the usual one. */
export interface ReferenceProperty extends Common {
  type: 'reference';
}

/** A point: three numbers in metres that are also addressed one by one. */
export interface PlaceProperty extends Common {
  type: 'place';
  parts: readonly [NumberProperty, NumberProperty, NumberProperty];
}

export type Property =
  NumberProperty | ColourProperty | SwitchProperty | ChoiceProperty | ReferenceProperty | PlaceProperty;

export interface NumberOptions {
  step?: number;
  usual?: number;
  rounding?: number;
  gap?: readonly [number, number];
}

/** A number that is shown in the unit it is stored in. */
export function number(
  label: string,
  unit: string,
  min: number,
  max: number,
  { step = 1, usual, rounding = 0, gap }: NumberOptions = {},
): NumberProperty {
  return {
    type: 'number',
    label,
    interpolation: 'curve',
    min,
    max,
    rounding,
    gap,
    usual,
    display: { unit, scale: 1, step },
  };
}

/** A whole number. */
export function count(label: string, min: number, max: number, options: NumberOptions = {}): NumberProperty {
  return number(label, '', min, max, { rounding: 1, ...options });
}

/** Metres, shown in centimetres. */
export function length(label: string, min: number, max: number, options: NumberOptions = {}): NumberProperty {
  return { ...number(label, 'cm', min, max, options), display: { unit: 'cm', scale: 100, step: options.step ?? 1 } };
}

/** Metres, shown in millimetres. */
export function smallLength(label: string, min: number, max: number, options: NumberOptions = {}): NumberProperty {
  return { ...number(label, 'mm', min, max, options), display: { unit: 'mm', scale: 1000, step: options.step ?? 0.5 } };
}

/** 0..1 unless told otherwise, shown in percent. */
export function share(label: string, options: NumberOptions & { min?: number; max?: number } = {}): NumberProperty {
  const { min = 0, max = 1 } = options;
  return { ...number(label, '%', min, max, options), display: { unit: '%', scale: 100, step: options.step ?? 1 } };
}

/** Degrees round an axis, any number of turns. */
export function turn(label: string, usual = 0): NumberProperty {
  return { ...number(label, 'deg', -1e6, 1e6, { usual }), type: 'turn' };
}

export function colour(label: string): ColourProperty {
  return { type: 'colour', label, interpolation: 'curve' };
}

export function toggle(label: string): SwitchProperty {
  return { type: 'switch', label, interpolation: 'hold' };
}

export function choice<const T extends string>(label: string, choices: readonly T[]): ChoiceProperty<T> {
  return { type: 'choice', label, interpolation: 'hold', choices };
}

export function reference(label: string): ReferenceProperty {
  return { type: 'reference', label, interpolation: 'hold' };
}

/** A point of the set by the names of its three numbers. */
export function place(label: string, names: readonly [string, string, string]): PlaceProperty {
  const part = (name: string): NumberProperty => length(name, -1000, 1000);
  return { type: 'place', label, interpolation: 'curve', parts: [part(names[0]), part(names[1]), part(names[2])] };
}
