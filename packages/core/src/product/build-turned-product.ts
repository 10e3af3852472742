import { hypot } from '../maths/index.ts';
import type { TurnedBuilder } from '../document/index.ts';
import { buildTurned, filletProfile } from '../geometry/index.ts';
import type { BuiltPart } from './built-part.ts';

type Profile = Array<[number, number]>;

/** Steps that curves are sampled in for offsetting and for labels. */
const SAMPLES = 72;
/** How far a liquid reaches into its vessel's wall: glass and liquid then share no gap that light would see. Metres. */
const OVERLAP = 0.0002;
/** How far a label stands off the body, metres. */
const PAPER = 0.00015;

/**
 * A turned body's parts: body, liquid, cap and label band.
 * The wall's inner side is the outline of everything at least a wall's thickness inside the outer one (an erosion by a
 * disc), so a narrow neck stays open and no wall gets thinner than asked for.
 */
export function buildTurnedProduct(builder: TurnedBuilder): BuiltPart[] {
  const outer = filletProfile(
    builder.profile.map(([r, y, fillet]) => [Math.max(0, r), y, fillet] as const),
    7,
  );
  const top = outer[outer.length - 1];
  const hollow = builder.wall > 0 && top[0] > builder.wall * 1.5;
  const parts: BuiltPart[] = [];
  const radius = outerRadius(outer);
  if (hollow) {
    const inner = innerProfile(outer, builder.wall);
    parts.push(part('Body', closed([...outer, ...[...inner].reverse()])));
    if (builder.fill > 0) parts.push(part('Liquid', liquid(inner, builder.fill), 'liquid'));
  } else parts.push(part('Body', closed(outer)));
  const { kind, height } = builder.cap;
  if (kind === 'lid' && height > 0) parts.push(part('Cap', lidProfile(radius, top[1], height), 'cap'));
  if (kind === 'cork' && height > 0 && hollow) parts.push(part('Cork', corkProfile(top, builder.wall, height), 'cork'));
  const { shown, from, to, degrees } = builder.band;
  const [low, high] = [Math.max(from, outer[0][1]), Math.min(to, top[1])];
  if (shown && high - low > 1e-4) parts.push(label(radius, low, high, degrees));
  return parts;
}

function part(name: string, profile: Profile, finish: BuiltPart['finish'] = 'body'): BuiltPart {
  return { name, mesh: buildTurned({ profile, segments: 96 }), finish };
}

/** A profile that begins and ends on the axis. */
function closed(profile: Profile): Profile {
  const [first, last] = [profile[0], profile[profile.length - 1]];
  const out = [...profile];
  if (first[0] > 1e-9) out.unshift([0, first[1]]);
  if (last[0] > 1e-9) out.push([0, last[1]]);
  return out;
}

/** The widest radius of a profile at a height. */
function outerRadius(profile: Profile): (y: number) => number {
  return (y) => {
    let widest = 0;
    for (let i = 1; i < profile.length; i++) {
      const [a, b] = [profile[i - 1], profile[i]];
      if (Math.min(a[1], b[1]) - 1e-9 > y || Math.max(a[1], b[1]) + 1e-9 < y) continue;
      const span = b[1] - a[1];
      if (Math.abs(span) < 1e-9) widest = Math.max(widest, a[0], b[0]);
      else widest = Math.max(widest, a[0] + ((b[0] - a[0]) * (y - a[1])) / span);
    }
    return widest;
  };
}

