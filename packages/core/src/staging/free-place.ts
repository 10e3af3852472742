import { atan2, cos, sin, tan } from '../maths/index.ts';
import { verticalFov } from '../camera/index.ts';
import type { Point, SetCamera } from '../document/index.ts';
import { aimMatrix, emptyBounds, inverse, transformPoint, type Bounds, type Mat4 } from '../geometry/index.ts';

/** Left free between two things, metres. */
const GAP = 0.012;
/** How far from the middle of the set a place is looked for, metres. */
const REACH = 1.5;
/** Share of the picture's half width and height within which a thing lies wholly in it. */
const SAFE = 0.96;

/**
 * Where on the floor a thing of a size (width, height, depth, metres) finds room: as near as possible to what the camera
 * aims at, clear of all that stands there, and whole in the picture. Where the picture has no room left it is the
 * nearest place at all.
 * @param taken boxes of what stands on the set. @param camera null where there is none. @param aspect of the picture.
 */
export function freePlace(
  size: Point,
  taken: readonly Bounds[],
  camera: SetCamera | null | undefined,
  aspect: number,
): [x: number, z: number] {
  const [middleX, , middleZ] = camera?.aim ?? [0, 0, 0];
  const sees = camera ? pictureOf(camera, aspect) : () => true;
  // Beside what the camera aims at comes before in front of it and behind.
  const across = camera ? atan2(camera.position[0] - middleX, camera.position[2] - middleZ) : 0;
  const step = Math.max(0.01, Math.min(size[0], size[2]) / 3);
  let nearest: [number, number] | null = null;
  for (let ring = 0; ring * step <= REACH; ring++) {
    const count = Math.max(1, Math.round(2 * Math.PI * ring));
    const turns = Array.from({ length: count }, (_, i) => (i / count) * 2 * Math.PI);
    turns.sort((a, b) => Math.abs(sin(a)) - Math.abs(sin(b)) || a - b);
    for (const turn of turns) {
      const x = middleX + ring * step * cos(turn - across);
      const z = middleZ + ring * step * sin(turn - across);
      const box = boxAt(size, x, z);
      if (taken.some((other) => meet(box, other))) continue;
      nearest ??= [x, z];
      if (sees(box)) return [x, z];
    }
  }
  return nearest ?? [middleX, middleZ];
}

/**
 * World box of a thing of a size (width, height, depth, metres) whose own origin is the middle of its underside.
 * @param matrix thing to world.
 */
export function standingBox([width, height, depth]: Point, matrix: Mat4): Bounds {
  const box = emptyBounds();
  for (let corner = 0; corner < 8; corner++) {
    const at = transformPoint(matrix, [
      corner & 1 ? width / 2 : -width / 2,
      corner & 2 ? height : 0,
      corner & 4 ? depth / 2 : -depth / 2,
    ]);
    at.forEach((v, k) => {
      box.min[k] = Math.min(box.min[k], v);
      box.max[k] = Math.max(box.max[k], v);
    });
  }
  return box;
}

function boxAt([width, height, depth]: Point, x: number, z: number): Bounds {
  return { min: [x - width / 2, 0, z - depth / 2], max: [x + width / 2, height, z + depth / 2] };
}

function meet(a: Bounds, b: Bounds): boolean {
  return [0, 1, 2].every((k) => {
    const gap = k === 1 ? 0 : GAP;
    return a.min[k] < b.max[k] + gap && a.max[k] > b.min[k] - gap;
  });
}

/** Whether a box lies whole in what a camera sees. */
function pictureOf(camera: SetCamera, aspect: number): (box: Bounds) => boolean {
  const toCamera = inverse(aimMatrix(camera.position, camera.aim, camera.roll));
  const high = tan(verticalFov(camera.focalLength, camera.sensorWidth, aspect) / 2);
  return ({ min, max }) => {
    for (let corner = 0; corner < 8; corner++) {
      const [x, y, z] = transformPoint(toCamera, [
        (corner & 1 ? max : min)[0],
        (corner & 2 ? max : min)[1],
        (corner & 4 ? max : min)[2],
      ]);
      if (z >= 0) return false;
      // A shifted lens looks at the picture's middle from beside it.
      const across = x / (-z * high * aspect) - 2 * camera.shiftX;
      const up = y / (-z * high) - 2 * camera.shiftY;
      if (Math.abs(across) > SAFE || Math.abs(up) > SAFE) return false;
    }
    return true;
  };
}
