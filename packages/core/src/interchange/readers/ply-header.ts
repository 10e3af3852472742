import { shortened } from '../../text/index.ts';
import { brokenModel } from '../limits.ts';
import { ByteReader } from './byte-reader.ts';

const SIZES: Record<string, number> = {
  ...{ int8: 1, uint8: 1, int16: 2, uint16: 2, int32: 4, uint32: 4, float32: 4, float64: 8 },
};
/** Older names of the same types. */
const TYPES: Record<string, string> = {
  ...{ char: 'int8', uchar: 'uint8', short: 'int16', ushort: 'uint16', int: 'int32', uint: 'uint32' },
  ...{ float: 'float32', double: 'float64' },
};
const FORMATS = ['ascii', 'binary_little_endian', 'binary_big_endian'] as const;

export interface PlyProperty {
  name: string;
  type: string;
  size: number;
  /** What counts the entries of a list; nothing for a single value. */
  count?: { type: string; size: number };
}

export interface PlyElement {
  name: string;
  count: number;
  properties: PlyProperty[];
}

export interface PlyHeader {
  format: (typeof FORMATS)[number];
  elements: PlyElement[];
  /** Where the values begin, bytes. */
  start: number;
}

/** @throws Problem `model/broken` that says what of the header cannot be read. */
export function plyHeader(fileName: string, bytes: Uint8Array): PlyHeader {
  const broken = (why: string): Error => brokenModel(fileName, 'PLY', why);
  const reader = new ByteReader(bytes);
  if (reader.word() !== 'ply') throw broken('it does not begin as one');
  const type = (word: string): { type: string; size: number } => {
    const name = TYPES[word] ?? word;
    if (!Object.hasOwn(SIZES, name)) throw broken(`"${shortened(word, 20)}" is no type of number`);
    return { type: name, size: SIZES[name] };
  };
  let format: PlyHeader['format'] | undefined;
  const elements: PlyElement[] = [];
  for (reader.nextLine(); !reader.atEnd; reader.nextLine()) {
    const word = reader.word();
    if (word === 'end_header') {
      if (!format) throw broken('it does not say how its numbers are written');
      reader.nextLine();
      return { format, elements, start: reader.at };
    }
    if (word === 'format') {
      const written = reader.word();
      format = FORMATS.find((f) => f === written);
      if (!format) throw broken(`"${shortened(written, 30)}" is no way to write its numbers`);
    } else if (word === 'element') {
      const name = reader.word();
      const count = reader.number();
      if (!Number.isSafeInteger(count) || count < 0) throw broken(`the number of "${shortened(name, 30)}" is not one`);
      elements.push({ name, count, properties: [] });
    } else if (word === 'property') {
      const element = elements.at(-1);
      if (!element) throw broken('a property stands before any element');
      const first = reader.word();
      if (first === 'list') {
        const count = type(reader.word());
        element.properties.push({ ...type(reader.word()), count, name: reader.word() });
      } else element.properties.push({ ...type(first), name: reader.word() });
    }
  }
  throw broken('its header has no end');
}
