import { shortened } from '../text/index.ts';
import { MOST_LUMENS, newCamera, plainLight, type SetCommand, type SetLight } from '../document/index.ts';
import type { FileCamera, FileLight } from '../interchange/index.ts';
import type { Vec3 } from '../geometry/index.ts';
import { tan } from '../maths/index.ts';

/** Lights and cameras that stand in a model file. */
export interface FileRig {
  lights: readonly FileLight[];
  cameras: readonly FileCamera[];
}

const HALF = Math.PI / 360;
const SENSOR = 36;
const clamp = (value: number, min: number, max: number): number => Math.min(max, Math.max(min, value));

/**
 * Puts the lights and cameras of a model file on the set, where they stand in the file.
 *
 * @param scale metres in one of the file's numbers
 * @param aspect width of the picture by its height
 * @param prefix begins the ids, which must not be taken
 */
export function addRig({ lights, cameras }: FileRig, scale: number, aspect: number, prefix: string): SetCommand {
  const placed = ({ position, aim }: { position: Vec3; aim: Vec3 }): { position: Vec3; aim: Vec3 } => {
    const from = position.map((v) => v * scale) as Vec3;
    // The aim lies a metre before it, whatever the file's unit.
    return { position: from, aim: from.map((v, a) => v + aim[a] - position[a]) as Vec3 };
  };
  return {
    label: 'Add lights and cameras of the file',
    run: (set) => {
      lights.forEach((light, i) => set.lights.push({ ...setLight(light, `${prefix}-light-${i}`), ...placed(light) }));
      cameras.forEach((camera, i) => {
        const height = SENSOR / aspect;
        const focalLength = clamp(height / 2 / tan(camera.fieldOfView * HALF), 4, 1200);
        set.cameras.push({
          ...newCamera(`${prefix}-camera-${i}`, shortened(camera.name, 120)),
          ...placed(camera),
          ...{ focalLength, sensorWidth: SENSOR },
        });
      });
    },
  };
}

function setLight(light: FileLight, id: string): Omit<SetLight, 'position' | 'aim'> {
  return {
    ...plainLight(),
    ...{ id, name: shortened(light.name, 120), role: 'key', shape: light.shape, kelvin: light.kelvin },
    ...{ width: 0.05, height: 0.05, lumens: clamp(light.lumens, 0, MOST_LUMENS), softness: light.softness },
    beamAngle: clamp(light.beamAngle, 0, 175),
  };
}
