import { aimMatrix } from '../geometry/index.ts';
import {
  kelvinToRgb,
  panelLuminance,
  sphereLuminance,
  spotLuminance,
  sunLuminance,
  type LightColour,
} from '../light/index.ts';
import type { SetLight } from '../document/index.ts';
import type { TableauLight } from './tableau.ts';

const DEGREES = Math.PI / 180;

/** A light of the set as the tracer and the viewer take it. */
export function placeLight(light: SetLight): TableauLight {
  const { id, name, position, aim, kelvin, seen, spread, gradient, gobo, touches } = light;
  const { kind, brightness, height, cone, angle } = shapeOf(light);
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
    spread: hasFace ? spread * DEGREES : 0,
    cone,
    angle,
    gradient: hasFace && !cone ? gradient : 'even',
    gobo: hasFace && gobo.pattern !== 'none' ? gobo : undefined,
    touches: touches.mode === 'all' ? undefined : touches,
  };
}

type Shape = Pick<TableauLight, 'kind' | 'height' | 'cone' | 'angle'> & {
  /** cd/m2, or cd of a point. */ brightness: number;
};

function shapeOf({ shape, lumens, width, height, cone, softness }: SetLight): Shape {
  const radius = width / 2;
  const outer = (Math.max(1, cone) / 2) * DEGREES;
  const inner = outer * (1 - softness);
  switch (shape) {
    case 'softbox':
      return { kind: 'rect', height, brightness: panelLuminance(lumens, width, height) };
    case 'disc':
      return { kind: 'disc', height: width, brightness: lumens / (Math.PI * Math.PI * radius * radius) };
    case 'sphere':
      return { kind: 'sphere', height: width, brightness: sphereLuminance(lumens, radius) };
    case 'spot':
      return {
        kind: 'disc',
        height: width,
        cone: { inner, outer },
        brightness: spotLuminance(lumens, radius, inner, outer),
      };
    case 'point':
      return { kind: 'point', height: width, brightness: lumens / (4 * Math.PI) };
    case 'sun': {
      const angle = Math.max(0.05, cone) * DEGREES;
      return { kind: 'sun', height: width, angle, brightness: sunLuminance(lumens, angle) };
    }
  }
}
