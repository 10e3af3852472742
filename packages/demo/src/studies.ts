import { newCard, plainLight, type SetDocument, type SetLight } from '@tender-orbit/core/document';
import { demoSet, type DemoProducts } from './demo-set.ts';

/** One way to light the demo's jar. */
export interface Study {
  name: string;
  set: SetDocument;
  camera: string;
}

/** The same table lit six ways: what each light, card and floor does to it. */
export function studies(products: DemoProducts): Study[] {
  const full = demoSet(products);
  const light = (id: string, values: Partial<SetLight> = {}): SetLight => ({
    ...full.lights.find((l) => l.id === id)!,
    ...values,
  });
  const dim = { ...full.environment, intensity: 14 };
  const [sweep] = full.surfaces;
  const jarOnly = full.products.filter((p) => p.id === 'jar');
  const hero = full.cameras[0];
  return [
    { name: 'Key only', camera: 'hero', set: { ...full, lights: [light('key')], environment: dim, surfaces: [sweep] } },
    {
      name: 'Rim and flag',
      camera: 'hero',
      set: {
        ...full,
        environment: dim,
        lights: [
          light('rim', { lumens: 11000 }),
          light('rim', { id: 'rim-left', name: 'Rim left', position: [-0.5, 0.4, -0.42], lumens: 5000, kelvin: 6500 }),
          light('glow', { lumens: 34 }),
        ],
        // Between the left rim and the box, whose face would otherwise take the eye.
        surfaces: [
          sweep,
          newCard('flag', 'Flag', '#050505', {
            width: 0.3,
            height: 0.4,
            position: [-0.3, 0.2, -0.24],
            aim: [-0.1, 0.1, -0.1],
          }),
        ],
      },
    },
    { name: 'Full set', camera: 'hero', set: full },
    {
      name: 'Glossy floor',
      camera: 'hero',
      set: {
        ...full,
        products: jarOnly,
        surfaces: [
          {
            ...sweep,
            ...(sweep.kind === 'sweep' && { mirror: { strength: 0.75, blur: 0.05, reach: 0.16 } }),
            colour: '#171318',
            roughness: 0.3,
          },
          ...full.surfaces.slice(1),
        ],
        cameras: [{ ...hero, position: [0.02, 0.055, 0.6], aim: [0, 0.032, 0] }],
      },
    },
    {
      name: 'Glass close up, f/2.8',
      camera: 'hero',
      set: {
        ...full,
        lights: [...full.lights.filter((l) => l.id !== 'glow'), light('glow', { lumens: 40 })],
        cameras: [
          {
            ...hero,
            ...{ position: [0.075, 0.105, 0.2], aim: [0.004, 0.062, 0], focalLength: 100, fNumber: 2.8, blades: 7 },
            focus: 0.195,
            focusOn: '',
          },
        ],
      },
    },
    {
      name: 'Leaves before a spot',
      camera: 'hero',
      set: {
        ...full,
        environment: dim,
        surfaces: [sweep],
        lights: [
          {
            ...plainLight(),
            ...{ id: 'sunny', name: 'Sunny spot', role: 'key' as const, shape: 'spot' as const },
            ...{ width: 0.02, height: 0.02, position: [-0.9, 0.75, 0.5], aim: [0, 0.05, -0.05] },
            ...{ kelvin: 4300, lumens: 2600, beamAngle: 46, softness: 0.3 },
            gobo: { pattern: 'leaves', distance: 0.5, width: 0.5, height: 0.5, repeat: 4, seed: 5 },
          },
          light('fill', { lumens: 500 }),
          light('glow'),
          light('rim', { lumens: 3000 }),
        ],
      },
    },
  ];
}
