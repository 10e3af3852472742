import type { Command } from './edit.ts';
import { whole, type Field } from './fields.ts';

/** Video with subsampled colour has no odd sizes. */
const even = (label: string): Field<number> =>
  whole(label, 64, 4096).test('even', `${label} must be an even number.`, (v) => v! % 2 === 0);

export const pictureSize = { width: even('Picture width'), height: even('Picture height') };

/** What has a picture size of its own: campaigns and promos. */
interface Sized {
  width: number;
  height: number;
}

/** Gives a campaign or promo a picture size; odd numbers become even ones. */
export function choosePictureSize(size: Partial<Sized>): Command<Sized> {
  return {
    label: 'Choose picture size',
    run: (document) => {
      for (const side of ['width', 'height'] as const) {
        const wanted = size[side];
        if (wanted !== undefined) document[side] = Math.round(wanted / 2) * 2;
      }
    },
  };
}
