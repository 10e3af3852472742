import { expect } from 'chai';
import { triangleCount, type Mesh } from '@tender-orbit/core/geometry';
import { importModel, readModel, type ImportedModel } from '@tender-orbit/core/interchange';
import { Problem } from '@tender-orbit/core/problem';
import { decoders, RED_PNG } from './model-files.ts';

const bytesOf = (text: string): Uint8Array => new TextEncoder().encode(text);

async function bring(
  name: string,
  content: string | Uint8Array,
  resources: Record<string, string | Uint8Array> = {},
): Promise<ImportedModel> {
  const files = Object.fromEntries(
    Object.entries(resources).map(([key, value]) => [key, typeof value === 'string' ? bytesOf(value) : value]),
  );
  return importModel(name, typeof content === 'string' ? bytesOf(content) : content, files, await decoders());
}

async function refusal(name: string, content: string | Uint8Array): Promise<Problem> {
  const error = await bring(name, content).then(
    () => null,
    (e: unknown) => e,
  );
  expect(error, String(error)).instanceOf(Problem);
  const { message } = error as Problem;
  expect(message).contain(name).match(/[.]$/);
  expect(message).not.match(/undefined|NaN|RangeError|Invalid|offset/);
  return error as Problem;
}

/** Area of a mesh seen from +Z, with the sign of its winding. */
function areaFromFront({ positions, indices }: Mesh): number {
  let area = 0;
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => indices[t + k] * 3);
    area +=
      ((positions[b] - positions[a]) * (positions[c + 1] - positions[a + 1]) -
        (positions[c] - positions[a]) * (positions[b + 1] - positions[a + 1])) /
      2;
  }
  return area;
}

/** A crescent: half a ring, which fans would fill. Its area is 3 pi / 8 as the corners grow many. */
function crescent(corners: number): Array<[number, number]> {
  const arc = (radius: number, from: number, to: number): Array<[number, number]> =>
    Array.from({ length: corners }, (_, i) => {
      const angle = from + ((to - from) * i) / (corners - 1);
      return [radius * Math.cos(angle), radius * Math.sin(angle)];
    });
  return [...arc(1, 0, Math.PI), ...arc(0.5, Math.PI, 0)];
}

function polygonArea(points: ReadonlyArray<[number, number]>): number {
  return points.reduce((sum, [x, y], i) => {
    const [nx, ny] = points[(i + 1) % points.length];
    return sum + (x * ny - nx * y) / 2;
  }, 0);
}

