import { expect } from 'chai';
import { BufferGeometry, type Group, type Mesh, type MeshBasicMaterial, Scene } from 'three';
import type { Mesh as CoreMesh } from '@tender-orbit/core/geometry';
import type { TableauInstance } from '@tender-orbit/core/scene';
import { LightMean } from '../src/viewer/light-mean.ts';
import { StageGhosts, type Ghost } from '../src/viewer/stage-ghosts.ts';

describe('web: the mean of what a shutter sees', () => {
  const pixels = (...codes: number[]): Uint8ClampedArray =>
    Uint8ClampedArray.from(codes.flatMap((c) => [c, c, c, 255]));

  it('is of light, not of codes: half black and half white is 188', () => {
    const mean = new LightMean();
    mean.add(pixels(0, 255));
    mean.add(pixels(255, 255));
    expect([...mean.mean()]).deep.equal([188, 188, 188, 255, 255, 255, 255, 255]);
  });

  it('of pictures that are alike is the picture, in every code', () => {
    const all = pixels(...Array.from({ length: 256 }, (_, i) => i));
    const mean = new LightMean();
    for (let i = 0; i < 8; i++) mean.add(all);
    expect([...mean.mean()]).deep.equal([...all]);
  });
});

describe('web: ghosts of what moves', () => {
  const shifted = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 2, 0, 1];
  const meshes = ['can', 'lid'].map((name) => ({ name }) as unknown as CoreMesh);
  const instance = {
    ...{ id: 'jar', model: 'm', matrix: shifted },
    parts: [{ index: 0 }, { index: 1, place: { matrix: shifted } }, { index: 0, shell: meshes[0] }],
  } as unknown as TableauInstance;
  const ghost = (later: boolean, strength = 1): Ghost => ({ instance, later, strength });
  const asked: CoreMesh[] = [];
  const geometry = (mesh: CoreMesh): BufferGeometry => {
    asked.push(mesh);
    return new BufferGeometry();
  };
  const drawnIn = (scene: Scene): Mesh[] => (scene.children[0] as Group).children as Mesh[];

  it('are parts where they are then, labels left out, the fainter the further off', () => {
    const scene = new Scene();
    const ghosts = new StageGhosts(scene);
    ghosts.show([ghost(false), ghost(true, 0.5)], 1, () => meshes, geometry);
    const drawn = drawnIn(scene);
    expect(drawn).length(4);
    expect(drawn.map((mesh) => mesh.matrix.elements[13])).deep.equal([2, 4, 2, 4]);
    const [near, far] = [drawn[0], drawn[2]].map((mesh) => mesh.material as MeshBasicMaterial);
    expect(far.opacity).closeTo(near.opacity / 2, 1e-9);
    expect(near.color.getHex()).not.equal(far.color.getHex());
  });

  it('stay the same objects while nothing changed, follow the exposure, and go', () => {
    const scene = new Scene();
    const ghosts = new StageGhosts(scene);
    const list = [ghost(true)];
    ghosts.show(list, 1, () => meshes, geometry);
    const [first] = drawnIn(scene);
    const red = (first.material as MeshBasicMaterial).color.r;
    const count = asked.length;
    ghosts.show(list, 2, () => meshes, geometry);
    expect(drawnIn(scene)[0]).equal(first);
    expect(asked).length(count);
    expect((first.material as MeshBasicMaterial).color.r).closeTo(red / 2, 1e-9);
    ghosts.show(list, 2, () => undefined, geometry);
    expect(drawnIn(scene)).length(0);
    ghosts.dispose();
  });
});
