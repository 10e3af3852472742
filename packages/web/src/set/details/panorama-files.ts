import { FloatType } from 'three';
import { EXRLoader } from 'three/examples/jsm/loaders/EXRLoader.js';
import { readHdr, writeHdr } from '@tender-orbit/core/interchange';
import { toMeanOne, type Panorama } from '@tender-orbit/core/light';
import { Problem } from '@tender-orbit/core/problem';
import { uploadFile } from '../../api/index.ts';

/** Width that panoramas light the set with: finer detail adds noise, not light. */
const WIDTH = 1024;

/** Reads a .hdr or .exr panorama, brings it to the width that is used and mean luminance 1, and stores it. @returns its hash. */
export async function storePanorama(file: File): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  const read = /\.exr$/i.test(file.name) ? readExr(bytes, file.name) : readHdr(bytes, file.name);
  if (Math.abs(read.width / read.height - 2) > 0.02)
    throw new Problem(
      'panorama/shape',
      `"${file.name}" is ${read.width} x ${read.height}: a panorama all round is twice as wide as it is high.`,
      file.name,
    );
  const small = toMeanOne(reduce(read));
  const { hash } = await uploadFile(new Blob([new Uint8Array(writeHdr(small))]), () => undefined);
  return hash;
}

function readExr(bytes: Uint8Array, name: string): Panorama {
  try {
    const { width, height, data } = new EXRLoader().setDataType(FloatType).parse(bytes.buffer as ArrayBuffer);
    const channels = data!.length / (width! * height!);
    const out = new Float32Array(width! * height! * 3);
    for (let y = 0; y < height!; y++)
      for (let x = 0; x < width!; x++)
        for (let c = 0; c < 3; c++)
          // The reader gives rows from the bottom.
          out[(y * width! + x) * 3 + c] =
            data![((height! - 1 - y) * width! + x) * channels + Math.min(c, channels - 1)];
    return { width: width!, height: height!, data: out };
  } catch {
    throw new Problem('panorama/broken', `"${name}" could not be read as OpenEXR: save it again.`, name);
  }
}

/** Averages pixels together, so that small bright lamps keep their light. */
function reduce({ width, height, data }: Panorama): Panorama {
  const factor = Math.max(1, Math.ceil(width / WIDTH));
  const [w, h] = [Math.floor(width / factor), Math.floor(height / factor)];
  const out = new Float32Array(w * h * 3);
  for (let y = 0; y < h * factor; y++)
    for (let x = 0; x < w * factor; x++)
      for (let c = 0; c < 3; c++) {
        const v = data[(y * width + x) * 3 + c];
        if (Number.isFinite(v) && v > 0)
          out[(Math.floor(y / factor) * w + Math.floor(x / factor)) * 3 + c] += v / factor ** 2;
      }
  return { width: w, height: h, data: out };
}
