import type { Keyed, Track } from '../document/index.ts';
import { compileCurve } from '../motion/index.ts';

/**
 * Values of something of a promo at frames of its own: what it says, and where keys hold one what these say. Before its first key and after
 * its last a value stays.
 */
export function keyedValues<V extends object>(
  own: Readonly<V>,
  tracks: readonly Track[],
  properties: Readonly<Record<string, Parameters<typeof compileCurve>[1]>>,
  { eases }: Pick<Keyed, 'eases'>,
): (at: number) => V {
  const curves = tracks.flatMap((track) => {
    const curve = compileCurve(track, properties[track.path], eases);
    return curve ? [[track.path, curve] as const] : [];
  });
  return (at) => {
    const now = { ...own };
    for (const [path, curve] of curves) (now as Record<string, unknown>)[path] = curve.at(at);
    return now;
  };
}
