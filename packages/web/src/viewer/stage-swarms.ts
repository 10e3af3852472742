import { InstancedMesh, Matrix4, type BufferGeometry, type Material, type Scene } from 'three';
import { clayFinish, type Finish, type TextureUse } from '@tender-orbit/core/finish';
import type { Mesh as CoreMesh } from '@tender-orbit/core/geometry';
import type { Tableau, TableauSwarm } from '@tender-orbit/core/scene';
import { disposeMaterial, materialOf } from './materials.ts';

/** Triangles that all swarms together are drawn with at most: beyond them every few are left out. */
const MOST_TRIANGLES = 240_000;

/** What swarms are drawn from besides themselves. */
interface SwarmParts {
  geometry: (mesh: CoreMesh) => BufferGeometry;
  art: (use: TextureUse, model: string | undefined) => ImageBitmap | undefined;
}

interface Shown {
  key: string;
  meshes: InstancedMesh[];
  materials: Material[];
}

/** Particles as the viewer draws them: an instanced mesh for each part of each look. */
export class StageSwarms {
  private readonly shown = new Map<string, Shown>();
  private readonly places = new WeakMap<InstancedMesh, Float32Array>();

  constructor(private readonly scene: Scene) {}

  show({ swarms }: Tableau, clay: boolean, parts: SwarmParts): void {
    for (const [id, shown] of this.shown)
      if (!swarms.some((s) => s.id === id)) {
        this.drop(shown);
        this.shown.delete(id);
      }
    const triangles = swarms.reduce((sum, swarm) => sum + trianglesOf(swarm), 0);
    const every = Math.max(1, Math.ceil(triangles / MOST_TRIANGLES));
    for (const swarm of swarms) {
      const counts = swarm.looks.map(() => 0);
      for (let i = 0; i < swarm.count; i += every) counts[swarm.look[i]]++;
      const looks = swarm.looks.map((look, i) => [look.key, Math.ceil(counts[i] / 64), finishKeys(look.parts)]);
      const key = JSON.stringify([clay, looks]);
      let known = this.shown.get(swarm.id);
      if (known?.key !== key) {
        if (known) this.drop(known);
        this.shown.set(swarm.id, (known = this.make(swarm, key, counts, clay, parts)));
      }
      this.place(known, swarm, every);
    }
  }

  private make(swarm: TableauSwarm, key: string, counts: readonly number[], clay: boolean, parts: SwarmParts): Shown {
    const meshes: InstancedMesh[] = [];
    const materials: Material[] = [];
    swarm.looks.forEach((look, number) => {
      if (counts[number] === 0) return;
      for (const part of look.parts) {
        const material = materialOf(clay ? { ...clayFinish(), doubleSided: true } : part.finish, (use) =>
          parts.art(use, look.model),
        );
        // There is room for some more: counts change from frame to frame.
        const mesh = new InstancedMesh(parts.geometry(part.mesh), material, Math.ceil(counts[number] / 64) * 64);
        mesh.userData.look = number;
        mesh.frustumCulled = false;
        mesh.castShadow = clay || part.finish.transmission === 0;
        this.scene.add(mesh);
        meshes.push(mesh);
        materials.push(material);
      }
    });
    return { key, meshes, materials };
  }

  private place({ meshes }: Shown, { matrices, look, count }: TableauSwarm, every: number): void {
    const matrix = new Matrix4();
    for (const mesh of meshes) {
      if (this.places.get(mesh) === matrices) continue;
      this.places.set(mesh, matrices);
      let n = 0;
      for (let i = 0; i < count; i += every) {
        if (look[i] !== mesh.userData.look) continue;
        const m = matrices.subarray(i * 12, i * 12 + 12);
        matrix.set(m[0], m[1], m[2], m[3], m[4], m[5], m[6], m[7], m[8], m[9], m[10], m[11], 0, 0, 0, 1);
        mesh.setMatrixAt(n++, matrix);
      }
      mesh.count = n;
      mesh.instanceMatrix.needsUpdate = true;
    }
  }

  private drop({ meshes, materials }: Shown): void {
    for (const mesh of meshes) {
      this.scene.remove(mesh);
      mesh.dispose();
    }
    materials.forEach(disposeMaterial);
  }

  dispose(): void {
    for (const shown of this.shown.values()) this.drop(shown);
    this.shown.clear();
  }
}

const finishKeys = (parts: ReadonlyArray<{ finish: Finish }>): unknown[] =>
  parts.map(({ finish }) => [finish.name, finish.baseColor, finish.roughness, finish.transmission]);

function trianglesOf({ looks, look, count }: TableauSwarm): number {
  const each = looks.map(({ parts }) => parts.reduce((sum, { mesh }) => sum + mesh.indices.length / 3, 0));
  let sum = 0;
  for (let i = 0; i < count; i++) sum += each[look[i]];
  return sum;
}
