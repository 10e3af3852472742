import {
  newCamera,
  newCard,
  newSet,
  newSweep,
  plainItem,
  plainLight,
  plainRoom,
  type SetDocument,
} from '@tender-orbit/core/document';
import { revealSmoke } from './reveal.ts';

/** Ids of the products the set stands on. */
export interface DemoProducts {
  jar: string;
  dipper: string;
  box: string;
}

/**
 * Jar in front, box behind to the left, dipper lying to the right; big soft key, weak fill, warm narrow rim, a pool of light
 * on the backdrop, and a small light behind the jar that touches nothing else.
 */
export function demoSet(products: DemoProducts): SetDocument {
  const place = plainItem();
  return {
    ...newSet('Heather table'),
    products: [
      { ...place, id: 'jar', name: 'Heather jar', product: products.jar, position: [0, 0, 0], turn: 0 },
      { ...place, id: 'box', name: 'Gift box', product: products.box, position: [-0.1, 0, -0.11], turn: 22 },
      {
        ...place,
        id: 'dipper',
        name: 'Dipper',
        product: products.dipper,
        position: [0.058, 0, 0.052],
        turn: 62,
        tilt: 90,
      },
    ],
    surfaces: [
      newSweep('sweep', {
        colour: '#3E343F',
        roughness: 0.42,
        depth: 2.2,
        width: 3.6,
        height: 1.6,
        radius: 0.5,
        mirror: { strength: 0.4, blur: 0.12, reach: 0.2 },
      }),
      newCard('bounce', 'Bounce', '#F4F1EA', {
        width: 0.2,
        height: 0.12,
        position: [0.19, 0.065, 0.24],
        aim: [0, 0.05, 0],
      }),
    ],
    lights: [
      {
        ...plainLight(),
        id: 'key',
        name: 'Key',
        role: 'key',
        shape: 'softbox',
        width: 0.5,
        height: 0.7,
        position: [-0.6, 0.5, 0.36],
        aim: [0, 0.05, 0],
        kelvin: 5300,
        lumens: 8200,
      },
      {
        ...plainLight(),
        id: 'fill',
        name: 'Fill',
        role: 'fill',
        shape: 'softbox',
        width: 0.7,
        height: 0.7,
        position: [0.8, 0.4, 0.6],
        aim: [0, 0.05, 0],
        kelvin: 6200,
        lumens: 420,
      },
      {
        ...plainLight(),
        id: 'rim',
        name: 'Rim',
        role: 'rim',
        shape: 'softbox',
        width: 0.12,
        height: 0.4,
        position: [0.46, 0.5, -0.5],
        aim: [0, 0.05, 0],
        gridAngle: 60,
        kelvin: 4300,
        lumens: 7000,
      },
      {
        ...plainLight(),
        id: 'glow',
        name: 'Honey glow',
        role: 'background',
        shape: 'softbox',
        width: 0.12,
        height: 0.09,
        position: [0.022, 0.05, -0.115],
        aim: [0.012, 0.045, 0],
        kelvin: 4600,
        lumens: 20,
        lightLinking: { mode: 'only', things: ['jar'] },
      },
      {
        ...plainLight(),
        id: 'backdrop',
        name: 'Backdrop',
        role: 'background',
        shape: 'spot',
        width: 0.08,
        height: 0.08,
        position: [0.5, 0.95, -0.3],
        aim: [0.1, 0.16, -1.1],
        beamAngle: 58,
        softness: 0.9,
        kelvin: 3900,
        lumens: 1500,
      },
    ],
    effects: [revealSmoke()],
    environment: { id: 'environment', intensity: 70, rotation: 20, seen: true, room: plainRoom() },
    cameras: [
      newCamera('hero', 'Hero', {
        position: [0.04, 0.1, 0.66],
        aim: [0.004, 0.05, 0],
        focalLength: 85,
        fNumber: 8,
        exposure: 0.6,
      }),
      newCamera('lid', 'Lid', {
        position: [-0.16, 0.27, 0.36],
        aim: [0.0, 0.07, 0],
        focalLength: 100,
        fNumber: 5.6,
        exposure: 0.3,
      }),
    ],
  };
}
