import { mkdtempSync, writeFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { zipSync } from 'fflate';
import sharp from 'sharp';
import { readModel } from '@tender-orbit/core/interchange';
import { Problem } from '@tender-orbit/core/problem';
import { ChildPool, readerPool, type ModelRead, type Readers } from '../src/readers/index.ts';

const folder = mkdtempSync(join(tmpdir(), 'tender-orbit-readers-'));

function stored(name: string, content: string | Uint8Array): string {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
}

const heavy = new Problem('model/too-heavy', 'It is too heavy.', 'x');

const SQUARE = `#usda 1.0
( upAxis = "Y" metersPerUnit = 1 )
def Xform "Jar" {
  def Mesh "Lid" {
    int[] faceVertexCounts = [4]
    int[] faceVertexIndices = [0, 1, 2, 3]
    point3f[] points = [(0, 0, 0), (0.1, 0, 0), (0.1, 0.1, 0), (0, 0.1, 0)]
    texCoord2f[] primvars:st = [(0, 0), (1, 0), (1, 1), (0, 1)] ( interpolation = "vertex" )
    double3 xformOp:translate = (0, 2, 0)
    uniform token[] xformOpOrder = ["xformOp:translate"]
    rel material:binding = </Jar/Brass>
  }
  def Material "Brass" {
    token outputs:surface.connect = </Jar/Brass/Surface.outputs:surface>
    def Shader "Surface" {
      uniform token info:id = "UsdPreviewSurface"
      color3f inputs:diffuseColor.connect = </Jar/Brass/Picture.outputs:rgb>
      float inputs:metallic = 1
      float inputs:roughness = 0.25
      token outputs:surface
    }
    def Shader "Picture" {
      uniform token info:id = "UsdUVTexture"
      asset inputs:file = @art.png@
      float3 outputs:rgb
    }
  }
}
`;

describe('server: readers of strangers’ files', () => {
  let readers: Readers;
  before(() => (readers = readerPool()));
  after(() => readers.close());

  const bring = (fileName: string, content: string | Uint8Array, seconds = 60): Promise<ModelRead> =>
    readers.run<ModelRead>(
      { kind: 'model', fileName, path: stored(fileName, content), resources: {}, out: join(folder, 'out.glb') },
      { seconds, tooHeavy: heavy },
    );
  const refused = async (fileName: string, content: string | Uint8Array): Promise<Problem> => {
    const error: unknown = await bring(fileName, content).catch((e: unknown) => e);
    expect(error, JSON.stringify(error)).instanceOf(Problem);
    return error as Problem;
  };

  it('take OBJ, and write what is drawn from', async () => {
    const { product, report } = await bring('lid.obj', 'v 0 0 0\nv 80 0 0\nv 80 50 0\nv 0 50 0\nf 1 2 3 4\n');
    expect(product).include({ name: 'lid', scale: 0.001 });
    expect(report).include({ triangles: 2, unit: 'mm' });
    const model = await readModel(new Uint8Array(await readFile(join(folder, 'out.glb'))));
    expect(model.parts[0].mesh.positions).length(12);
  });

  it('take USD as text and as a package, with its surface and its picture', async () => {
    const text = await bring('jar.usda', SQUARE);
    expect(text.report.triangles).equal(2);
    expect(text.product.finishes[0]).include({ metallic: 1, roughness: 0.25 });
    expect(text.report.notes.join()).contain('not with it');
    const art = await sharp({ create: { width: 4, height: 4, channels: 3, background: '#ff0000' } })
      .png()
      .toBuffer();
    const archive = zipSync(
      { 'jar.usda': new TextEncoder().encode(SQUARE), 'art.png': new Uint8Array(art) },
      { level: 0 },
    );
    const { product, report } = await bring('jar.usdz', archive);
    expect(report).deep.include({ triangles: 2, notes: [] });
    expect(product.parts[0].name).equal('Lid');
    expect(product.finishes[0].textures.baseColor).include({ image: 0 });
    const model = await readModel(new Uint8Array(await readFile(join(folder, 'out.glb'))));
    expect(Math.min(...model.parts[0].mesh.positions.filter((_, i) => i % 3 === 1))).closeTo(2, 1e-6);
    expect(model.images).length(1);
  });

  it('refuse what is none, by its name and in the words of a person', async () => {
    expect((await refused('jar.usdz', zipSync({ 'notes.txt': new Uint8Array(9) }))).message).contain('"jar.usdz"');
    expect((await refused('jar.usda', 'hello')).message).match(/"jar\.usda" (could not be read|holds no)/);
    expect((await refused('jar.stl', 'hello')).code).equal('model/broken');
    expect((await refused('jar.glb', '{"asset":{"version":"2.0"},"images":7}')).message).not.match(
      /undefined|function/,
    );
  });

  it('make textures plain: upright as stored, eight bits, without a profile', async () => {
    const deep = await sharp({ create: { width: 4, height: 2, channels: 3, background: '#804020' } })
      .toColourspace('rgb16')
      .png()
      .toBuffer();
    const uri = `data:image/png;base64,${deep.toString('base64')}`;
    const points = Buffer.from(Float32Array.from([0, 0, 0, 0.1, 0, 0, 0, 0.1, 0]).buffer);
    const gltf = {
      asset: { version: '2.0' },
      scenes: [{ nodes: [0] }],
      nodes: [{ mesh: 0 }],
      meshes: [{ primitives: [{ attributes: { POSITION: 0 }, material: 0 }] }],
      materials: [{ pbrMetallicRoughness: { baseColorTexture: { index: 0 } } }],
      textures: [{ source: 0 }],
      images: [{ uri }],
      accessors: [{ bufferView: 0, componentType: 5126, count: 3, type: 'VEC3', min: [0, 0, 0], max: [0.1, 0.1, 0] }],
      bufferViews: [{ buffer: 0, byteLength: 36 }],
      buffers: [{ byteLength: 36, uri: `data:application/octet-stream;base64,${points.toString('base64')}` }],
    };
    expect((await sharp(deep).metadata()).depth).equal('ushort');
    await bring('deep.gltf', JSON.stringify(gltf));
    const model = await readModel(new Uint8Array(await readFile(join(folder, 'out.glb'))));
    const facts = await sharp(model.images[0].bytes).metadata();
    expect(facts).include({ depth: 'uchar', width: 4, height: 2 });
    const { data } = await sharp(model.images[0].bytes).raw().toBuffer({ resolveWithObject: true });
    expect([...data.subarray(0, 3)]).deep.equal([0x80, 0x40, 0x20]);
    gltf.images[0].uri = 'data:image/png;base64,iVBORw0KGgo=';
    expect((await refused('bad.gltf', JSON.stringify(gltf))).code).equal('picture/broken');
  });
});

describe('server: child processes with limits', () => {
  const url = new URL('./limits-child.ts', import.meta.url);
  type Task = { kind: 'fill'; mb: number } | { kind: 'hang' | 'crash' | 'who' } | { kind: 'fail'; thing: string };
  let pool: ChildPool<Task>;
  beforeEach(() => (pool = new ChildPool<Task>(url, { atOnce: 2, memoryMb: 700, keepMb: 300 })));
  afterEach(() => pool.close());
  const run = <R>(task: Task, seconds = 30, signal?: AbortSignal): Promise<R> =>
    pool.run<R>(task, { seconds, tooHeavy: heavy, signal });
  const outcome = (work: Promise<unknown>): Promise<unknown> => work.catch((error: unknown) => error);

  it('one that takes more memory than it may, outside its heap, is ended', async () => {
    expect(await outcome(run({ kind: 'fill', mb: 1500 }))).equal(heavy);
    expect(await run<number>({ kind: 'who' })).above(0);
  });

  it('one that never ends, and one that breaks down, give the same sentence', async () => {
    expect(await outcome(run({ kind: 'hang' }, 1))).equal(heavy);
    expect(await outcome(run({ kind: 'crash' }))).equal(heavy);
  });

  it('what it reports is a problem again here, and other faults do not carry a path', async () => {
    const problem = (await outcome(run({ kind: 'fail', thing: 'jar.glb' }))) as Problem;
    expect(problem).instanceOf(Problem);
    expect(problem).include({ code: 'test/failed', thing: 'jar.glb' });
  });

  it('is kept while it is small, and gone with its memory when it has grown', async () => {
    const first = await run<number>({ kind: 'who' });
    expect(await run<number>({ kind: 'who' })).equal(first);
    await run({ kind: 'fill', mb: 350 });
    expect(await run<number>({ kind: 'who' })).not.equal(first);
  });

  it('two are at work at a time, the others wait in turn, and whoever gives up leaves the queue', async () => {
    const abort = new AbortController();
    const hanging = [1, 2].map(() => outcome(run({ kind: 'hang' }, 30, abort.signal)));
    const leaving = new AbortController();
    const waiting = outcome(run({ kind: 'who' }, 30, leaving.signal));
    const third = run<number>({ kind: 'who' });
    leaving.abort();
    expect((await waiting) as Error).property('name', 'AbortError');
    // Whoever left had no place to give away: the third still waits.
    const soon = new Promise<string>((done) => setTimeout(() => done('waiting'), 1500));
    expect(await Promise.race([third, soon])).equal('waiting');
    abort.abort();
    for (const work of hanging) expect((await work) as Error).property('name', 'AbortError');
    expect(await third).above(0);
  });
});
