import { draco, meshopt } from '@gltf-transform/functions';
import {
  KHRMaterialsAnisotropy,
  KHRMaterialsClearcoat,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsIridescence,
  KHRMaterialsSheen,
  KHRMaterialsSpecular,
  KHRMaterialsTransmission,
  KHRMaterialsUnlit,
  KHRMaterialsVolume,
  KHRTextureTransform,
} from '@gltf-transform/extensions';
import { expect } from 'chai';
import validator from 'gltf-validator';
import { MeshoptEncoder } from 'meshoptimizer';
import { validateDocument } from '@tender-orbit/core/document';
import { makeFinish } from '@tender-orbit/core/finish';
import { boundsOf, buildTurned } from '@tender-orbit/core/geometry';
import { importModel, productOf, readModel, writeModel, type ImportedModel } from '@tender-orbit/core/interchange';
import { Problem } from '@tender-orbit/core/problem';
import { decoders, quadDocument, RED_PNG, testIo, type QuadOptions } from './model-files.ts';

async function bring(
  bytes: Uint8Array,
  name = 'quad.glb',
  resources: Record<string, Uint8Array> = {},
): Promise<ImportedModel> {
  return importModel(name, bytes, resources, await decoders());
}
async function glb(options: QuadOptions = {}): Promise<Uint8Array> {
  return (await testIo()).writeBinary(quadDocument(options));
}
async function refusal(bytes: Uint8Array, name = 'quad.glb', resources = {}): Promise<Problem> {
  try {
    await bring(bytes, name, resources);
  } catch (error) {
    expect(error, String(error)).instanceOf(Problem);
    const { message } = error as Problem;
    // One clear sentence that names the file.
    expect(message).contain(name);
    expect(message).match(/[.]$/);
    expect(message.length).below(320);
    return error as Problem;
  }
  throw new Error('it was taken');
}

