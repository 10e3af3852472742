import { readFileSync } from 'node:fs';
import { expect } from 'chai';
import { CAMERA, LIGHT, MATERIAL, TEXTURE } from '@tender-orbit/core/trace';

/** The kernel is compiled from another language and cannot import core's tables: here they are held against each other. */
describe('kernel: its tables are those of core', () => {
  const source = readFileSync(new URL('../../kernel/assembly/scene.ts', import.meta.url), 'utf8');
  const constants = new Map([...source.matchAll(/export const (\w+): i32 = (\d+);/g)].map((m) => [m[1], Number(m[2])]));
  const named = (field: string): string => `M_${field.replace(/[A-Z]/g, (c) => `_${c}`).toUpperCase()}`;

  it('material fields', () => {
    const { stride, baseColor, ...fields } = MATERIAL;
    expect(constants.get('MATERIAL_STRIDE')).equal(stride);
    expect(baseColor).equal(0);
    for (const [field, offset] of Object.entries(fields)) expect(constants.get(named(field)), field).equal(offset);
  });

  it('lights, textures and camera', () => {
    expect(constants.get('LIGHT_STRIDE')).equal(LIGHT.stride);
    expect(constants.get('TEXTURE_STRIDE')).equal(TEXTURE.stride);
    const lights = readFileSync(new URL('../../kernel/assembly/lights.ts', import.meta.url), 'utf8');
    for (const offset of [LIGHT.normal, LIGHT.radiance, LIGHT.area, LIGHT.seen])
      expect(lights).contain(`o + ${offset})`);
    const path = readFileSync(new URL('../../kernel/assembly/path.ts', import.meta.url), 'utf8');
    for (const offset of [CAMERA.position, CAMERA.tangent, CAMERA.aspect, CAMERA.aperture, CAMERA.focus])
      expect(path).contain(`at(c, ${offset})`);
  });
});
