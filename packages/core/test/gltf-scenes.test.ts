import { Document, type Accessor, type GLTF, type Node } from '@gltf-transform/core';
import {
  EXTMeshGPUInstancing,
  KHRLightsPunctual,
  KHRMaterialsPBRSpecularGlossiness,
  KHRNodeVisibility,
} from '@gltf-transform/extensions';
import { expect } from 'chai';
import { boundsOf, type Bounds } from '@tender-orbit/core/geometry';
import { importModel, type ImportedModel, type ImportOptions } from '@tender-orbit/core/interchange';
import { Problem } from '@tender-orbit/core/problem';
import { decoders, quadDocument, testIo } from './model-files.ts';

/** A file's JSON with every list there. */
type Json = { [K in keyof GLTF.IGLTF]-?: NonNullable<GLTF.IGLTF[K]> };

async function bring(document: Document, options: ImportOptions = {}): Promise<ImportedModel> {
  return importModel('quad.glb', await (await testIo()).writeBinary(document), {}, await decoders(), options);
}

/** A .gltf made of a document, with its JSON changed. */
async function bringJson(edit: (json: Json) => void): Promise<ImportedModel> {
  const { json, resources } = await (await testIo()).writeJSON(quadDocument(), { basename: 'quad' });
  edit(json as Json);
  return importModel('quad.gltf', new TextEncoder().encode(JSON.stringify(json)), resources, await decoders());
}

async function refusal(edit: (json: Json) => void): Promise<Problem> {
  const error = await bringJson(edit).then(
    () => null,
    (e: unknown) => e,
  );
  expect(error, String(error)).instanceOf(Problem);
  return error as Problem;
}

const boxOf = ({ model }: ImportedModel): Bounds => boundsOf(model.parts.map((p) => p.mesh));

function floats(document: Document, type: 'SCALAR' | 'VEC3' | 'VEC4' | 'MAT4', values: number[]): Accessor {
  const buffer = document.getRoot().listBuffers()[0];
  return document.createAccessor().setType(type).setArray(Float32Array.from(values)).setBuffer(buffer);
}

const meshNode = (document: Document): Node =>
  document
    .getRoot()
    .listNodes()
    .find((node) => node.getMesh())!;

