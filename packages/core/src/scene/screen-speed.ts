import { hypot } from '../maths/index.ts';
import { transformPoint } from '../geometry/index.ts';
import { cameraOf, evaluate, posed, type EvaluateContext } from './evaluate.ts';
import type { ShotProgram } from './program.ts';
import { boxesOf, outlineOf, projector, type Box, type Projector } from './screen-box.ts';
import type { Tableau, TableauCamera } from './tableau.ts';

/** How fast a thing goes over the picture from a frame to the next. Lengths are shares of the picture's height. */
export interface ScreenSpeed {
  /** The way of what goes furthest of it. */
  speed: number;
  /** What it covers while the shutter is closed: nothing is seen of that. */
  gap: number;
  /** The smallest of its larger features: what jumps further than that is seen several times over. */
  feature: number;
}

/** Whether the eye sees separate pictures rather than a motion: it jumps further than its own features. */
export const strobes = ({ gap, feature }: ScreenSpeed): boolean => feature > 0 && gap > feature;

/** Parts smaller than this share of the whole are details, which blur before they strobe. */
const DETAIL = 0.2;

/** The smaller side of a box's outline in the picture; 0 where it is not seen. */
function sizeOf(box: Box, project: Projector): number {
  const outline = outlineOf(box, project);
  return outline ? Math.min(outline.max[0] - outline.min[0], outline.max[1] - outline.min[1]) : 0;
}

/**
 * How fast a product goes over the picture, frame by frame (one fewer than the shot has): by the camera's moves as much as by its
 * own. Empty when it is not there.
 */
export function screenSpeeds(program: ShotProgram, id: string, context: EvaluateContext): ScreenSpeed[] {
  const speeds: ScreenSpeed[] = [];
  let before: { tableau: Tableau; boxes: Box[] } | null = null;
  for (let frame = 0; frame < program.shot.length; frame++) {
    const tableau = evaluate(program, frame, context);
    const instance = tableau.instances.find((i) => i.id === id);
    const now = { tableau, boxes: instance ? boxesOf(instance, context.meshes(instance.model) ?? []) : [] };
    if (before) speeds.push(between(before, now, posed(cameraOf(program), frame - 1).shutter));
    before = now;
  }
  return speeds.some(({ feature }) => feature > 0) ? speeds : [];
}

type Moment = { tableau: Tableau; boxes: Box[] };

function between(a: Moment, b: Moment, shutter: number): ScreenSpeed {
  const [from, to] = [projector(a.tableau.camera), projector(b.tableau.camera)];
  let speed = 0;
  for (const box of a.boxes) {
    const next = b.boxes.find(({ key }) => key === box.key);
    if (!next) continue;
    box.faces.forEach((face, i) => {
      const [p, q] = [from(transformPoint(box.matrix, face)), to(transformPoint(next.matrix, next.faces[i]))];
      if (p && q && inPicture(p, a.tableau.camera) && inPicture(q, b.tableau.camera))
        speed = Math.max(speed, hypot(q[0] - p[0], q[1] - p[1]));
    });
  }
  const sizes = a.boxes.map((box) => sizeOf(box, from));
  const most = Math.max(0, ...sizes);
  const features = sizes.filter((size) => size > 0 && size >= most * DETAIL);
  return {
    ...{ speed, gap: speed * Math.max(0, 1 - shutter / 360) },
    feature: features.length > 0 ? Math.min(...features) : 0,
  };
}

/** What is far outside the frame strobes unseen. */
const inPicture = ([x, y]: [number, number], { aspect }: TableauCamera): boolean =>
  Math.abs(x) < aspect * 0.6 && Math.abs(y) < 0.6;
