import type { NumberProperty, Property, PropertyValue } from './property.ts';

/** A number brought into what its property allows: rounded, within its range, out of its gap. NaN becomes the minimum. */
export function fitNumber(property: NumberProperty, value: number): number {
  const { min, max, rounding, gap } = property;
  let fitted = rounding > 0 ? Math.round(value / rounding) * rounding : value;
  if (gap && fitted > gap[0] && fitted < gap[1]) fitted = fitted - gap[0] < gap[1] - fitted ? gap[0] : gap[1];
  // Written so that NaN fails the comparison.
  if (!(fitted > min)) return min;
  return fitted < max ? fitted : max;
}

/** Whether a value is of the property's type and within what it allows. */
export function allows(property: Property, value: unknown): value is PropertyValue {
  switch (property.type) {
    case 'number':
    case 'turn':
      return typeof value === 'number' && fitNumber(property, value) === value;
    case 'colour':
      return typeof value === 'string' && /^#[0-9a-fA-F]{6}$/.test(value);
    case 'switch':
      return typeof value === 'boolean';
    case 'choice':
      return typeof value === 'string' && property.choices.includes(value);
    case 'reference':
      return typeof value === 'string' && value.length <= 64;
    case 'place':
      return (
        Array.isArray(value) && value.length === 3 && property.parts.every((part, axis) => allows(part, value[axis]))
      );
  }
}
