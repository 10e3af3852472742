import type { Mesh } from './mesh.ts';

/** Places closer than this share of a mesh's size are one. */
const SAME = 1e-5;

/** What a mesh holds, cubic units, by the divergence theorem; null for one that is not closed: some edge has no face on its other side. */
export function closedVolume({ positions: p, indices }: Pick<Mesh, 'positions' | 'indices'>): number | null {
  let size = 1e-9;
  for (let i = 0; i < p.length; i++) if (Math.abs(p[i]) > size) size = Math.abs(p[i]);
  const numbers = new Map<string, number>();
  const corner = Uint32Array.from({ length: p.length / 3 }, (_, v) => {
    const key = [0, 1, 2].map((a) => Math.round(p[v * 3 + a] / (size * SAME))).join();
    const number = numbers.get(key) ?? numbers.size;
    numbers.set(key, number);
    return number;
  });
  /** How often an edge is gone along one way more than the other. */
  const edges = new Map<number, number>();
  let six = 0;
  for (let i = 0; i + 2 < indices.length; i += 3) {
    for (let k = 0; k < 3; k++) {
      const [from, to] = [corner[indices[i + k]], corner[indices[i + ((k + 1) % 3)]]];
      if (from === to) continue;
      const edge = Math.min(from, to) * numbers.size + Math.max(from, to);
      edges.set(edge, (edges.get(edge) ?? 0) + (from < to ? 1 : -1));
    }
    const [a, b, c] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3];
    six +=
      p[a] * (p[b + 1] * p[c + 2] - p[b + 2] * p[c + 1]) +
      p[a + 1] * (p[b + 2] * p[c] - p[b] * p[c + 2]) +
      p[a + 2] * (p[b] * p[c + 1] - p[b + 1] * p[c]);
  }
  for (const sum of edges.values()) if (sum !== 0) return null;
  return six / 6;
}
