import { expect } from 'chai';
import sharp from 'sharp';
import validator from 'gltf-validator';
import { newBlock, plainItem, plainLook, type ProductDocument, type SetDocument } from '@tender-orbit/core/document';
import { writeHdr } from '@tender-orbit/core/interchange';
import { panoramaOf } from '@tender-orbit/core/light';
import { builtDocument, newBuilder } from '@tender-orbit/core/product';
import type { ModelMade, PoseMade, TakeSummary } from '@tender-orbit/core/contract';
import type { RunningServer } from '@tender-orbit/server';
import { Client, signedIn, smallCampaign, startTestServer, testConfig, until, type SmallCampaign } from './harness.ts';

describe('server: built products, art and rooms', () => {
  let server: RunningServer;
  let client: Client;
  let campaign: SmallCampaign;
  let art: string;
  let product: { id: string; revision: number; document: ProductDocument };

  before(async () => {
    server = await startTestServer(testConfig());
    client = await signedIn(server);
    campaign = await smallCampaign(client);
    const red = await sharp({ create: { width: 8, height: 8, channels: 3, background: '#ff0000' } })
      .png()
      .toBuffer();
    art = (await client.ok<{ hash: string }>('POST', '/assets', new Uint8Array(red))).hash;
  });
  after(() => server.stop());

  it('keeps a product that is built from numbers, with its art', async () => {
    const plain = builtDocument('Carton', newBuilder('carton'));
    const picture = { asset: art, pattern: null, look: null, emboss: false };
    const dressed: ProductDocument = {
      ...plain,
      sheets: [{ id: 'red', name: 'Red', picture, width: 8, height: 8 }],
      variants: [
        { ...plain.variants[0], fills: plain.slots.map((s) => ({ slot: s.id, sheet: 'red', look: plainLook() })) },
      ],
    };
    product = await client.ok('POST', `/campaigns/${campaign.id}/products`, { product: dressed });
    expect(product.document).deep.equal(dressed);
  });

  it('refuses one with numbers out of range, and names the number', async () => {
    const wrong = { ...product.document, builder: { ...newBuilder('carton'), width: -1 } };
    const { status, body } = await client.send('POST', `/campaigns/${campaign.id}/products`, { product: wrong });
    expect(status).equal(422);
    expect(JSON.stringify(body)).match(/Width must be a number/);
  });

  it('does not let another person build in the campaign', async () => {
    const other = await signedIn(server, 'odo@vellowmere.example');
    const { status } = await other.send('POST', `/campaigns/${campaign.id}/products`, { product: product.document });
    expect(status).equal(404);
  });

  it('renders it with its art, on a plinth, in a room from a panorama file', async () => {
    const panorama = await client.ok<{ hash: string }>(
      'POST',
      '/assets',
      writeHdr(panoramaOf({ kind: 'tent', boxes: [] })),
    );
    const set = campaign.set.document as unknown as SetDocument;
    const document: SetDocument = {
      ...set,
      surfaces: [...set.surfaces, newBlock('plinth', 'plinth', { height: 0.02 })],
      products: [
        { ...plainItem(), id: 'box', name: 'Box', product: product.id, position: [0, 0, 0], standsOn: 'plinth' },
      ],
      environment: { ...set.environment, intensity: 400, room: { kind: 'file', asset: panorama.hash, boxes: [] } },
    };
    await client.ok('PUT', `/documents/set/${campaign.set.id}`, { expectedRevision: 1, label: 'Stage', document });
    const take = await client.ok<{ id: string }>('POST', '/takes', {
      ...{ shot: campaign.shot.id, quality: 'draft', width: 64, samples: 8 },
    });
    const { done, error } = await until(
      async () =>
        (await client.ok<TakeSummary[]>('GET', `/campaigns/${campaign.id}/takes`)).find((t) => t.id === take.id)!,
      (own) => own.done.length > 0 || own.error !== null,
    );
    expect(error).equal(null);
    const { bytes } = await client.send('GET', `/takes/${take.id}/frames/${done[0]}`);
    const { data, info } = await sharp(bytes).removeAlpha().raw().toBuffer({ resolveWithObject: true });
    let red = 0;
    for (let i = 0; i < data.length; i += 3)
      if (data[i] > 60 && data[i + 1] < data[i] * 0.3 && data[i + 2] < data[i] * 0.3) red++;
    expect(red / (info.width * info.height)).above(0.03);
  });

  it('brings a file in with what lies beside it, says what it found, and poses it anew', async () => {
    const floats = (values: number[]): string => Buffer.from(Float32Array.from(values).buffer).toString('base64');
    const data = [0, 0, 0, 40, 0, 0, 0, 40, 0, /* times */ 0, 2, /* lift */ 0, 0, 0, 0, 10, 0];
    const view = (byteOffset: number, byteLength: number): object => ({ buffer: 0, byteOffset, byteLength });
    const gltf = {
      asset: { version: '2.0' },
      scenes: [{ nodes: [0] }],
      nodes: [
        { name: 'Lid', mesh: 0 },
        { name: 'Base', mesh: 0 },
      ],
      meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
      animations: [
        {
          name: 'Open',
          channels: [{ sampler: 0, target: { node: 0, path: 'translation' } }],
          samplers: [{ input: 1, output: 2 }],
        },
      ],
      accessors: [
        { bufferView: 0, componentType: 5126, count: 3, type: 'VEC3', min: [0, 0, 0], max: [40, 40, 0] },
        { bufferView: 1, componentType: 5126, count: 2, type: 'SCALAR', min: [0], max: [2] },
        { bufferView: 2, componentType: 5126, count: 2, type: 'VEC3' },
      ],
      bufferViews: [view(0, 36), view(36, 8), view(44, 24)],
      buffers: [{ byteLength: 68, uri: 'lid%20data.bin' }],
    };
    gltf.scenes[0].nodes.push(1);
    const upload = async (bytes: Uint8Array): Promise<string> =>
      (await client.ok<{ hash: string }>('POST', '/assets', bytes)).hash;
    const asset = await upload(new TextEncoder().encode(JSON.stringify(gltf)));
    const bin = await upload(new Uint8Array(Buffer.from(floats(data), 'base64')));
    const made = await client.ok<ModelMade>('POST', `/campaigns/${campaign.id}/products`, {
      ...{ fileName: 'lid.gltf', asset, resources: { 'lid data.bin': bin } },
    });
    expect(made.report).deep.include({ unit: 'm', units: ['cm', 'mm', 'in'], triangles: 2 });
    expect(made.document.origin).deep.equal({
      files: [{ name: 'lid data.bin', asset: bin }],
      animations: [{ name: 'Open', seconds: 2 }],
      pose: null,
    });
    const pose = { animation: 0, seconds: 1 };
    const posed = await client.ok<PoseMade>('POST', `/products/${made.id}/pose`, { pose });
    expect(posed).deep.include({ extent: [40, 45, 0], pose });
    expect(posed.model).not.equal(made.document.model);
    const back = await client.ok<PoseMade>('POST', `/products/${made.id}/pose`, { pose: null });
    expect(back).deep.include({ extent: [40, 40, 0], model: made.document.model });
    const none = await client.send('POST', `/products/${made.id}/pose`, { pose: { animation: 4, seconds: 1 } });
    expect(none.status).equal(422);
    const still = await client.send('POST', `/products/${product.id}/pose`, { pose });
    expect(String(still.body.title)).contain('no animation');
  });

  it('hands out the staged set as a valid GLB with a file name', async () => {
    const { status, headers, bytes } = await client.send('GET', `/shots/${campaign.shot.id}/staged.glb`);
    expect(status).equal(200);
    expect(headers.get('content-type')).equal('model/gltf-binary');
    expect(headers.get('content-disposition')).match(/filename="?.+\.glb/);
    const report = await validator.validateBytes(new Uint8Array(bytes));
    expect(report.issues.messages.filter((m: { severity: number }) => m.severity === 0)).deep.equal([]);
    const other = await signedIn(server, 'odo@vellowmere.example');
    expect((await other.send('GET', `/shots/${campaign.shot.id}/staged.glb`)).status).equal(404);
  });

  it('keeps the art for as long as a product uses it', async () => {
    const { document } = await client.ok<{ document: ProductDocument }>('GET', `/documents/product/${product.id}`);
    expect(document.sheets[0].picture.asset).equal(art);
    expect((await client.send('GET', `/assets/${art}`)).status).equal(200);
  });
});
