import { expect } from 'chai';
import { Box3, MeshPhysicalMaterial, Scene, ShaderLib, SpotLight, Texture, Vector3 } from 'three';
import { newSet, newShot } from '@tender-orbit/core/document';
import { makeFinish } from '@tender-orbit/core/finish';
import { compile, evaluate, type Tableau } from '@tender-orbit/core/scene';
import { depthRange } from '../src/viewer/depth-range.ts';
import { disposeMaterial, isFilling, materialOf } from '../src/viewer/materials.ts';
import { jitterOf, PASSES } from '../src/viewer/stage-output.ts';
import { StageShadows } from '../src/viewer/stage-shadows.ts';

function tableau(change: (set: ReturnType<typeof newSet>) => void = () => undefined): Tableau {
  const set = newSet('Studio');
  change(set);
  const shot = newShot('Shot', 'set', set.cameras[0].id, 24);
  return evaluate(compile(set, shot), 0, { products: new Map(), meshes: () => undefined, aspect: 16 / 9 });
}

describe('web: shadows of the lit view', () => {
  const centre = new Vector3(0, 0.05, 0);
  const spotsOf = (shown: Tableau): SpotLight[] => {
    const shadows = new StageShadows();
    shadows.show(shown, centre, 0.1);
    return shadows.scene.children.filter((child): child is SpotLight => child instanceof SpotLight && child.visible);
  };

  it('are thrown by the strongest lights, darker the larger a light’s share, and never give light', () => {
    const shown = tableau();
    const spots = spotsOf(shown);
    expect(spots.length).within(1, 2);
    expect(spots.every((s) => s.intensity === 0 && s.castShadow)).equal(true);
    const shares = spots.map((s) => s.shadow.intensity);
    expect(shares.reduce((a, b) => a + b, 0)).below(1);
    expect([...shares].sort((a, b) => b - a)).deep.equal(shares);
    const places = shown.lights.map((l) => [l.matrix[12], l.matrix[13], l.matrix[14]].map((v) => v.toFixed(6)).join());
    for (const { position } of spots)
      expect(places).include(
        position
          .toArray()
          .map((v) => v.toFixed(6))
          .join(),
      );
  });

  it('are softer, and drawn coarser, the larger the light is', () => {
    const edge = (size: number): { texels: number; radius: number } => {
      const [spot] = spotsOf(
        tableau((set) => {
          set.lights = [{ ...set.lights[0], width: size, height: size }];
        }),
      );
      return { texels: spot.shadow.mapSize.x, radius: spot.shadow.radius };
    };
    const [hard, soft] = [edge(0.01), edge(1.5)];
    expect(soft.texels).below(hard.texels);
    expect(soft.radius / soft.texels).above((3 * hard.radius) / hard.texels);
  });

  it('fall on no floor where there is none, and a set without light throws none', () => {
    const shadows = new StageShadows();
    shadows.show(
      tableau((set) => {
        set.surfaces = [];
        set.lights = [];
      }),
      centre,
      0.1,
    );
    expect(shadows.catcher.visible).equal(false);
    expect(shadows.scene.children.some((child) => child instanceof SpotLight && child.visible)).equal(false);
  });
});

describe('web: shadows of the lit view, drawn', () => {
  it('are drawn with the set, whose finishes never see the spots that throw them', () => {
    const shadows = new StageShadows();
    shadows.show(tableau(), new Vector3(0, 0.05, 0), 0.1);
    const set = new Scene();
    const spotsIn = (scene: Scene): number => scene.children.filter((child) => child instanceof SpotLight).length;
    const seen: unknown[] = [];
    const renderer = {
      shadowMap: { needsUpdate: false },
      setRenderTarget: () => undefined,
      render(scene: Scene) {
        seen.push([scene === set, spotsIn(scene), this.shadowMap.needsUpdate, scene.overrideMaterial !== null]);
      },
    };
    expect(spotsIn(shadows.scene)).equal(2);
    shadows.update(renderer as never, set, {} as never);
    expect(seen).deep.equal([[true, 2, true, true]]);
    expect([spotsIn(set), spotsIn(shadows.scene), set.overrideMaterial]).deep.equal([0, 2, null]);
  });
});

