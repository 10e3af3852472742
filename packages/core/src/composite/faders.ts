import type { LayerOf } from '../document/index.ts';
import { hexToLinear } from '../finish/index.ts';
import type { LightFrame, LightParts } from './light-frame.ts';
import type { Plate, Plates } from './plate.ts';

type Fader = LayerOf<'fader'>;

/** By how much more or less a light is to be seen than it was rendered, red, green and blue: 0 as it was. */
export function gainOf({ level, colour, visible, opacity }: Fader): [number, number, number] {
  const on = visible ? level * opacity : 0;
  const [r, g, b] = hexToLinear(colour) ?? [1, 1, 1];
  return [r * on - 1, g * on - 1, b * on - 1];
}

/** Pixels that are copied to the kernel at a time: few enough that they are still at hand when it reads them. */
const AT_HAND = 8192;

/** Light of three numbers a pixel into an opaque plate. */
export function spread(plates: Plates, light: Float32Array, { width, height, at }: Plate, gain: number): void {
  plates.within(() => {
    const count = width * height;
    const staged = plates.floats(AT_HAND * 3);
    const { data } = staged;
    for (let from = 0; from < count; from += AT_HAND) {
      const to = Math.min(count, from + AT_HAND);
      data.set(light.subarray(from * 3, to * 3));
      plates.kernel.opaque(staged.at, at + from * 16, to - from, gain);
    }
  });
}

/**
 * A take's light as a plate without holes, its lights mixed anew: L + sum of (gain - 1) times what each light brings, so that what no
 * fader touches is the take to the bit. What a light's passes lack of the whole stays as it is.
 * @param parts null: the take does not keep its lights, and they cannot be mixed.
 */
export function takePlate(
  plates: Plates,
  { width, height, light }: LightFrame,
  parts: LightParts | null,
  faders: readonly Fader[],
  gain: number,
): Plate {
  const plate = plates.raw(width, height);
  spread(plates, light, plate, gain);
  const fits = parts?.width === width && parts.height === height;
  let mixed = false;
  for (const fader of fits ? faders : []) {
    const part = parts!.parts.find((p) => p.light === fader.light);
    const [r, g, b] = gainOf(fader).map((v) => v * gain);
    if (!part || (r === 0 && g === 0 && b === 0)) continue;
    mixed = true;
    plates.within(() => {
      const own = plates.raw(width, height);
      spread(plates, part.data, own, 1);
      plates.kernel.addTinted(plate.at, own.at, width * height, r, g, b);
    });
  }
  // Passes are cleaned of noise apart, so a light that goes off may take a trace more than there is.
  if (mixed) {
    const { data } = plate;
    for (let i = 0; i < data.length; i++) if (data[i] < 0) data[i] = 0;
  }
  return plate;
}
