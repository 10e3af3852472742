import { zipSync } from 'fflate';
import sharp from 'sharp';
import { addVoice, mallet, silence, writeWav } from '@tender-orbit/core/audio';
import { makeFinish } from '@tender-orbit/core/finish';
import { buildTurned } from '@tender-orbit/core/geometry';
import { writeExr, writeHdr, writeModel } from '@tender-orbit/core/interchange';
import { panoramaOf } from '@tender-orbit/core/light';
import { makeModels } from '@tender-orbit/demo';

/** What a file is brought in as. */
export type Door = 'model' | 'picture' | 'panorama' | 'sound';

export interface Seed {
  name: string;
  door: Door;
  bytes: Uint8Array;
}

const text = (content: string): Uint8Array => new TextEncoder().encode(content);

const USDA = `#usda 1.0
(
    upAxis = "Y"
)
def Xform "Jar"
{
    def Mesh "Lid"
    {
        int[] faceVertexCounts = [4, 3]
        int[] faceVertexIndices = [0, 1, 2, 3, 0, 1, 2]
        point3f[] points = [(0, 0, 0), (0.1, 0, 0), (0.1, 0.1, 0), (0, 0.1, 0)]
    }
}
`;

function ply(binary: boolean): Uint8Array {
  const head = `ply\nformat ${binary ? 'binary_little_endian' : 'ascii'} 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\nproperty uchar red\nproperty uchar green\nproperty uchar blue\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n`;
  const points = [
    [0, 0, 0],
    [0.1, 0, 0],
    [0.1, 0.1, 0],
    [0, 0.1, 0],
  ];
  if (!binary) return text(`${head}${points.map((p) => `${p.join(' ')} 255 128 0`).join('\n')}\n4 0 1 2 3\n`);
  const body = new DataView(new ArrayBuffer(4 * 15 + 17));
  points.forEach((p, i) => p.forEach((v, c) => body.setFloat32(i * 15 + c * 4, v, true)));
  body.setUint8(60, 4);
  [0, 1, 2, 3].forEach((v, i) => body.setInt32(61 + i * 4, v, true));
  return new Uint8Array([...text(head), ...new Uint8Array(body.buffer)]);
}

function stl(): Uint8Array {
  const mesh = buildTurned({
    profile: [
      [0, 0],
      [0.04, 0],
      [0.04, 0.1],
      [0, 0.1],
    ],
    segments: 12,
  });
  const count = mesh.indices.length / 3;
  const view = new DataView(new ArrayBuffer(84 + count * 50));
  view.setUint32(80, count, true);
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 3; k++)
      for (let c = 0; c < 3; c++)
        view.setFloat32(84 + t * 50 + 12 + (k * 3 + c) * 4, mesh.positions[mesh.indices[t * 3 + k] * 3 + c], true);
  return new Uint8Array(view.buffer);
}

/** A whole file of every kind that the product takes, all of them small. */
export async function seeds(): Promise<Seed[]> {
  const art = sharp({ create: { width: 64, height: 48, channels: 3, background: '#c98f6b' } });
  const png = new Uint8Array(await art.clone().png().toBuffer());
  const mesh = buildTurned({
    profile: [
      [0, 0],
      [0.04, 0],
      [0.04, 0.1],
      [0, 0.1],
    ],
    segments: 24,
  });
  const finish = makeFinish('Label', {
    textures: {
      baseColor: { image: 0, offset: [0, 0], rotation: 0, scale: [1, 1], strength: 1, wrap: ['repeat', 'repeat'] },
    },
  });
  const images = [{ name: 'art', mimeType: 'image/png', bytes: png }];
  const small = await writeModel({ parts: [{ name: 'Jar', mesh, finish: 0 }], finishes: [finish], images });
  const jar = (await makeModels()).find(({ key }) => key === 'dipper')!.glb;
  const tune = silence(24000);
  addVoice(tune, 0.1, 0.3, 0.5, 0, mallet(330));
  const room = panoramaOf({ kind: 'dusk', boxes: [] });
  const channels = ['R', 'G', 'B'].map((name, c) => ({
    ...{ name, type: 'half' as const, data: room.data.filter((_, i) => i % 3 === c) },
  }));
  const seed = (name: string, door: Door, bytes: Uint8Array): Seed => ({ name, door, bytes });
  return [
    seed('jar.glb', 'model', small),
    seed('dipper.glb', 'model', jar),
    seed(
      'lid.obj',
      'model',
      text('o Lid\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nvt 0 0\nvn 0 0 1\nusemtl Brass\nf 1/1/1 2/1/1 3/1/1 4/1/1\n'),
    ),
    seed('lid.stl', 'model', stl()),
    seed('lid.ply', 'model', ply(false)),
    seed('cap.ply', 'model', ply(true)),
    seed('jar.usda', 'model', text(USDA)),
    seed('jar.usdz', 'model', zipSync({ 'jar.usda': text(USDA), 'art.png': png }, { level: 0 })),
    seed('art.png', 'picture', png),
    seed('art.jpg', 'picture', new Uint8Array(await art.clone().jpeg().toBuffer())),
    seed('art.webp', 'picture', new Uint8Array(await art.clone().webp().toBuffer())),
    seed('art.tif', 'picture', new Uint8Array(await art.clone().tiff().toBuffer())),
    seed(
      'art.svg',
      'picture',
      text('<svg xmlns="http://www.w3.org/2000/svg" width="20" height="10"><rect width="20" height="10"/></svg>'),
    ),
    seed('dusk.hdr', 'panorama', writeHdr(room)),
    seed('dusk.exr', 'panorama', writeExr({ width: room.width, height: room.height, channels })),
    seed('tune.wav', 'sound', writeWav(tune)),
  ];
}
