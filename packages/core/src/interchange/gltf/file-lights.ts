import type { Node } from '@gltf-transform/core';
import type { Light } from '@gltf-transform/extensions';
import { kelvinToRgb } from '../../light/index.ts';
import { transformPoint, type Mat4, type Vec3 } from '../../geometry/index.ts';
import { cos, log } from '../../maths/index.ts';

/** A light that stands in a model file, in the terms of a set; metres of the model. */
export interface FileLight {
  name: string;
  shape: 'point' | 'spot' | 'sun';
  position: Vec3;
  aim: Vec3;
  /** Lumens; lux for a sun. */
  lumens: number;
  kelvin: number;
  /** Full angle, degrees. */
  beamAngle: number;
  /** Share of the beam that fades out, 0..1. */
  softness: number;
}

/** A perspective camera that stands in a model file; metres of the model. */
export interface FileCamera {
  name: string;
  position: Vec3;
  aim: Vec3;
  /** Vertical field of view, degrees. */
  fieldOfView: number;
}

const DEGREES = 180 / Math.PI;

/**
 * The light of a node in photometric terms (KHR_lights_punctual): candela of points and spots become lumens over the angle
 * they shine into, lux of directional lights stay. A colour becomes the nearest black body.
 */
export function fileLight(node: Node, world: Mat4): FileLight | null {
  const light = node.getExtension<Light>('KHR_lights_punctual');
  if (!light) return null;
  const outer = light.getOuterConeAngle();
  const shape = ({ point: 'point', spot: 'spot', directional: 'sun' } as const)[light.getType()];
  const solidAngle = { point: 4 * Math.PI, spot: 2 * Math.PI * (1 - cos(outer)), sun: 1 }[shape];
  return {
    ...{ name: light.getName() || node.getName() || 'Light', shape, ...placeOf(world) },
    lumens: light.getIntensity() * solidAngle,
    kelvin: nearestKelvin(light.getColor()),
    beamAngle: shape === 'sun' ? 0.53 : outer * 2 * DEGREES,
    softness: outer > 0 ? Math.min(1, Math.max(0, 1 - light.getInnerConeAngle() / outer)) : 0,
  };
}

export function fileCamera(node: Node, world: Mat4): FileCamera | null {
  const camera = node.getCamera();
  if (!camera || camera.getType() !== 'perspective') return null;
  const fieldOfView = camera.getYFov() * DEGREES;
  return { name: camera.getName() || node.getName() || 'Camera', ...placeOf(world), fieldOfView };
}

/** Where a node is, and what lies a metre before it: cameras and lights look along -Z. */
function placeOf(world: Mat4): { position: Vec3; aim: Vec3 } {
  return { position: transformPoint(world, [0, 0, 0]), aim: transformPoint(world, [0, 0, -1]) };
}

/** The colour temperature whose balance of red and blue is nearest. */
export function nearestKelvin([red, , blue]: readonly number[]): number {
  const wanted = log(Math.max(1e-4, red) / Math.max(1e-4, blue));
  let [best, least] = [6500, Infinity];
  for (let kelvin = 1700; kelvin <= 20000; kelvin += 50) {
    const [r, , b] = kelvinToRgb(kelvin);
    const off = Math.abs(log(Math.max(1e-4, r) / Math.max(1e-4, b)) - wanted);
    if (off < least) [best, least] = [kelvin, off];
  }
  return best;
}
