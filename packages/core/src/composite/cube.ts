import { Problem } from '../problem/index.ts';
import type { Plate, Plates } from './plate.ts';

/** A table of colours: one row of outputs for each input, or a lattice of them, red fastest. */
export interface Cube {
  title: string;
  /** 1: a curve for each channel; 3: a lattice. */
  dimensions: 1 | 3;
  /** Points along a side. */
  size: number;
  /** Inputs at the first and the last point, by channel. */
  min: readonly [number, number, number];
  max: readonly [number, number, number];
  /** Three numbers a point. */
  data: Float32Array;
  /** Of a lattice: whether what lies above its domain is added to what its edge becomes, so that light above white is not lost. */
  keeps?: boolean;
}

type Triple = [number, number, number];
/** Points along a side that are taken: more would be larger than any picture. */
const MOST = { 1: 65536, 3: 129 } as const;

/**
 * Reads a table in the cube format: LUT_1D_SIZE or LUT_3D_SIZE, an optional TITLE, DOMAIN_MIN and DOMAIN_MAX (or an input range of two
 * numbers), and a row of three numbers for each point.
 *
 * @throws Problem `cube/broken` naming the file and the line
 */
export function readCube(text: string, fileName: string): Cube {
  const fail = (what: string): never => {
    throw new Problem('cube/broken', `"${fileName}" is no table of colours that can be used: ${what}.`, fileName);
  };
  let title = '';
  let dimensions: 1 | 3 | 0 = 0;
  let size = 0;
  let min: Triple = [0, 0, 0];
  let max: Triple = [1, 1, 1];
  let data = new Float32Array(0);
  let count = 0;
  text.split(/\r\n|\r|\n/).forEach((raw, n) => {
    const line = raw.trim();
    if (line === '' || line.startsWith('#')) return;
    const [word, ...rest] = line.split(/\s+/);
    const numbers = rest.map(Number);
    const three = (): Triple => {
      if (numbers.length !== 3 || numbers.some((v) => !Number.isFinite(v))) fail(`line ${n + 1} needs three numbers`);
      return numbers as Triple;
    };
    if (word === 'TITLE') title = line.slice(5).trim().replace(/^"|"$/g, '');
    else if (word === 'LUT_1D_SIZE' || word === 'LUT_3D_SIZE') {
      if (dimensions !== 0) fail(`line ${n + 1} gives a second size`);
      dimensions = word === 'LUT_1D_SIZE' ? 1 : 3;
      [size] = numbers;
      const most = MOST[dimensions];
      if (!Number.isInteger(size) || size < 2 || size > most)
        fail(`its size has to be a whole number from 2 to ${most}`);
      data = new Float32Array(3 * (dimensions === 1 ? size : size * size * size));
    } else if (word === 'DOMAIN_MIN') min = three();
    else if (word === 'DOMAIN_MAX') max = three();
    else if (/^LUT_[13]D_INPUT_RANGE$/.test(word)) {
      if (numbers.length !== 2 || numbers.some((v) => !Number.isFinite(v))) fail(`line ${n + 1} needs two numbers`);
      [min, max] = [numbers[0], numbers[1]].map((v): Triple => [v, v, v]);
    } else if (/^[-+.\d]/.test(word)) {
      if (dimensions === 0) fail(`line ${n + 1} comes before its size`);
      const row = [word, ...rest].map(Number);
      if (row.length !== 3 || row.some((v) => !Number.isFinite(v))) fail(`line ${n + 1} needs three numbers`);
      if (count * 3 < data.length) data.set(row, count * 3);
      count++;
    } else if (!/^[A-Z_0-9]+$/.test(word)) fail(`line ${n + 1} is neither a word of the format nor a row of numbers`);
  });
  if (dimensions === 0) return fail('it says no size');
  if (count * 3 !== data.length) fail(`it should have ${data.length / 3} rows of numbers and has ${count}`);
  if (min.some((v, c) => v >= max[c])) fail('the end of its domain is not above its beginning');
  return { title, dimensions, size, min, max, data };
}

/** Writes a lattice in the cube format. @param of changes a colour from 0 to 1 in place. */
export function writeCube(title: string, size: number, of: (rgb: Float64Array) => void): string {
  const rows = [
    `TITLE "${title.replace(/["\r\n]/g, ' ')}"`,
    `LUT_3D_SIZE ${size}`,
    'DOMAIN_MIN 0 0 0',
    'DOMAIN_MAX 1 1 1',
  ];
  const rgb = new Float64Array(3);
  for (let b = 0; b < size; b++)
    for (let g = 0; g < size; g++)
      for (let r = 0; r < size; r++) {
        rgb.set([r / (size - 1), g / (size - 1), b / (size - 1)]);
        of(rgb);
        rows.push([...rgb].map((v) => v.toFixed(6)).join(' '));
      }
  return `${rows.join('\n')}\n`;
}

/**
 * Takes the colours of a plate, as they are without their alpha, through a table: straight lines between points of a curve, tetrahedra
 * between those of a lattice. What lies beyond its domain is taken for its edge, and added to that where the table keeps it.
 */
export function applyCube(plates: Plates, plate: Plate, { dimensions, size, min, max, data, keeps }: Cube): void {
  plates.within(() => {
    // Four numbers a point, so that one is read at once.
    const table = plates.floats((data.length / 3) * 4);
    const out = table.data;
    for (let i = 0, o = 0; i < data.length; i += 3, o += 4) {
      out[o] = data[i];
      out[o + 1] = data[i + 1];
      out[o + 2] = data[i + 2];
      out[o + 3] = 0;
    }
    const scale = min.map((v, c) => (size - 1) / (max[c] - v));
    const numbers = plates.store([...min, keeps ? 1 : 0, ...scale, 0]);
    plates.kernel.cube(plate.at, plate.width * plate.height, table.at, size, dimensions, numbers.at);
  });
}
