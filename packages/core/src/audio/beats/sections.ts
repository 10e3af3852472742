/** A stretch of music by its energy. */
export interface MusicSection {
  /** Seconds. */
  from: number;
  to: number;
  kind: 'quiet' | 'steady' | 'build' | 'drop';
}

/** Share of the loud bars' level under which a bar is quiet. */
const QUIET = 0.45;
/** Bars over which a rise counts as a build. */
const BUILD_BARS = 3;
/** How much louder a bar must be than those before it to be a drop. */
const DROP = 1.5;

/**
 * Parts a piece by the energy of its bars: quiet ones, those that rise towards a louder part (build), the loud part after a rise or a
 * leap (drop), and what lies between (steady).
 *
 * @param starts seconds at which bars begin. @param level loudness, so many values a second. @param end of the music, seconds.
 */
export function findSections(
  starts: readonly number[],
  level: Float32Array,
  rate: number,
  end: number,
): MusicSection[] {
  const inside = starts.filter((s) => s < end);
  if (inside.length < 2) return [];
  // What is left after the last whole bar belongs to it.
  const bar = inside[1] - inside[0];
  const whole = end - inside[inside.length - 1] < bar * 0.6 ? inside.slice(0, -1) : inside;
  const edges = [...whole, end];
  const loud = edges.slice(1).map((to, i) => meanSquare(level, edges[i] * rate, to * rate));
  const sorted = [...loud].sort((a, b) => a - b);
  const full = sorted[Math.floor(sorted.length * 0.85)] || 1e-9;
  const kinds = loud.map((v, i): MusicSection['kind'] => {
    if (v < QUIET * full) return 'quiet';
    const before = loud.slice(Math.max(0, i - 2), i);
    const was = before.length > 0 ? before.reduce((a, b) => a + b, 0) / before.length : v;
    return before.length > 0 && v > DROP * was && v > 0.75 * full ? 'drop' : 'steady';
  });
  // What follows a drop at its level belongs to it.
  for (let i = 1; i < kinds.length; i++)
    if (kinds[i] === 'steady' && kinds[i - 1] === 'drop' && loud[i] > 0.7 * full) kinds[i] = 'drop';
  markBuilds(loud, kinds);
  const sections: MusicSection[] = [];
  kinds.forEach((kind, i) => {
    const last = sections.at(-1);
    if (last?.kind === kind) last.to = edges[i + 1];
    else sections.push({ from: edges[i], to: edges[i + 1], kind });
  });
  return sections;
}

/** Bars that each are louder than the one before, up to where it drops. */
function markBuilds(loud: readonly number[], kinds: MusicSection['kind'][]): void {
  for (let i = BUILD_BARS; i <= kinds.length; i++) {
    if (i < kinds.length && kinds[i] !== 'drop') continue;
    let first = i - 1;
    while (first > 0 && risesFrom(loud[first - 1], loud[first]) && kinds[first - 1] !== 'drop') first--;
    if (i - first >= BUILD_BARS && loud[i - 1] > loud[first] * 1.3) kinds.fill('build', first, i);
  }
}

/** A little louder, but no leap. */
const risesFrom = (before: number, now: number): boolean => now > before * 1.06 && now < before * DROP;

function meanSquare(level: Float32Array, from: number, to: number): number {
  let [sum, count] = [0, 0];
  for (let i = Math.max(0, Math.floor(from)); i < Math.min(level.length, to); i++, count++) sum += level[i] * level[i];
  return count > 0 ? Math.sqrt(sum / count) : 0;
}