describe('interchange: OBJ', () => {
  it('cuts concave polygons in their plane, whichever way the plane lies', async () => {
    const points = crescent(12);
    for (const turned of [([x, y]: number[]) => [x, y, 0], ([x, y]: number[]) => [0, x, y]]) {
      const text = points.map((p) => `v ${turned(p).join(' ')}`).join('\n');
      const { model, report } = await bring('moon.obj', `${text}\nf ${points.map((_, i) => i + 1).join(' ')}\n`);
      expect(report.triangles).equal(points.length - 2);
      const { mesh } = model.parts[0];
      const flat = { ...mesh, positions: mesh.positions.slice() };
      if (turned([1, 0])[0] === 0)
        for (let i = 0; i < flat.positions.length; i += 3)
          flat.positions.set([mesh.positions[i + 1], mesh.positions[i + 2], 0], i);
      expect(areaFromFront(flat)).closeTo(polygonArea(points), 1e-5);
      expect(polygonArea(points)).closeTo((3 * Math.PI) / 8, 0.02);
    }
  });

  it('keeps the winding of a polygon that goes round the other way, and of concave quads', async () => {
    const points = crescent(8).reverse();
    const text = points.map(([x, y]) => `v ${x} ${y} 0`).join('\n');
    const { model } = await bring('moon.obj', `${text}\nf ${points.map((_, i) => i + 1).join(' ')}\n`);
    expect(areaFromFront(model.parts[0].mesh)).closeTo(polygonArea(points), 1e-5);
    const arrow = await bring('arrow.obj', 'v 0 0 0\nv 1 0.2 0\nv 0 1 0\nv 0.3 0.25 0\nf 1 2 3 4\n');
    const around: Array<[number, number]> = [
      [0, 0],
      [1, 0.2],
      [0, 1],
      [0.3, 0.25],
    ];
    expect(areaFromFront(arrow.model.parts[0].mesh)).closeTo(polygonArea(around), 1e-6);
  });

  const TRIANGLE = 'v 0 0 0\nv 0.1 0 0\nv 0 0.1 0\nvt 0 0\nvt 1 0\nvt 0 1\n';

  it('reads names and paths with spaces, options of pictures, and other cases of a file name', async () => {
    const { model, report } = await bring(
      'lid.obj',
      `mtllib my finishes.mtl\no The lid of the jar\n${TRIANGLE}usemtl Dark brass\nf 1/1 2/2 3/3\n`,
      {
        'My Finishes.mtl':
          'newmtl Dark brass\nKd 0.5 0.5 0.5\nPr 0.25\nPm 1\nmap_Kd -s 2 3 1 -o 0.1 0.2 -clamp on art\\heather art.PNG\n' +
          'norm -bm 0.4 heather normal.png\nmap_d cut out.png\n',
        'heather art.PNG': RED_PNG,
        'heather normal.png': RED_PNG,
      },
    );
    expect(model.parts[0].name).equal('The lid of the jar');
    const [finish] = model.finishes;
    expect(finish).include({ name: 'Dark brass', roughness: 0.25, metallic: 1 });
    expect(finish.textures.baseColor).deep.include({ image: 0, scale: [2, 3], wrap: ['clamp', 'clamp'] });
    // From the top rather than the bottom: 1 - 3 (1 - v) - 0.2.
    expect(finish.textures.baseColor!.offset[0]).closeTo(0.1, 1e-9);
    expect(finish.textures.baseColor!.offset[1]).closeTo(1 - 3 - 0.2, 1e-9);
    expect(finish.textures.normal).deep.include({ image: 1, strength: 0.4 });
    expect(model.images.map(({ name }) => name)).deep.equal(['heather art.PNG', 'heather normal.png']);
    expect(report.notes.join(' ')).contain('cut out.png').contain('left out');
  });

  it('turns texture coordinates to count from the top', async () => {
    const { model } = await bring('lid.obj', `${TRIANGLE}f 1/1 2/2 3/3\n`);
    expect([...model.parts[0].mesh.uvs]).deep.equal([0, 1, 1, 1, 0, 0]);
  });

  it('counts indices back from the end, joins lines, and shares corners that are the same', async () => {
    const { model } = await bring('lid.obj', `${TRIANGLE}v 0.1 0.1 0\nf -4 -3 \\\n -1 -2\n`);
    const { mesh } = model.parts[0];
    expect(triangleCount(mesh)).equal(2);
    expect(mesh.positions).length(4 * 3);
  });

  it('says what of it is points and lines, and refuses a file of nothing else', async () => {
    const { report } = await bring('lid.obj', `${TRIANGLE}f 1 2 3\np 1\np 2\nl 1 2\n`);
    expect(report.triangles).equal(1);
    expect(report.notes).deep.equal(['2 points and 1 line were left out.']);
    expect((await refusal('scan.obj', 'v 0 0 0\nv 1 0 0\np 1 2\nl 1 2\n')).message).contain('only points and lines');
  });

  it('has colours of vertices where the file has them', async () => {
    const { model } = await bring('lid.obj', 'v 0 0 0 1 0 0\nv 1 0 0 0 1 0\nv 0 1 0 0 0 0.5\nf 1 2 3\n');
    const colors = model.parts[0].mesh.colors!;
    expect([...colors.subarray(0, 8)]).deep.equal([1, 0, 0, 1, 0, 1, 0, 1]);
    expect(colors[10]).closeTo(0.214, 0.001);
    expect(model.finishes[0].baseColor).deep.equal([1, 1, 1]);
  });

  it('joins thousands of groups by finish, and says so', async () => {
    let text = TRIANGLE;
    for (let g = 0; g < 3000; g++) text += `g piece ${g}\nusemtl ${g % 2 ? 'Brass' : 'Cork'}\nf 1 2 3\n`;
    const { model, report } = await bring('kit.obj', text);
    expect(model.parts.map(({ name }) => name)).deep.equal(['Cork', 'Brass']);
    expect(report.triangles).equal(3000);
    expect(report.notes.join()).contain('joined by finish');
  });

  it('passes over bytes that are no text, wherever they stand', async () => {
    const { report } = await bring('lid.obj', `${TRIANGLE}f 1\x00 2 \x0b 3\nf \x01\n\x02\n`);
    expect(report.triangles).equal(1);
  });

  it('passes over faces that name corners which are not there', async () => {
    const { report } = await bring('lid.obj', `${TRIANGLE}f 1 2 3\nf 1 2 900\nf 1 2 x\n`);
    expect(report.triangles).equal(1);
  });
});

