import { grader, writeCube } from '@tender-orbit/core/composite';
import type { LayerOf } from '@tender-orbit/core/document';
import { linearToSrgb, srgbToLinear } from '@tender-orbit/core/finish';
import { saveFile } from '../controls/save-file.ts';

/** Points along a side: grades are smooth, and others read this size. */
const SIZE = 33;

/** A grade as a table of display colours coded as sRGB, offered as a file. Light above white is left out: a table has none. */
export function saveCube(layer: LayerOf<'grade'>): void {
  const grade = grader(layer);
  const text = writeCube(layer.name, SIZE, (rgb) => {
    for (let c = 0; c < 3; c++) rgb[c] = srgbToLinear(rgb[c]);
    grade(rgb, 0);
    for (let c = 0; c < 3; c++) rgb[c] = linearToSrgb(Math.min(1, rgb[c]));
  });
  saveFile(new Blob([text], { type: 'text/plain' }), `${layer.name}.cube`);
}
