import {
  newBlock,
  newCard,
  newSet,
  newShot,
  openDocument,
  plainItem,
  plainLight,
  runCommand,
  setProperties,
  type SetDocument,
  type ShotDocument,
  type Track,
} from '@tender-orbit/core/document';
import { builtDocument, builtMeshes, modelKey, TURNED_PRESETS } from '@tender-orbit/core/product';
import { compile, evaluate, evaluateMotion, type EvaluateContext } from '@tender-orbit/core/scene';
import { medianMs, type Bench } from './bench.ts';
import { demoScene } from './demo-scene.ts';

/** 300 things of every role, all of them moving: 1,000 tracks of three keys. */
function crowd(): { set: SetDocument; shot: ShotDocument; context: EvaluateContext } {
  const jar = builtDocument('Jar', TURNED_PRESETS.jar);
  const meshes = builtMeshes(modelKey(jar))!;
  const set = newSet('Crowd');
  const at = (i: number): [number, number, number] => [(i % 20) * 0.1, 0.2, Math.floor(i / 20) * 0.1];
  set.products = Array.from({ length: 150 }, (_, i) => ({
    ...plainItem(),
    ...{ id: `p${i}`, name: `P${i}`, product: 'jar', position: at(i), tilt: i },
  }));
  set.surfaces.push(
    ...Array.from({ length: 24 }, (_, i) => newBlock(`b${i}`, 'plinth', { position: at(i) })),
    ...Array.from({ length: 24 }, (_, i) => newCard(`c${i}`, `C${i}`, '#101010')),
  );
  set.lights = Array.from({ length: 100 }, (_, i) => ({
    ...plainLight(),
    ...{ id: `l${i}`, name: `L${i}`, role: 'fill', shape: 'softbox', width: 0.2, height: 0.2 },
    ...{ position: at(i), aim: [0, 0, 0], kelvin: 5000, lumens: 50 },
  }));
  const paths = (id: string): string[] =>
    ({
      p: ['position.0', 'position.2', 'turn', 'tilt'],
      b: ['position.0', 'turn', 'height'],
      c: ['position.0', 'position.1', 'aim.0'],
      l: ['lumens', 'kelvin', 'position.0'],
    })[id[0]] ?? [];
  const ids = [...set.products, ...set.surfaces, ...set.lights].map((t) => t.id).filter((id) => paths(id).length > 0);
  const tracks = ids.flatMap((thing, n) =>
    paths(thing).map((path, k): Track => ({
      ...{ thing, path },
      keys: [0, 24, 47].map((frame, i) => ({
        ...{ frame, ease: 'eased' as const },
        value: path === 'kelvin' ? 4000 + 500 * i : ((n + k) % 7) * 0.1 + i * 0.2,
      })),
    })),
  );
  return {
    set: openDocument(set),
    shot: openDocument({ ...newShot('Crowd', 'set', 'hero', 48), tracks: tracks.slice(0, 1000) }),
    context: { products: new Map([['jar', jar]]), meshes: () => meshes, aspect: 16 / 9 },
  };
}

const facts = ({ set, shot }: { set: SetDocument; shot: ShotDocument }): string => {
  const things = set.products.length + set.surfaces.length + set.lights.length + set.cameras.length + 1;
  return `${things} things, ${shot.tracks.reduce((n, t) => n + t.keys.length, 0)} keys`;
};

export const evaluateBenches: Bench[] = [
  {
    name: 'evaluate/ms-per-frame',
    unit: 'ms',
    run: async () => {
      const { set, shot, context } = await demoScene();
      const program = compile(set, shot);
      const ms = await medianMs(21, () => {
        for (let frame = 0; frame < shot.length; frame++) evaluate(program, frame, context);
      });
      return { value: ms / shot.length, note: `demo hero shot, ${facts({ set, shot })}` };
    },
  },
  {
    name: 'evaluate/ms-300-things-3000-keys',
    unit: 'ms',
    run: async () => {
      const scene = crowd();
      const program = compile(scene.set, scene.shot);
      const ms = await medianMs(21, () => {
        for (let frame = 0; frame < 48; frame++) evaluate(program, frame, scene.context);
      });
      const motion = await medianMs(9, () => {
        for (let frame = 0; frame < 48; frame++) evaluateMotion(program, frame, scene.context);
      });
      return {
        value: ms / 48,
        note: `${facts(scene)}; with shutter close and frame before ${(motion / 48).toFixed(2)} ms`,
      };
    },
  },
  {
    name: 'evaluate/compile-ms',
    unit: 'ms',
    run: async () => {
      const scene = crowd();
      // Documents as they come from a server: nothing of them was compiled before.
      const copies = Array.from({ length: 14 }, () => structuredClone({ set: scene.set, shot: scene.shot }));
      let next = 0;
      const ms = await medianMs(11, () => void compile(copies[++next].set, copies[next].shot));
      return { value: ms, note: facts(scene) };
    },
  },
  {
    name: 'evaluate/one-key-ms',
    unit: 'ms',
    run: async () => {
      const { set, shot: first, context } = crowd();
      let shot = first;
      const ms = await medianMs(21, () => {
        const [track, ...rest] = shot.tracks;
        const keys = track.keys.map((k, i) => (i === 1 ? { ...k, value: (k.value as number) + 0.01 } : k));
        shot = { ...shot, tracks: [{ ...track, keys }, ...rest] };
        compile(set, shot);
      });
      evaluate(compile(set, shot), 3, context);
      return { value: ms, note: 'compiled anew after one key changed, everything else taken over' };
    },
  },
  {
    name: 'edit/drag-step-ms',
    unit: 'ms',
    run: async () => {
      const scene = crowd();
      let set = scene.set;
      let step = 0;
      const ms = await medianMs(101, () => {
        set = runCommand(set, setProperties('p75', { 'position.0': ++step / 100 }, 'Move'));
        evaluate(compile(set, scene.shot), 3, scene.context);
      });
      return {
        value: ms,
        note: 'one step of a drag among 300 things: the edit, and the tableau that is drawn from it',
      };
    },
  },
];