interface PlyFields {
  vertex?: string;
  face?: string;
  header?: string;
}

function asciiPly(
  vertices: string[],
  faces: string[],
  { vertex = '', face = '', header = '' }: PlyFields = {},
): string {
  return [
    'ply\nformat ascii 1.0\ncomment made for a test',
    `element vertex ${vertices.length}\nproperty float x\nproperty float y\nproperty float z${vertex}`,
    `element face ${faces.length}\nproperty list uchar int vertex_indices${face}${header}\nend_header`,
    ...vertices,
    ...faces,
    '',
  ].join('\n');
}

describe('interchange: PLY', () => {
  const SQUARE = ['0 0 0', '0.1 0 0', '0.1 0.1 0', '0 0.1 0'];

  it('reads text and bytes of either order the same', async () => {
    const text = await bring('square.ply', asciiPly(SQUARE, ['4 0 1 2 3']));
    for (const little of [true, false]) {
      const header = `ply\nformat binary_${little ? 'little' : 'big'}_endian 1.0\nelement vertex 4\nproperty double x\nproperty double y\nproperty double z\nproperty uchar red\nproperty uchar green\nproperty uchar blue\nelement face 1\nproperty list ushort short vertex_index\nend_header\n`;
      const body = new DataView(new ArrayBuffer(4 * 27 + 10));
      SQUARE.forEach((line, i) => {
        line.split(' ').forEach((v, c) => body.setFloat64(i * 27 + c * 8, Number(v), little));
        body.setUint8(i * 27 + 24, 255);
      });
      body.setUint16(108, 4, little);
      [0, 1, 2, 3].forEach((v, i) => body.setInt16(110 + i * 2, v, little));
      const bytes = new Uint8Array([...bytesOf(header), ...new Uint8Array(body.buffer)]);
      const { model } = await bring('square.ply', bytes);
      expect([...model.parts[0].mesh.positions]).deep.equal([...text.model.parts[0].mesh.positions]);
      expect([...model.parts[0].mesh.indices]).deep.equal([...text.model.parts[0].mesh.indices]);
      expect([...model.parts[0].mesh.colors!.subarray(0, 4)]).deep.equal([1, 0, 0, 1]);
    }
  });

  it('cuts concave faces, passes over lists and elements it does not know, and reads strips', async () => {
    const points = crescent(9);
    const face = `${points.length} ${points.map((_, i) => i).join(' ')} 7`;
    const moon = asciiPly(
      points.map(([x, y]) => `${x} ${y} 0`),
      [face],
      { face: '\nproperty int flags' },
    );
    expect(areaFromFront((await bring('moon.ply', moon)).model.parts[0].mesh)).closeTo(polygonArea(points), 1e-5);
    const strip = `ply\nformat ascii 1.0\nelement cloud 1\nproperty list int float values\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\nelement tristrips 1\nproperty list int int vertex_indices\nend_header\n3 1 2 3\n0 0 0\n1 0 0\n0 1 0\n1 1 0\n5 0 1 2 3 -1\n`;
    const { model } = await bring('strip.ply', strip);
    expect(areaFromFront(model.parts[0].mesh)).closeTo(1, 1e-6);
  });

  it('refuses at once a small file that claims a hundred and twenty million points', async () => {
    const claim = `ply\nformat binary_little_endian 1.0\nelement vertex 120000000\nproperty float x\nproperty float y\nproperty float z\nelement face 0\nproperty list uchar int vertex_indices\nend_header\n`;
    expect((await refusal('huge.ply', claim)).code).equal('model/too-heavy');
    const fewer = claim.replace('120000000', '9000000');
    expect((await refusal('huge.ply', fewer)).message).contain('is cut off');
    const list = asciiPly(SQUARE, ['4000000000 0 1 2']);
    expect((await refusal('list.ply', list)).code).equal('model/broken');
    const empty =
      'ply\nformat ascii 1.0\nelement nothing 9007199254740991\nelement vertex 1\nproperty float x\nproperty float y\nproperty float z\nend_header\n0 0 0\n';
    expect((await refusal('nothing.ply', empty)).code).equal('model/no-triangles');
  });

  it('says that a cloud is no surface, and names what is wrong of a broken header', async () => {
    expect((await refusal('scan.ply', asciiPly(SQUARE, []))).message).contain('only points');
    expect((await refusal('a.ply', 'ply\nformat ascii 1.0\nelement vertex x\n')).message).contain('"vertex"');
    expect((await refusal('a.ply', 'ply\nformat ascii 1.0\nelement vertex 1\nproperty quad x\n')).message).contain(
      'quad',
    );
    expect((await refusal('a.ply', asciiPly(SQUARE, ['3 0 1 9']))).message).contain('face 1');
    expect((await refusal('a.ply', 'something else')).code).equal('model/broken');
  });
});