describe('interchange: importing glTF', () => {
  it('applies the transforms of the nodes above a mesh', async () => {
    const {
      model,
      report: { triangles },
    } = await bring(await glb());
    expect(triangles).equal(2);
    const box = boundsOf(model.parts.map((p) => p.mesh));
    // Turned a quarter about Y, the square lies across x; lifted by 3.
    box.min.forEach((v, a) => expect(v).closeTo([0, 2, -1][a], 1e-6));
    box.max.forEach((v, a) => expect(v).closeTo([0, 4, 1][a], 1e-6));
    expect(model.parts[0].mesh.normals[0]).closeTo(1, 1e-6);
  });

  it('makes normals where there are none', async () => {
    const { model } = await bring(await glb({ normals: false }));
    expect(model.parts[0].mesh.normals[0]).closeTo(1, 1e-6);
  });

  it('reads compressed geometry, Draco and meshopt, to the accuracy of its quantisation', async () => {
    const plain = await bring(await glb({ cells: 24 }));
    for (const transform of [draco(), meshopt({ encoder: MeshoptEncoder, level: 'high' })]) {
      const document = quadDocument({ cells: 24 });
      await document.transform(transform);
      const bytes = await (await testIo()).writeBinary(document);
      expect(Buffer.from(bytes).toString('latin1')).match(/KHR_draco_mesh_compression|EXT_meshopt_compression/);
      const packed = await bring(bytes);
      expect(packed.report.triangles).equal(plain.report.triangles);
      const [a, b] = [plain, packed].map((m) => boundsOf(m.model.parts.map((p) => p.mesh)));
      for (let axis = 0; axis < 3; axis++) expect(b.max[axis]).closeTo(a.max[axis], 1e-3);
      // What is kept is plain, so that every reader of ours can be simple.
      expect(Buffer.from(packed.glb).toString('latin1')).not.match(/KHR_draco|EXT_meshopt|KHR_mesh_quantization/);
      expect((await readModel(packed.glb)).parts).length(packed.model.parts.length);
    }
  });

  it('reads every material extension of the first slice', async () => {
    const bytes = await glb({
      edit: (doc, m) => {
        m.setExtension(
          'KHR_materials_clearcoat',
          doc
            .createExtension(KHRMaterialsClearcoat)
            .createClearcoat()
            .setClearcoatFactor(0.8)
            .setClearcoatRoughnessFactor(0.1),
        );
        m.setExtension(
          'KHR_materials_transmission',
          doc.createExtension(KHRMaterialsTransmission).createTransmission().setTransmissionFactor(0.9),
        );
        m.setExtension('KHR_materials_ior', doc.createExtension(KHRMaterialsIOR).createIOR().setIOR(1.33));
        m.setExtension(
          'KHR_materials_volume',
          doc
            .createExtension(KHRMaterialsVolume)
            .createVolume()
            .setThicknessFactor(0.02)
            .setAttenuationColor([0.9, 0.5, 0.1])
            .setAttenuationDistance(0.03),
        );
        m.setExtension(
          'KHR_materials_specular',
          doc
            .createExtension(KHRMaterialsSpecular)
            .createSpecular()
            .setSpecularFactor(0.4)
            .setSpecularColorFactor([1, 0.5, 0.2]),
        );
        m.setExtension(
          'KHR_materials_sheen',
          doc
            .createExtension(KHRMaterialsSheen)
            .createSheen()
            .setSheenColorFactor([0.1, 0.2, 0.3])
            .setSheenRoughnessFactor(0.6),
        );
        m.setExtension(
          'KHR_materials_iridescence',
          doc
            .createExtension(KHRMaterialsIridescence)
            .createIridescence()
            .setIridescenceFactor(0.5)
            .setIridescenceIOR(1.4)
            .setIridescenceThicknessMinimum(120)
            .setIridescenceThicknessMaximum(380),
        );
        m.setExtension(
          'KHR_materials_anisotropy',
          doc
            .createExtension(KHRMaterialsAnisotropy)
            .createAnisotropy()
            .setAnisotropyStrength(0.7)
            .setAnisotropyRotation(0.3),
        );
        m.setEmissiveFactor([1, 0.5, 0]).setExtension(
          'KHR_materials_emissive_strength',
          doc.createExtension(KHRMaterialsEmissiveStrength).createEmissiveStrength().setEmissiveStrength(12),
        );
      },
    });
    const { model } = await bring(bytes);
    const finish = model.finishes[0];
    expect(finish).deep.include({
      name: 'Paper',
      clearcoat: 0.8,
      clearcoatRoughness: 0.1,
      transmission: 0.9,
      ior: 1.33,
      thickness: 0.02,
      attenuationColor: [0.9, 0.5, 0.1],
      attenuationDistance: 0.03,
    });
    expect(finish).deep.include({
      specular: 0.4,
      specularColor: [1, 0.5, 0.2],
      sheenColor: [0.1, 0.2, 0.3],
      sheenRoughness: 0.6,
      iridescence: 0.5,
      iridescenceIor: 1.4,
      iridescenceThickness: [120, 380],
    });
    expect(finish).deep.include({
      anisotropy: 0.7,
      anisotropyRotation: 0.3,
      emissive: [1, 0.5, 0],
      emissiveStrength: 12,
      unlit: false,
    });
  });

  it('reads unlit, alpha modes, vertex colours and where a texture lies', async () => {
    const bytes = await glb({
      edit: (doc, m) => {
        m.setExtension('KHR_materials_unlit', doc.createExtension(KHRMaterialsUnlit).createUnlit());
        m.setAlphaMode('MASK').setAlphaCutoff(0.3).setDoubleSided(true);
        m.setBaseColorTexture(
          doc
            .createTexture('Art')
            .setImage(RED_PNG as Uint8Array<ArrayBuffer>)
            .setMimeType('image/png'),
        );
        const transform = doc
          .createExtension(KHRTextureTransform)
          .createTransform()
          .setOffset([0.1, 0.2])
          .setRotation(0.5)
          .setScale([2, 3]);
        m.getBaseColorTextureInfo()!.setExtension('KHR_texture_transform', transform).setWrapS(33071).setWrapT(33648);
        const primitive = doc.getRoot().listMeshes()[0].listPrimitives()[0];
        const colours = Uint8Array.from([255, 0, 0, 0, 255, 0, 0, 0, 255, 255, 255, 255]);
        primitive.setAttribute(
          'COLOR_0',
          doc
            .createAccessor()
            .setType('VEC3')
            .setArray(colours)
            .setNormalized(true)
            .setBuffer(doc.getRoot().listBuffers()[0]),
        );
      },
    });
    const { model } = await bring(bytes);
    const [finish] = model.finishes;
    expect(finish).include({ unlit: true, alphaMode: 'mask', alphaCutoff: 0.3, doubleSided: true });
    expect(finish.textures.baseColor).deep.equal({
      image: 0,
      strength: 1,
      offset: [0.1, 0.2],
      rotation: 0.5,
      scale: [2, 3],
      wrap: ['clamp', 'mirror'],
    });
    expect([...model.images[0].bytes]).deep.equal([...RED_PNG]);
    expect([...model.parts[0].mesh.colors!.subarray(0, 8)]).deep.equal([1, 0, 0, 1, 0, 1, 0, 1]);
  });

  it('turns strips and fans into triangles', async () => {
    for (const mode of [5, 6] as const) {
      const bytes = await glb({
        edit: (doc) => {
          const primitive = doc.getRoot().listMeshes()[0].listPrimitives()[0].setMode(mode);
          primitive.getIndices()!.setArray(Uint16Array.from(mode === 5 ? [0, 1, 2, 3] : [0, 1, 3, 2]));
        },
      });
      expect((await bring(bytes)).report.triangles).equal(2);
    }
  });

  it('reads a .gltf with the files it refers to, and names the one that is missing', async () => {
    const { json, resources } = await (await testIo()).writeJSON(quadDocument(), { basename: 'quad' });
    const text = new TextEncoder().encode(JSON.stringify(json));
    expect((await bring(text, 'quad.gltf', resources)).report.triangles).equal(2);
    expect((await refusal(text, 'quad.gltf')).message).contain('quad.bin');
  });

  it('makes a product document that is valid', async () => {
    const { model } = await bring(await glb());
    const product = productOf(
      'Quad',
      { fileName: 'quad.glb', source: 'a'.repeat(64), model: 'b'.repeat(64), unit: 'm' },
      model,
    );
    expect(validateDocument('product', JSON.parse(JSON.stringify(product)))).deep.equal(
      JSON.parse(JSON.stringify(product)),
    );
    expect(product.extent.map((e) => Math.round(e))).deep.equal([0, 2, 2]);
  });
});

