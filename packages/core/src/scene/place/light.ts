import { aimMatrix, DEGREES } from '../../geometry/index.ts';
import {
  kelvinToRgb,
  panelLuminance,
  sphereLuminance,
  spotLuminance,
  sunLuminance,
  type LightColour,
} from '../../light/index.ts';
import type { LightShape, SetLight } from '../../document/index.ts';
import type { TableauLight } from '../tableau.ts';

/** A light of the set as the tracer and the viewer take it. */
export function placeLight(light: SetLight): TableauLight {
  const { id, name, position, aim, kelvin, seen, gridAngle, gradient, gobo, lightLinking } = light;
  const { kind, brightness, height, cone, angle } = SHAPES[light.shape](light);
  const colour = kelvinToRgb(kelvin).map((v) => v * brightness) as LightColour;
  const hasFace = kind === 'rect' || kind === 'disc';
  return {
    id,
    name,
    kind,
    matrix: aimMatrix(position, aim),
    width: light.width,
    height,
    radiance: colour,
    seen,
    gridAngle: hasFace ? gridAngle * DEGREES : 0,
    cone,
    angle,
    gradient: hasFace && !cone ? gradient : 'even',
    gobo: hasFace && gobo.pattern !== 'none' ? gobo : undefined,
    lightLinking: lightLinking.mode === 'all' ? undefined : lightLinking,
  };
}

type Shape = Pick<TableauLight, 'kind' | 'height' | 'cone' | 'angle'> & {
  /** cd/m2, or cd of a point. */ brightness: number;
};

/** What each shape of light is for the tracer. */
const SHAPES: Record<LightShape, (light: SetLight) => Shape> = {
  softbox: ({ lumens, width, height }) => ({ kind: 'rect', height, brightness: panelLuminance(lumens, width, height) }),
  disc: ({ lumens, width }) => ({
    kind: 'disc',
    height: width,
    brightness: lumens / (Math.PI * Math.PI * (width / 2) * (width / 2)),
  }),
  sphere: ({ lumens, width }) => ({ kind: 'sphere', height: width, brightness: sphereLuminance(lumens, width / 2) }),
  spot: ({ lumens, width, beamAngle, softness }) => {
    const outer = (Math.max(1, beamAngle) / 2) * DEGREES;
    const inner = outer * (1 - softness);
    return {
      kind: 'disc',
      height: width,
      cone: { inner, outer },
      brightness: spotLuminance(lumens, width / 2, inner, outer),
    };
  },
  point: ({ lumens, width }) => ({ kind: 'point', height: width, brightness: lumens / (4 * Math.PI) }),
  sun: ({ lumens, width, beamAngle }) => {
    const angle = Math.max(0.05, beamAngle) * DEGREES;
    return { kind: 'sun', height: width, angle, brightness: sunLuminance(lumens, angle) };
  },
};
