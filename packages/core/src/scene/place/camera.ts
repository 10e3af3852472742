import { vec3 } from 'gl-matrix';
import { apertureRadius, verticalFov } from '../../camera/index.ts';
import type { SetCamera } from '../../document/index.ts';
import { aimMatrix, type Vec3 } from '../../geometry/index.ts';
import { exposureScale } from '../../light/index.ts';
import type { TableauCamera } from '../tableau.ts';

/** A camera of the set. @param focus what it keeps in focus, or null for its own distance. */
export function placeCamera(camera: SetCamera, aspect: number, focus: Vec3 | null): TableauCamera {
  const matrix = aimMatrix(camera.position, camera.aim, camera.roll);
  const depth = focus ? -[0, 1, 2].reduce((d, a) => d + (focus[a] - camera.position[a]) * matrix[8 + a], 0) : 0;
  return {
    id: camera.id,
    position: [...camera.position],
    aim: [...camera.aim],
    matrix,
    verticalFov: verticalFov(camera.focalLength, camera.sensorWidth, aspect),
    aspect,
    apertureRadius: apertureRadius(camera.focalLength, camera.fNumber),
    blades: camera.blades,
    focusDistance: depth > 0.01 ? depth : camera.focus > 0 ? camera.focus : vec3.distance(camera.position, camera.aim),
    shift: [camera.shiftX * 2, camera.shiftY * 2],
    exposureScale: exposureScale(camera.exposure),
  };
}