describe('web: finishes in the lit view', () => {
  const behind = { value: new Texture() };
  const look = (values: Partial<ReturnType<typeof makeFinish>>, solid = false): MeshPhysicalMaterial =>
    materialOf({ ...makeFinish('Test'), ...values }, () => undefined, {
      behind: solid ? null : behind,
    }) as MeshPhysicalMaterial;
  /** What of a program a material changes. */
  const programOf = (material: MeshPhysicalMaterial): { uniforms: Record<string, unknown>; fragmentShader: string } => {
    const program = { uniforms: {}, fragmentShader: ShaderLib.physical.fragmentShader };
    material.onBeforeCompile(program as never, null as never);
    return program;
  };
  const honey = { transmission: 1, attenuationDistance: 0.02, attenuationColor: [0.9, 0.5, 0.1] as never };

  it('bends light through a filling, and draws it as a solid while things move', () => {
    expect(isFilling({ ...makeFinish('Honey'), ...honey })).equal(true);
    const rest = look(honey);
    const { uniforms, fragmentShader } = programOf(rest);
    expect(uniforms.behind).equal(behind);
    expect(uniforms.through).deep.equal({ value: 1 });
    // A tenth is left of blue after as far as a colour is stated for.
    const { value } = uniforms.absorbed as { value: number[] };
    expect(Math.exp(-value[2] * 0.02)).closeTo(0.1, 1e-9);
    expect(fragmentShader).include('textureLod( behind').not.include('transmission_fragment');
    // Not by three.js's own way, which draws the set once more in another kind of picture.
    expect(rest.transmission).equal(0);
    const moving = look(honey, true);
    expect(programOf(moving).fragmentShader).equal(ShaderLib.physical.fragmentShader);
    expect(moving.transparent).equal(false);
    expect(moving.color.r).above(moving.color.b);
    [rest, moving].forEach(disposeMaterial);
  });

  it('draws clear glass as a skin of highlights, the more of a skin the less it lets through', () => {
    expect(isFilling({ ...makeFinish('Glass'), transmission: 1 })).equal(false);
    const [clear, milky] = [look({ transmission: 1 }), look({ transmission: 0.4 })];
    expect(clear.transmission).equal(0);
    expect(clear.transparent && !clear.depthWrite).equal(true);
    expect(milky.opacity).above(clear.opacity + 0.2);
    expect(look({}).transparent).equal(false);
  });
});

describe('web: depths of the viewer', () => {
  const round = (size: number, middle = 0): Box3 =>
    new Box3(new Vector3(-size, middle - size, -size), new Vector3(size, middle + size, size));

  it('fit a gear of two millimetres, a jar and an engine of a hundred metres', () => {
    for (const size of [0.001, 0.06, 60]) {
      const eye = new Vector3(0, 0, size * 6);
      const { near, far } = depthRange(eye, round(size), round(size * 8));
      // Nothing of the subject is cut off, what stands before it neither, and depths can still be told apart.
      expect(near, String(size)).below(size * 2);
      expect(far, String(size)).above(size * 14);
      expect(far / near).below(1e6);
    }
  });

  it('are usual when nothing is there, and near when the eye is among the things', () => {
    expect(depthRange(new Vector3(), new Box3(), new Box3())).deep.equal({ near: 0.01, far: 60 });
    expect(depthRange(new Vector3(0, 0, 0), round(0.1), round(2)).near).below(0.001);
  });
});

describe('web: a picture at rest', () => {
  it('looks once into each row and column of a pixel, on the whole at its middle', () => {
    const spots = Array.from({ length: PASSES }, (_, pass) => jitterOf(pass));
    for (const axis of [0, 1]) {
      const rows = spots.map((spot) => Math.floor((spot[axis] + 0.5) * PASSES)).sort((a, b) => a - b);
      expect(rows).deep.equal(Array.from({ length: PASSES }, (_, i) => i));
      expect(spots.reduce((sum, spot) => sum + spot[axis], 0)).closeTo(0, 1e-12);
    }
  });
});
