import { pictureKey, type PictureSource } from '@tender-orbit/core/finish';
import type { Mesh } from '@tender-orbit/core/geometry';
import { panoramaOf, prefilteredCube, type CubeLevel, type Panorama } from '@tender-orbit/core/light';
import type { Room } from '@tender-orbit/core/document';
import { DataUtils } from 'three';
import { readModelByKey, readPanorama, readPicture } from './read-model.ts';

/** Reads models and draws art off the main thread: heavy files must not freeze the interface. */
export type ModelRequest =
  | { kind: 'model'; key: string }
  | { kind: 'picture'; source: PictureSource }
  | { kind: 'panorama'; key: string }
  | { kind: 'room'; key: string; room: Room };

/** A level of a cube of light: see core's CubeLevel; half floats. */
export interface RoomLevel {
  size: number;
  data: Uint16Array<ArrayBuffer>;
}

/** What finishes are lit by and mirror of a room. */
export interface RoomLight {
  levels: RoomLevel[];
  /** The coarsest of them. */
  matt: CubeLevel;
}

export interface ModelReply {
  kind: ModelRequest['kind'];
  key: string;
  /** Nothing when it could not be read. */
  meshes?: Mesh[];
  images?: ImageBitmap[];
  panorama?: Panorama;
  room?: RoomLight;
}

self.onmessage = async ({ data }: MessageEvent<ModelRequest>) => {
  const key = data.kind === 'picture' ? pictureKey(data.source) : data.key;
  const reply: ModelReply = { kind: data.kind, key };
  try {
    if (data.kind === 'model') Object.assign(reply, await readModelByKey(data.key));
    else if (data.kind === 'panorama') reply.panorama = await readPanorama(data.key);
    else if (data.kind === 'room') reply.room = await readRoom(data.room);
    else
      reply.images = [
        await createImageBitmap(await readPicture(data.source), {
          colorSpaceConversion: 'none',
          premultiplyAlpha: 'none',
        }),
      ];
  } catch {
    // The reply without contents says it: it is asked for again when it is next drawn.
  }
  const buffers = reply.meshes?.flatMap((m) => [m.positions.buffer, m.normals.buffer, m.uvs.buffer, m.indices.buffer]);
  const levels = reply.room?.levels.map((level) => level.data.buffer) ?? [];
  self.postMessage(reply, { transfer: [...new Set(buffers), ...(reply.images ?? []), ...levels] as Transferable[] });
};

/** Panoramas wider than this have more to mirror than the small cube holds. */
const WIDE = 512;

/** A room as what surfaces mirror of it. */
async function readRoom(room: Room): Promise<RoomLight> {
  const panorama = panoramaOf(room, room.kind === 'file' ? await readPanorama(room.asset) : undefined);
  const cube = prefilteredCube(panorama, panorama.width > WIDE ? 256 : 128);
  const levels = cube.map(({ size, data }) => ({
    size,
    data: Uint16Array.from(data, (v) => DataUtils.toHalfFloat(Math.min(60_000, v))),
  }));
  return { levels, matt: cube[cube.length - 1] };
}
