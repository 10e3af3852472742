import { expect } from 'chai';
import { readModel } from '@tender-orbit/core/interchange';
import { toGlb, type NamedFile } from '../src/products/foreign-models.ts';

const file = (name: string, content: string | Uint8Array): NamedFile => ({
  name,
  arrayBuffer: () => {
    const bytes = typeof content === 'string' ? new TextEncoder().encode(content) : content;
    return Promise.resolve(bytes.slice().buffer as ArrayBuffer);
  },
});

const CUBE = `mtllib cube.mtl
o Lid
v 0 0 0
v 1 0 0
v 1 1 0
v 0 1 0
vt 0 0
vt 1 0
vt 1 1
vt 0 1
usemtl Brass
f 1/1 2/2 3/3 4/4
usemtl Label
f 4/4 3/3 2/2 1/1
`;
const MTL = `newmtl Brass
Kd 0.8 0.6 0.2
Pm 1
Pr 0.3
newmtl Label
Kd 1 1 1
Ns 98
map_Kd art/label.png
`;
const PIXEL = Uint8Array.from(
  atob('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='),
  (c) => c.charCodeAt(0),
);
const STL = `solid cap
facet normal 0 0 1
outer loop
vertex 0 0 40
vertex 60 0 40
vertex 0 60 40
endloop
endfacet
endsolid cap`;
const PLY = `ply
format ascii 1.0
element vertex 3
property float x
property float y
property float z
property uchar red
property uchar green
property uchar blue
element face 1
property list uchar int vertex_indices
end_header
0 0 0 255 0 0
0.1 0 0 0 255 0
0 0.1 0 0 0 255
3 0 1 2
`;

describe('web: models of other kinds', () => {
  it('OBJ with its MTL: parts by finish, with its picture', async () => {
    const files = [file('cube.obj', CUBE), file('cube.mtl', MTL), file('label.png', PIXEL)];
    const { glb, notes } = await toGlb(files[0], files);
    const model = await readModel(glb);
    expect(model.parts.length).equal(2);
    const [brass, label] = ['Brass', 'Label'].map((name) => model.finishes.find((f) => f.name === name)!);
    expect(brass.metallic).equal(1);
    expect(brass.roughness).closeTo(0.3, 1e-6);
    expect(label.roughness).closeTo(Math.sqrt(0.02), 1e-6);
    expect(label.textures.baseColor).not.equal(undefined);
    expect(model.images.length).equal(1);
    expect(notes).deep.equal([]);
    for (const { mesh } of model.parts) expect(mesh.indices.length).equal(6);
  });

  it('OBJ alone is taken, and what was missing is said', async () => {
    const { glb, notes } = await toGlb(file('cube.obj', CUBE), []);
    expect((await readModel(glb)).parts.length).equal(2);
    expect(notes.join(' ')).match(/"cube.mtl" was not with it/);
    const files = [file('cube.obj', CUBE), file('cube.mtl', MTL)];
    expect((await toGlb(files[0], files)).notes.join(' ')).match(/label.png" was not with it/);
  });

  it('STL is set upright and read as millimetres when it is large', async () => {
    const { glb, notes } = await toGlb(file('cap.stl', STL), []);
    const [{ mesh }] = (await readModel(glb)).parts;
    const heights = mesh.positions.filter((_, i) => i % 3 === 1);
    heights.forEach((y) => expect(y).closeTo(0.04, 1e-6));
    expect(mesh.normals[1]).closeTo(1, 1e-6);
    expect(notes.length).equal(2);
  });

  it('PLY keeps its colours, gets normals, and its size when that is sensible', async () => {
    const { glb, notes } = await toGlb(file('scan.ply', PLY), []);
    const [{ mesh }] = (await readModel(glb)).parts;
    expect([...mesh.colors!.subarray(0, 4)]).deep.equal([1, 0, 0, 1]);
    expect(mesh.normals[2]).closeTo(1, 1e-6);
    expect(Math.max(...mesh.positions)).closeTo(0.1, 1e-6);
    expect(notes).deep.equal([]);
  });

  it('a file without triangles, or one that is something else, is refused by name', async () => {
    for (const [name, content] of [
      ['empty.obj', '# nothing\n'],
      ['words.stl', 'solid words\nendsolid words'],
      ['words.ply', 'a letter'],
    ]) {
      let message = '';
      await toGlb(file(name, content), []).catch((error: Error) => (message = error.message));
      expect(message).match(new RegExp(`"${name}"`));
    }
  });
});
