import { RULES, type LinkedEase, type Rule, type Track } from '../../document/index.ts';
import { compileCurve, type Curve } from '../curve.ts';

/** A rule with what of it is keyed: its numbers and choices at a frame. */
export class RuleValues {
  private readonly curves: ReadonlyMap<string, Curve>;

  constructor(
    readonly rule: Rule,
    tracks: readonly Track[],
    linked: readonly LinkedEase[],
  ) {
    const curves = new Map<string, Curve>();
    for (const track of tracks) {
      const property = RULES[rule.kind].properties[track.path];
      const curve = property && compileCurve(track, property, linked);
      if (curve) curves.set(track.path, curve);
    }
    this.curves = curves;
  }

  number(name: string, frame: number): number {
    const curve = this.curves.get(name);
    return (curve ? curve.at(frame) : (this.rule as unknown as Record<string, unknown>)[name]) as number;
  }
}