describe('interchange: files that are none', () => {
  it('a cut-off file is named as one', async () => {
    const whole = await glb({ cells: 8 });
    expect((await refusal(whole.slice(0, whole.length >> 1))).code).equal('model/cut-off');
  });

  it('rubbish, an empty object, another version and another format are refused', async () => {
    const version1 = (await glb()).slice();
    version1[4] = 1;
    expect((await refusal(version1)).code).equal('model/version');
    expect((await refusal(new TextEncoder().encode('{"asset":{"version":"1.0"}}'))).code).equal('model/version');
    expect((await refusal(new TextEncoder().encode('{}'))).code).equal('model/version');
    expect((await refusal(new TextEncoder().encode('solid teapot'))).code).equal('model/not-gltf');
    expect((await refusal(RED_PNG)).code).equal('model/not-gltf');
    expect((await refusal(new Uint8Array(64).fill(255))).code).equal('model/not-gltf');
  });

  it('a file with its bytes mangled never gets through as an unexplained error', async () => {
    const whole = await glb({ cells: 4 });
    let refused = 0;
    for (let i = 0; i < 60; i++) {
      const bytes = whole.slice();
      for (let k = 0; k < 12; k++)
        bytes[20 + ((i * 7919 + k * 104729) % (bytes.length - 20))] = (i * 31 + k * 17) & 255;
      try {
        await bring(bytes);
      } catch (error) {
        expect(error, String((error as Error).stack)).instanceOf(Problem);
        refused++;
      }
    }
    expect(refused).above(10);
  });

  it('no triangles, no size, an index out of range, a position that is no number', async () => {
    const withPositions = (values: number[]) =>
      glb({
        edit: (doc) =>
          void doc
            .getRoot()
            .listMeshes()[0]
            .listPrimitives()[0]
            .getAttribute('POSITION')!
            .setArray(Float32Array.from(values)),
      });
    expect(
      (await refusal(await glb({ edit: (doc) => void doc.getRoot().listMeshes()[0].listPrimitives()[0].setMode(0) })))
        .code,
    ).equal('model/no-triangles');
    expect((await refusal(await withPositions(new Array(12).fill(1)))).code).equal('model/no-size');
    expect((await refusal(await withPositions([0, 0, 0, 1, 0, 0, NaN, 1, 0, 0, 1, 0]))).code).equal('model/bad-number');
    const outside = await glb({
      edit: (doc) =>
        void doc
          .getRoot()
          .listMeshes()[0]
          .listPrimitives()[0]
          .getIndices()!
          .setArray(Uint16Array.from([0, 1, 900])),
    });
    expect((await refusal(outside)).code).equal('model/bad-index');
  });

  it('a picture of a kind that is not taken', async () => {
    const bytes = await glb({
      edit: (doc, m) =>
        void m.setBaseColorTexture(
          doc
            .createTexture('Art')
            .setImage(RED_PNG as Uint8Array<ArrayBuffer>)
            .setMimeType('image/bmp'),
        ),
    });
    expect((await refusal(bytes)).message).contain('Art');
  });
});