describe('interchange: what glTF scenes hold', () => {
  it('takes a file of several buffers', async () => {
    const { model } = await bringJson((json) => {
      const bytes = Buffer.alloc(16);
      [0.5, 0.5, 0.5, 0.5].forEach((v, i) => bytes.writeFloatLE(v, i * 4));
      json.buffers.push({ byteLength: 16, uri: `data:application/octet-stream;base64,${bytes.toString('base64')}` });
      json.bufferViews.push({ buffer: json.buffers.length - 1, byteLength: 16 });
      json.accessors.push({ bufferView: json.bufferViews.length - 1, componentType: 5126, count: 4, type: 'SCALAR' });
      json.meshes[0].primitives[0].attributes._WEAR = json.accessors.length - 1;
    });
    expect(model.parts).length(1);
  });

  it('passes over extensions that do not change a look, and refuses one that must be honoured, by name', async () => {
    const { model } = await bringJson((json) => {
      json.extensionsUsed = ['EXT_mesh_features', 'KHR_animation_pointer', 'VENDOR_wind_sway'];
      json.extensionsRequired = ['EXT_mesh_features', 'KHR_animation_pointer'];
      json.extensions = { VENDOR_wind_sway: { strength: 3 } };
    });
    expect(model.parts).length(1);
    const { code, message } = await refusal((json) => {
      json.extensionsUsed = ['VENDOR_wind_sway'];
      json.extensionsRequired = ['VENDOR_wind_sway'];
    });
    expect(code).equal('model/extension');
    expect(message).contain('VENDOR_wind_sway');
  });

  it('counts points and lines, and makes no triangles of them', async () => {
    const document = quadDocument();
    const [mesh] = document.getRoot().listMeshes();
    const [primitive] = mesh.listPrimitives();
    for (const mode of [0, 1, 2, 3] as const) {
      const other = document
        .createPrimitive()
        .setMode(mode)
        .setAttribute('POSITION', primitive.getAttribute('POSITION'));
      mesh.addPrimitive(other);
    }
    const { report } = await bring(document);
    expect(report.triangles).equal(2);
    expect(report.notes).deep.equal(['4 points and 8 lines were left out.']);
  });

  it('expands instances, each at its place', async () => {
    const document = quadDocument();
    const places = floats(document, 'VEC3', [0, 0, 0, 10, 0, 0, 20, 0, 0]);
    const extension = document.createExtension(EXTMeshGPUInstancing).setRequired(true);
    meshNode(document).setExtension(
      'EXT_mesh_gpu_instancing',
      extension.createInstancedMesh().setAttribute('TRANSLATION', places),
    );
    const plain = boxOf(await bring(quadDocument()));
    const many = await bring(document);
    expect(many.report.triangles).equal(6);
    expect(many.model.parts).length(1);
    // The node is turned a quarter about Y: its x runs back.
    const box = boxOf(many);
    expect(box.max[2] - box.min[2]).closeTo(plain.max[2] - plain.min[2] + 20, 1e-4);
  });

  it('leaves out nodes that are hidden', async () => {
    const document = quadDocument();
    const second = document.createNode('Hidden').setMesh(meshNode(document).getMesh());
    document.getRoot().listScenes()[0].addChild(second);
    const hidden = document.createExtension(KHRNodeVisibility).createVisibility().setVisible(false);
    expect((await bring(document)).model.parts).length(2);
    second.setExtension('KHR_node_visibility', hidden);
    expect((await bring(document)).model.parts).length(1);
  });

  it('adds morph targets at their weights', async () => {
    const document = quadDocument();
    const [mesh] = document.getRoot().listMeshes();
    const [primitive] = mesh.listPrimitives();
    const lift = floats(document, 'VEC3', [0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0]);
    primitive.addTarget(document.createPrimitiveTarget().setAttribute('POSITION', lift));
    const rest = boxOf(await bring(document));
    mesh.setWeights([0.5]);
    expect(boxOf(await bring(document)).max[1]).closeTo(rest.max[1] + 0.5, 1e-6);
    meshNode(document).setWeights([1]);
    expect(boxOf(await bring(document)).max[1]).closeTo(rest.max[1] + 1, 1e-6);
  });

  /** The square on a skin of one joint, which an animation lifts by 4 in 2 seconds and turns half round. */
  function skinned(): Document {
    const document = quadDocument();
    const node = meshNode(document);
    const [primitive] = node.getMesh()!.listPrimitives();
    const joint = document.createNode('Joint').setTranslation([0, 5, 0]);
    const scene = document.getRoot().listScenes()[0].addChild(joint);
    const buffer = document.getRoot().listBuffers()[0];
    const joints = document.createAccessor().setType('VEC4').setArray(new Uint8Array(16)).setBuffer(buffer);
    primitive.setAttribute('JOINTS_0', joints);
    primitive.setAttribute('WEIGHTS_0', floats(document, 'VEC4', [1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0]));
    const inverse = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, -5, 0, 1];
    node.setSkin(
      document
        .createSkin()
        .addJoint(joint)
        .setInverseBindMatrices(floats(document, 'MAT4', inverse)),
    );
    const times = floats(document, 'SCALAR', [0, 2]);
    const channel = (path: 'translation' | 'rotation', values: number[], cubic = false): void => {
      const output = floats(document, path === 'rotation' ? 'VEC4' : 'VEC3', values);
      const sampler = document.createAnimationSampler().setInput(times).setOutput(output);
      if (cubic) sampler.setInterpolation('CUBICSPLINE');
      animation.addSampler(sampler);
      animation.addChannel(
        document.createAnimationChannel().setTargetNode(joint).setTargetPath(path).setSampler(sampler),
      );
    };
    const animation = document.createAnimation('Open');
    channel('translation', [0, 5, 0, 0, 9, 0]);
    channel('rotation', [0, 0, 0, 1, 0, 1, 0, 0]);
    expect(scene.listChildren()).length(2);
    return document;
  }

  it('stands a skin as its joints do, whatever its own node says', async () => {
    const box = boxOf(await bring(skinned()));
    // The node's own lift and turn do not count: the joint stands where it was bound.
    expect(box.min.map((v) => +v.toFixed(5))).deep.equal([-1, -1, 0]);
  });

  it('poses it at a time of an animation, and says what animations there are', async () => {
    const { report } = await bring(skinned());
    expect(report.animations).deep.equal([{ name: 'Open', seconds: 2 }]);
    const half = await bring(skinned(), { pose: { animation: 0, seconds: 1 } });
    // Half way it is lifted by 2 and turned a quarter, so that it lies across x.
    const box = boxOf(half);
    expect(box.min.map((v) => +v.toFixed(4) + 0)).deep.equal([0, 1, -1]);
    expect(half.model.parts[0].mesh.normals[0]).closeTo(1, 1e-5);
    const after = boxOf(await bring(skinned(), { pose: { animation: 0, seconds: 99 } }));
    expect(after.min[1]).closeTo(3, 1e-5);
    const none = boxOf(await bring(skinned(), { pose: { animation: 7, seconds: 1 } }));
    expect(none.min[1]).closeTo(-1, 1e-5);
  });

  it('offers the lights and cameras of the file, in lumens, degrees and kelvin', async () => {
    const document = quadDocument();
    const extension = document.createExtension(KHRLightsPunctual);
    const scene = document.getRoot().listScenes()[0];
    const light = extension
      .createLight('Window')
      .setType('spot')
      .setIntensity(100)
      .setColor([1, 0.65, 0.35])
      .setOuterConeAngle(Math.PI / 6)
      .setInnerConeAngle(Math.PI / 12);
    scene.addChild(document.createNode().setTranslation([0, 2, 3]).setExtension('KHR_lights_punctual', light));
    const sun = extension.createLight('Sun').setType('directional').setIntensity(5000);
    scene.addChild(document.createNode().setExtension('KHR_lights_punctual', sun));
    const camera = document.createCamera('Front').setType('perspective').setYFov(0.5);
    scene.addChild(document.createNode().setTranslation([0, 0, 4]).setCamera(camera));
    const { report } = await bring(document);
    const [spot, other] = report.lights;
    expect(spot).deep.include({ name: 'Window', shape: 'spot', position: [0, 2, 3], aim: [0, 2, 2] });
    expect(spot.lumens).closeTo(100 * 2 * Math.PI * (1 - Math.cos(Math.PI / 6)), 1e-6);
    expect(spot.beamAngle).closeTo(60, 1e-6);
    expect(spot.softness).closeTo(0.5, 1e-6);
    expect(spot.kelvin).within(2500, 4500);
    expect(other).include({ shape: 'sun', lumens: 5000 });
    expect(report.cameras[0]).deep.include({ name: 'Front', position: [0, 0, 4], aim: [0, 0, 3] });
    expect(report.cameras[0].fieldOfView).closeTo(0.5 * (180 / Math.PI), 1e-6);
  });

  it('reads the older look of specular and glossiness', async () => {
    const document = quadDocument({
      edit: (doc, material) => {
        const extension = doc.createExtension(KHRMaterialsPBRSpecularGlossiness).setRequired(true);
        const look = extension
          .createPBRSpecularGlossiness()
          .setGlossinessFactor(0.8)
          .setSpecularFactor([0.9, 0.7, 0.3]);
        material.setExtension('KHR_materials_pbrSpecularGlossiness', look.setDiffuseFactor([0, 0, 0, 1]));
      },
    });
    const [finish] = (await bring(document)).model.finishes;
    expect(finish).include({ metallic: 1 });
    expect(finish.baseColor).deep.equal([0.9, 0.7, 0.3]);
    expect(finish.roughness).closeTo(0.2, 1e-9);
  });

  it('refuses what a file claims before anything is unpacked, and trees that never end', async () => {
    const huge = await refusal((json) => {
      json.accessors.push({ componentType: 5126, count: 120_000_000, type: 'VEC3' });
      json.meshes[0].primitives[0].attributes.POSITION = json.accessors.length - 1;
    });
    expect(huge.code).equal('model/too-heavy');
    const other = await refusal((json) => {
      json.accessors.push({ componentType: 5126, count: 200_000_000, type: 'VEC4' });
    });
    expect(other.code).equal('model/too-heavy');
    const circle = await refusal((json) => (json.nodes[0].children = [0]));
    expect(circle.message).contain('node 0').contain('its own children');
    const nodes = await refusal((json) => (json.nodes = Array.from({ length: 200_000 }, () => ({}))));
    expect(nodes.message).contain('200,000 nodes');
    expect((await refusal((json) => (json.accessors[0].count = -1))).code).equal('model/broken');
  });
});
