import { open, rename, writeFile } from 'node:fs/promises';
import type { FrameSpace } from '@tender-orbit/core/scene';
import type { DetailPasses, Hiding, LayerNames, Passes } from '@tender-orbit/core/trace';
import type { ViewTransform } from '@tender-orbit/core/document';

/** What goes with a frame's passes until it is developed. */
export interface RawHeader {
  width: number;
  height: number;
  samples: number;
  exposureScale: number;
  view: ViewTransform;
  names: LayerNames;
  /** Where camera and things were, and the ids of the lights that have a pass each. */
  space: FrameSpace;
  things: string[];
  lights: string[];
  /** Planes in the file's order, with their floats. */
  planes: Array<{ name: string; floats: number }>;
}

/** The passes that every frame has, kept for its neighbours' sake too. */
const BASIC = [
  'beauty',
  'variance',
  'alpha',
  'albedo',
  'normal',
  'depth',
  'pairedAlbedo',
  'pairedNormal',
  'pairedDepth',
] as const;
/** What steadying a frame needs of its neighbours. */
export const NEIGHBOUR_PLANES: readonly string[] = [...BASIC, 'motion'];
/** Besides motion, what tells a frame which of its light its neighbours can share. */
const SHARED = ['motion', 'glossy', 'transmission'] as const;
/** What covers a pixel, for layers that are masked by things and finishes. */
const COVERS = ['thing', 'thingCover', 'finish', 'finishCover'] as const;
const DETAIL = [
  'direct',
  'indirect',
  'diffuse',
  'emission',
  'reflection',
  'open',
  'shaded',
  'thing',
  'thingCover',
  'finish',
  'finishCover',
  'opaqueDepth',
  'transmittance',
] as const;

/**
 * Writes passes as plain floats behind a JSON header, whole or not at all. They live only until the frame and its
 * neighbours are developed. `all` keeps the passes for compositing too.
 * @param lights keeps those of each light in any case. @param hiding what products hide of what lies behind them.
 */
export async function writeRaw(
  path: string,
  passes: Passes,
  about: Omit<RawHeader, 'planes' | 'width' | 'height' | 'samples'>,
  { all, lights }: { all: boolean; lights: boolean },
  hiding: Hiding,
): Promise<void> {
  const detail = passes.detail!;
  const planes: Array<[string, Float32Array]> = [
    ...BASIC.map((name): [string, Float32Array] => [name, passes[name]]),
    ...SHARED.map((name): [string, Float32Array] => [name, detail[name]]),
  ];
  planes.push(['hiding', hiding.matte]);
  if (hiding.tint) planes.push(['tint', hiding.tint]);
  for (const name of all ? DETAIL : COVERS) planes.push([name, detail[name]]);
  if (all || lights) detail.lights.forEach((light, i) => planes.push([`light ${i}`, light]));
  const { width, height, samples } = passes;
  const header: RawHeader = {
    ...about,
    ...{ width, height, samples },
    planes: planes.map(([name, data]) => ({ name, floats: data.length })),
  };
  const json = Buffer.from(JSON.stringify(header));
  const length = Buffer.alloc(4);
  length.writeUInt32LE(json.length);
  const bytes = planes.map(([, data]) => Buffer.from(data.buffer, data.byteOffset, data.byteLength));
  await writeFile(`${path}.part`, Buffer.concat([length, json, ...bytes]));
  await rename(`${path}.part`, path);
}

/** Reads a frame's passes back; only the named planes, or all. */
export async function readRaw(
  path: string,
  only?: readonly string[],
): Promise<{
  header: RawHeader;
  passes: Passes;
  /** Empty when it was not asked for. */
  hiding: Hiding;
}> {
  const file = await open(path);
  try {
    const length = Buffer.alloc(4);
    await file.read(length, 0, 4, 0);
    const json = Buffer.alloc(length.readUInt32LE());
    await file.read(json, 0, json.length, 4);
    const header = JSON.parse(json.toString()) as RawHeader;
    const read = new Map<string, Float32Array>();
    let at = 4 + json.length;
    for (const { name, floats } of header.planes) {
      if (!only || only.includes(name)) {
        const data = new Float32Array(floats);
        await file.read(new Uint8Array(data.buffer), 0, floats * 4, at);
        read.set(name, data);
      }
      at += floats * 4;
    }
    const hiding = { matte: read.get('hiding') ?? new Float32Array(0), tint: read.get('tint') ?? null };
    return { header, passes: passesOf(header, read), hiding };
  } finally {
    await file.close();
  }
}

function passesOf(header: RawHeader, read: ReadonlyMap<string, Float32Array>): Passes {
  const { width, height, samples } = header;
  const plane = (name: string): Float32Array => read.get(name) ?? new Float32Array(0);
  const lights = [...read.keys()].filter((name) => name.startsWith('light ')).map(plane);
  return {
    ...{ width, height, samples },
    ...(Object.fromEntries(BASIC.map((name) => [name, plane(name)])) as Pick<Passes, (typeof BASIC)[number]>),
    sampleCount: new Float32Array(0),
    detail: {
      ...Object.fromEntries([...SHARED, ...DETAIL].map((name) => [name, plane(name)])),
      lights,
    } as DetailPasses,
  };
}