/** From the axis on the inner base up to the lip's inner edge. */
function innerProfile(outer: Profile, wall: number): Profile {
  const dense: Profile = [];
  for (let i = 1; i < outer.length; i++) {
    const [a, b] = [outer[i - 1], outer[i]];
    const steps = Math.max(1, Math.ceil(hypot(b[0] - a[0], b[1] - a[1]) / (wall / 16)));
    for (let k = 0; k <= steps; k++)
      dense.push([a[0] + ((b[0] - a[0]) * k) / steps, a[1] + ((b[1] - a[1]) * k) / steps]);
  }
  const top = outer[outer.length - 1][1];
  const base = outer[0][1] + wall * 1.4;
  const at = (y: number): number => {
    let r = Infinity;
    for (const [pr, py] of dense) {
      const dy = Math.abs(py - y);
      // The base is thicker than the wall: only the sides and shoulders bound the inside.
      if (dy < wall && pr > wall) r = Math.min(r, pr - Math.sqrt(wall * wall - dy * dy));
    }
    return Math.max(0, r);
  };
  const inner: Profile = [];
  for (let k = 0; k <= SAMPLES; k++) {
    const y = base + ((top - base) * k) / SAMPLES;
    const r = at(y);
    if (Number.isFinite(r) && r > wall * 0.2) inner.push([r, y]);
  }
  const floor = inner[0] ?? [0, base];
  return [[0, floor[1]], ...thin(inner)];
}

/** Leaves out points that lie on the line between their neighbours. */
function thin(profile: Profile): Profile {
  const out: Profile = [];
  for (const p of profile) {
    const [a, b] = [out[out.length - 2], out[out.length - 1]];
    if (a && b) {
      const off = Math.abs((b[0] - a[0]) * (p[1] - a[1]) - (p[0] - a[0]) * (b[1] - a[1]));
      if (off / hypot(p[0] - a[0], p[1] - a[1]) < 2e-6) out.pop();
    }
    out.push(p);
  }
  return out;
}

function liquid(inner: Profile, fill: number): Profile {
  const [low, high] = [inner[0][1], inner[inner.length - 1][1]];
  const level = low + (high - low) * Math.min(0.98, fill);
  const side = inner.slice(1).filter(([, y]) => y < level - 1e-6);
  const radius = outerRadius(inner)(level);
  const out: Profile = [
    [0, low - OVERLAP],
    ...side.map(([r, y], i): [number, number] => [r + OVERLAP, i ? y : y - OVERLAP]),
  ];
  return [...out, [radius + OVERLAP, level], [0, level]];
}

/** A lid over the lip: knocked down over the neck, hollow underneath. */
function lidProfile(radius: (y: number) => number, top: number, height: number): Profile {
  const [low, wall, clear] = [top - height * 0.88, 0.0007, 0.0004];
  let widest = 0;
  for (let k = 0; k <= 20; k++) widest = Math.max(widest, radius(low + ((top - low) * k) / 20));
  const [inner, high] = [widest + clear, top + Math.max(0.0004, height * 0.12)];
  const round = Math.min(height * 0.15, inner * 0.2);
  return filletProfile([
    [0, high - wall],
    [inner, high - wall],
    [inner, low],
    [inner + wall * 2, low, wall * 0.9],
    [inner + wall * 2, high, round],
    [0, high],
  ]);
}

function corkProfile([lip, top]: readonly [number, number], wall: number, height: number): Profile {
  const inner = lip - wall;
  return filletProfile([
    [0, top - height * 0.6],
    [inner * 0.94, top - height * 0.6, inner * 0.08],
    [inner - 5e-5, top],
    [inner * 1.04, top + height * 0.4, inner * 0.12],
    [0, top + height * 0.4],
  ]);
}

function label(radius: (y: number) => number, low: number, high: number, degrees: number): BuiltPart {
  const profile: Profile = [];
  const steps = 24;
  for (let k = 0; k <= steps; k++) {
    const y = low + ((high - low) * k) / steps;
    profile.push([radius(y) + PAPER, y]);
  }
  const mesh = buildTurned({ profile: thin(profile), segments: 96, sweep: degrees });
  const round = (radius((low + high) / 2) + PAPER) * ((degrees * Math.PI) / 180);
  return { name: 'Label', mesh, finish: 'label', panel: [round, high - low] };
}
