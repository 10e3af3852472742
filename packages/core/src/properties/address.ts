import type { NumberProperty, Property } from './property.ts';

/** Which properties a kind of thing has, by path; `*` stands for the id of an item in a list. */
export type Properties = Readonly<Record<string, Property>>;

/** Dotted paths into T: names of fields, indices of fixed lists, and `*` for items of open lists. */
export type PathOf<T> = T extends readonly unknown[]
  ? number extends T['length']
    ? T[number] extends object
      ? '*' | `*.${PathOf<T[number]>}`
      : never
    : Extract<keyof T, `${number}`>
  : T extends object
    ? {
        [K in keyof T & string]: NonNullable<T[K]> extends object ? K | `${K}.${PathOf<NonNullable<T[K]>>}` : K;
      }[keyof T & string]
    : never;

/** Declares the properties of T; a path that T does not have does not compile. */
export function propertiesOf<T>() {
  return <const P extends Partial<Record<PathOf<T>, Property>>>(properties: P): P => properties;
}

/** What a property path may look like: names, numbers and ids with dots between them. */
export const PATH = /^[A-Za-z][A-Za-z0-9_-]*(\.[A-Za-z0-9_-]+){0,7}$/;

/**
 * The property at a path of a thing, or undefined when there is none: only what is declared can be reached, whatever an
 * object happens to inherit.
 */
export function propertyAt(properties: Properties, path: string): Property | undefined {
  if (Object.hasOwn(properties, path)) return properties[path];
  const steps = path.split('.');
  const axis = Number(steps.at(-1));
  if (steps.length > 1 && Number.isInteger(axis)) {
    const whole = propertyAt(properties, steps.slice(0, -1).join('.'));
    if (whole?.type === 'place') return whole.parts[axis] as NumberProperty | undefined;
  }
  for (let at = 1; at < steps.length; at++) {
    const general = steps.with(at, '*').join('.');
    if (Object.hasOwn(properties, general)) return properties[general];
  }
  return undefined;
}

type Node = Record<string, unknown>;

function child(node: unknown, step: string): unknown {
  if (Array.isArray(node)) {
    const index = Number(step);
    if (Number.isInteger(index) && index >= 0) return node[index] as unknown;
    return (node as Array<{ id?: string }>).find((item) => item?.id === step);
  }
  return typeof node === 'object' && node !== null && Object.hasOwn(node, step) ? (node as Node)[step] : undefined;
}

/** The value at a path of a thing; undefined when something on the way is missing. */
export function readProperty(thing: object, path: string): unknown {
  return path.split('.').reduce<unknown>(child, thing);
}

/** Puts a value at a path of a thing (an edit's draft). Changes nothing when something on the way is missing. */
export function writeProperty(thing: object, path: string, value: unknown): void {
  const steps = path.split('.');
  const last = steps.pop()!;
  const target = steps.reduce<unknown>(child, thing);
  if (typeof target !== 'object' || target === null || child(target, last) === undefined) return;
  (target as Node)[last] = value;
}
