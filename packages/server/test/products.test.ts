import { expect } from 'chai';
import sharp from 'sharp';
import validator from 'gltf-validator';
import { newBlock, plainItem, plainLook, type ProductDocument, type SetDocument } from '@tender-orbit/core/document';
import { writeHdr } from '@tender-orbit/core/interchange';
import { panoramaOf } from '@tender-orbit/core/light';
import { builtDocument, newBuilder } from '@tender-orbit/core/product';
import type { TakeSummary } from '@tender-orbit/core/contract';
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
