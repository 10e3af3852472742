import type { Mesh } from '../geometry/index.ts';
import { meshOfShape, type TableauShape } from '../scene/index.ts';
import type { PartShape, ShownPart } from '../product/index.ts';
import type { PackedMesh } from './layout.ts';

/** Meshes that no longer stand in a scene are let go beyond so many. */
const KEEP = 300;

interface Kept {
  mesh: PackedMesh;
  /** The last scene it stood in. */
  scene: number;
}

/**
 * Meshes packed before, so that a frame in which things only move packs none. However many different ones a scene has, all of
 * them are kept; of earlier scenes' the latest are.
 */
export class MeshCache {
  private readonly known = new Map<string, Kept>();
  private scene = 0;

  /** Another scene is packed: what it does not use may be let go. */
  nextScene(): void {
    this.scene++;
    if (this.known.size <= KEEP) return;
    // The map is in the order of use: those used longest ago come first.
    for (const [key, { scene }] of this.known) {
      if (this.known.size <= KEEP || scene >= this.scene - 1) break;
      this.known.delete(key);
    }
  }

  /** The parts of a model as one mesh; slot k is the k-th part. */
  ofModel(model: string, parts: readonly ShownPart[], meshes: readonly Mesh[]): PackedMesh {
    const names = parts.map((p) => (p.shell ? `label ${checksum(p.shell)}` : p.index));
    return this.get(`${model} ${names.join(',')}`, () => packMesh(parts.map((p) => p.shell ?? meshes[p.index])));
  }

  /** Meshes that are known together by a key as one; slot k is the k-th. */
  ofMeshes(key: string, parts: ReadonlyArray<{ mesh: Mesh }>): PackedMesh {
    return this.get(key, () => packMesh(parts.map(({ mesh }) => mesh)));
  }

  ofShape(shape: TableauShape): PackedMesh {
    return this.get(JSON.stringify(shape), () => packMesh([meshOfShape(shape)]));
  }

  private get(key: string, make: () => PackedMesh): PackedMesh {
    const mesh = this.known.get(key)?.mesh ?? make();
    this.known.delete(key);
    this.known.set(key, { mesh, scene: this.scene });
    return mesh;
  }
}

/** What tells one label's triangles from another's: it arrives anew with every tableau (FNV-1a over its places). */
function checksum({ positions }: Mesh): string {
  const words = new Uint32Array(positions.buffer, positions.byteOffset, positions.length);
  let hash = 0x811c9dc5;
  for (let i = 0; i < words.length; i++) hash = Math.imul(hash ^ words[i], 0x01000193);
  return `${positions.length} ${hash >>> 0}`;
}

/** Joins parts into one mesh in flat arrays. */
export function packMesh(parts: readonly Mesh[]): PackedMesh {
  const count = parts.reduce((n, p) => n + p.indices.length / 3, 0);
  const coloured = parts.some((p) => p.colors);
  const out: PackedMesh = {
    count,
    triangles: new Float32Array(count * 9),
    normals: new Float32Array(count * 9),
    uvs: new Float32Array(count * 6),
    colors: new Float32Array(coloured ? count * 12 : 0).fill(1),
    slots: new Uint16Array(count),
  };
  let t = 0;
  parts.forEach((part, slot) => {
    const { positions, normals, uvs, colors, indices } = part;
    for (let first = 0; first < indices.length; first += 3, t++) {
      out.slots[t] = slot;
      const origin = indices[first] * 3;
      for (let k = 0; k < 3; k++) {
        const v = indices[first + k];
        for (let a = 0; a < 3; a++) {
          out.triangles[t * 9 + k * 3 + a] = positions[v * 3 + a] - (k === 0 ? 0 : positions[origin + a]);
          out.normals[t * 9 + k * 3 + a] = normals[v * 3 + a];
        }
        out.uvs[t * 6 + k * 2] = uvs[v * 2];
        out.uvs[t * 6 + k * 2 + 1] = uvs[v * 2 + 1];
        if (colors) for (let c = 0; c < 4; c++) out.colors[t * 12 + k * 4 + c] = colors[v * 4 + c];
      }
    }
  });
  return out;
}

/** A part that deforms, with its triangles as the shutter closes and one frame before. */
export function packDeforming({ mesh, close, before }: PartShape): PackedMesh {
  const packed = packMesh([mesh]);
  if (close) {
    const { triangles, normals } = packMesh([{ ...mesh, ...close }]);
    packed.close = { triangles, normals };
  }
  if (before) packed.before = packMesh([{ ...mesh, positions: before }]).triangles;
  return packed;
}