describe('interchange: writing', () => {
  it('gives a GLB without a single validator error, which reads back the same', async () => {
    const model = {
      parts: [
        {
          name: 'Jar',
          mesh: buildTurned({
            profile: [
              [0, 0],
              [0.03, 0],
              [0.03, 0.1],
              [0, 0.1],
            ],
            segments: 24,
          }),
          finish: 0,
        },
      ],
      finishes: [
        makeFinish('Honey', {
          transmission: 1,
          thickness: 0.05,
          ior: 1.49,
          attenuationColor: [0.9, 0.5, 0.1],
          attenuationDistance: 0.03,
          clearcoat: 0.5,
          sheenColor: [0.1, 0, 0],
          specular: 0.7,
          textures: {
            baseColor: {
              image: 0,
              offset: [0, 0],
              rotation: 0,
              scale: [1, 1],
              strength: 1,
              wrap: ['repeat', 'repeat'],
            },
          },
        }),
      ],
      images: [{ name: 'Art', mimeType: 'image/png', bytes: RED_PNG }],
    };
    const bytes = await writeModel(model);
    const report = await validator.validateBytes(bytes);
    expect(report.issues.messages.filter((m: { severity: number }) => m.severity === 0)).deep.equal([]);
    const back = await readModel(bytes);
    expect(back.parts[0].name).equal('Jar');
    // The floats are the same; only the sign of a zero is lost in the node's transform.
    back.parts[0].mesh.positions.forEach((v, i) => expect(v === model.parts[0].mesh.positions[i]).equal(true));
    expect(back.finishes[0]).deep.include({
      ior: 1.49,
      transmission: 1,
      thickness: 0.05,
      specular: 0.7,
      clearcoat: 0.5,
    });
    expect([...back.images[0].bytes]).deep.equal([...RED_PNG]);
  });
});
