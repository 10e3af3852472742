import { Vector3, type Box3 } from 'three';

/** How much farther than near a depth may be: 24 bits tell a hundred thousandth part apart. */
const MOST = 2e5;

/**
 * The depths between which everything is drawn: near enough for a gear of two millimetres, far enough for an engine of a
 * hundred metres.
 *
 * @param standing round what is looked at, @param whole round everything; either may be empty
 */
export function depthRange(eye: Vector3, standing: Box3, whole: Box3): { near: number; far: number } {
  if (whole.isEmpty()) return { near: 0.01, far: 60 };
  const far = 1.2 * (eye.distanceTo(whole.getCenter(new Vector3())) + whole.getSize(new Vector3()).length() / 2);
  // Inside the box that is looked at the nearest thing may be anywhere.
  const subject = standing.isEmpty() ? whole : standing;
  const near = Math.max(subject.distanceToPoint(eye) / 4, subject.getSize(new Vector3()).length() / 400);
  // What stands before the subject - a card, a flag - is seen too.
  return { near: Math.max(far / MOST, Math.min(near, 0.01 * Math.max(1, far / 60))), far };
}