function binaryStl(
  triangles: number[][],
  { header = '', bits = [] as number[], claimed = triangles.length } = {},
): Uint8Array {
  const view = new DataView(new ArrayBuffer(84 + triangles.length * 50));
  bytesOf(header).forEach((byte, i) => view.setUint8(i, byte));
  view.setUint32(80, claimed, true);
  triangles.forEach((corners, t) => {
    corners.forEach((v, i) => view.setFloat32(84 + t * 50 + 12 + i * 4, v, true));
    view.setUint16(84 + t * 50 + 48, bits[t] ?? 0, true);
  });
  return new Uint8Array(view.buffer);
}

/** Sides of a prism round Z, two triangles each. */
function prism(sides: number): number[][] {
  const at = (i: number, z: number): number[] => {
    const angle = (2 * Math.PI * (i % sides)) / sides;
    return [0.1 * Math.cos(angle), 0.1 * Math.sin(angle), z];
  };
  return Array.from({ length: sides }, (_, i) => [
    [...at(i, 0), ...at(i + 1, 0), ...at(i + 1, 0.2)],
    [...at(i, 0), ...at(i + 1, 0.2), ...at(i, 0.2)],
  ]).flat();
}

describe('interchange: STL', () => {
  it('stands upright from Z, in text as in bytes', async () => {
    const facets = prism(6)
      .map(
        (c) =>
          `facet normal 0 0 0\nouter loop\n${[0, 3, 6].map((i) => `vertex ${c.slice(i, i + 3).join(' ')}`).join('\n')}\nendloop\nendfacet`,
      )
      .join('\n');
    const text = await bring('prism.stl', `solid The prism\n${facets}\nendsolid\n`);
    const bytes = await bring('prism.stl', binaryStl(prism(6), { header: 'solid in name only' }));
    for (const { report } of [text, bytes]) {
      expect(report.triangles).equal(12);
      expect(report.size[1]).closeTo(0.2, 1e-6);
      expect(report.notes.join()).contain('upright');
    }
    expect(text.model.parts[0].name).equal('The prism');
    expect(bytes.model.parts[0].name).equal('prism');
  });

  it('shades facets that meet gently as one surface, and keeps corners sharp', async () => {
    const round = (await bring('round.stl', binaryStl(prism(36)))).model.parts[0].mesh;
    const square = (await bring('square.stl', binaryStl(prism(4)))).model.parts[0].mesh;
    // Every corner of the round one is shared; each edge of the square one has a vertex on both sides.
    expect(round.positions.length / 3).equal(36 * 2);
    expect(square.positions.length / 3).equal(4 * 4);
    const outward = (mesh: Mesh, v: number): number =>
      (mesh.normals[v * 3] * mesh.positions[v * 3] + mesh.normals[v * 3 + 2] * mesh.positions[v * 3 + 2]) / 0.1;
    for (let v = 0; v < 72; v++) expect(outward(round, v)).closeTo(1, 0.01);
    for (let v = 0; v < 16; v++) expect(outward(square, v)).closeTo(Math.SQRT1_2, 0.01);
  });

  it('reads colours of facets in both ways that are in use', async () => {
    const [red, blue] = [0x7c00, 0x001f];
    const own = await bring('a.stl', binaryStl(prism(4), { bits: [0x8000 | red, 0x8000 | blue] }));
    const colours = ({ mesh }: { mesh: Mesh }, triangle: number): number[] => {
      const v = mesh.indices[triangle * 3] * 4;
      return [...mesh.colors!.subarray(v, v + 3)];
    };
    expect([0, 1, 2].map((t) => colours(own.model.parts[0], t))).deep.equal([
      [1, 0, 0],
      [0, 0, 1],
      [1, 1, 1],
    ]);
    const header = 'COLOR=\x00\x7f\x00\x7f';
    const usual = await bring('b.stl', binaryStl(prism(4), { header, bits: [red, 0x8000] }));
    expect(colours(usual.model.parts[0], 0)).deep.equal([0, 0, 1]);
    expect(colours(usual.model.parts[0], 1)[1]).closeTo(0.212, 0.001);
  });

  it('refuses what is cut off, and a count that is a lie', async () => {
    expect((await refusal('cut.stl', binaryStl(prism(4)).subarray(0, 200))).message).contain('is cut off');
    expect((await refusal('lie.stl', binaryStl(prism(4), { claimed: 80_000_000, header: '\x01' }))).message).contain(
      'cut off',
    );
    expect((await refusal('no.stl', 'hello')).code).equal('model/broken');
  });
});

describe('interchange: units', () => {
  const triangle = (size: number): string => `v 0 0 0\nv ${size} 0 0\nv 0 ${size} 0\nf 1 2 3\n`;

  it('takes large numbers of formats without a unit as millimetres, and offers the others', async () => {
    expect((await bring('jar.obj', triangle(120))).report).deep.include({ unit: 'mm', units: ['cm', 'in'] });
    expect((await bring('jar.obj', triangle(0.12))).report).deep.include({ unit: 'm', units: [] });
    expect((await bring('ship.obj', triangle(900000))).report).deep.include({ unit: 'm', units: [] });
    const { report } = await bring('jar.obj', triangle(2));
    expect(report.unit).equal('m');
    expect(report.units).deep.equal(['in', 'cm']);
  });

  it('writes a model that reads back the same', async () => {
    const { glb, model } = await bring('jar.obj', triangle(0.12));
    const again = await readModel(glb);
    expect(again.parts.map(({ name }) => name)).deep.equal(model.parts.map(({ name }) => name));
    expect([...again.parts[0].mesh.positions]).deep.equal([...model.parts[0].mesh.positions]);
  });
});
