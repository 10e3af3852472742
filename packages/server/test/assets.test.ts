import { readdirSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';
import { expect } from 'chai';
import sharp from 'sharp';
import { makeModels } from '@tender-orbit/demo';
import type { RunningServer } from '@tender-orbit/server';
import { Client, signedIn, smallCampaign, startTestServer, testConfig } from './harness.ts';

interface Uploaded {
  hash: string;
  mime: string;
  size: number;
}

describe('server: files and models', () => {
  let server: RunningServer;
  let client: Client;
  let glb: Uint8Array;
  const config = testConfig();
  before(async () => {
    server = await startTestServer(config);
    client = await signedIn(server);
    glb = (await makeModels()).find((m) => m.key === 'dipper')!.glb;
  });
  after(() => server.stop());

  const upload = (bytes: Uint8Array) => client.send<Uploaded & Record<string, unknown>>('POST', '/assets', bytes);
  const bring = async (bytes: Uint8Array, fileName: string, campaign?: string) => {
    const { body } = await upload(bytes);
    const id = campaign ?? (await smallCampaign(client)).id;
    return client.send<{ document: Record<string, never> } & Record<string, unknown>>(
      'POST',
      `/campaigns/${id}/products`,
      { fileName, asset: body.hash, resources: {} },
    );
  };
  const leftOver = (): string[] => readdirSync(join(config.files, 'incoming'));

  it('are named by their content, stored once, and come back byte for byte', async () => {
    const [a, b] = [await upload(glb), await upload(glb)];
    expect(a.status).equal(201);
    expect(a.body).deep.equal(b.body);
    expect(a.body.mime).equal('model/gltf-binary');
    const back = await client.send('GET', `/assets/${a.body.hash}`);
    expect(back.bytes.equals(Buffer.from(glb))).equal(true);
    expect(back.headers.get('content-security-policy')).contain('sandbox');
    expect(await server.context.db.one('SELECT COUNT(*) AS n FROM assets WHERE hash = ?', [a.body.hash])).deep.equal({
      n: 1,
    });
  });

  it('are told apart by content, whatever they are called', async () => {
    const png = await sharp({ create: { width: 4, height: 4, channels: 3, background: '#7f5' } })
      .png()
      .toBuffer();
    expect((await upload(png)).body.mime).equal('image/png');
    const named = await bring(png, 'jar.glb');
    expect(named.status).equal(422);
    expect(named.body.title).equal(
      '"jar.glb" is a PNG picture, not a model: bring a .glb, .gltf, .obj, .stl, .ply, .usdz or .usda file.',
    );
  });

  it('larger than the limit are refused before and while they come in, and leave nothing behind', async () => {
    const large = await upload(new Uint8Array(config.uploadLimit + 1));
    expect(large.status).equal(413);
    expect(large.body.title).contain('larger than 8 MB');
    // A sender that announces 2 GB is refused on the announcement alone.
    expect(await announce(2 * 1024 ** 3)).match(/^HTTP\/1\.1 413/);
    // A sender that hides its size is cut off at the limit.
    const hidden = await fetch(`${server.address}/api/assets`, {
      method: 'POST',
      headers: { cookie: client.cookie, 'x-csrf-token': client.csrf, 'content-type': 'application/octet-stream' },
      body: new ReadableStream({
        start(controller) {
          for (let i = 0; i < 10; i++) controller.enqueue(new Uint8Array(1024 * 1024));
          controller.close();
        },
      }),
      duplex: 'half',
    } as RequestInit);
    expect(hidden.status).equal(413);
    expect(leftOver()).deep.equal([]);
  });

  function announce(size: number): Promise<string> {
    return new Promise((done, fail) => {
      const { hostname, port } = new URL(server.address);
      const socket = connect(Number(port), hostname, () =>
        socket.write(
          `POST /api/assets HTTP/1.1\r\nHost: x\r\nCookie: ${client.cookie}\r\nX-CSRF-Token: ${client.csrf}\r\nContent-Type: application/octet-stream\r\nContent-Length: ${size}\r\n\r\n`,
        ),
      );
      socket.once('data', (data) => {
        socket.destroy();
        done(data.toString());
      });
      socket.once('error', fail);
    });
  }

  it('empty ones, and ones that break off, are refused or forgotten', async () => {
    expect((await upload(new Uint8Array(0))).status).equal(422);
    const { hostname, port } = new URL(server.address);
    await new Promise<void>((done) => {
      const socket = connect(Number(port), hostname, () => {
        socket.write(
          `POST /api/assets HTTP/1.1\r\nHost: x\r\nCookie: ${client.cookie}\r\nX-CSRF-Token: ${client.csrf}\r\nContent-Type: application/octet-stream\r\nContent-Length: 100000\r\n\r\n${'x'.repeat(5000)}`,
          () => setTimeout(() => socket.destroy(), 100),
        );
      });
      socket.on('close', () => setTimeout(done, 300));
    });
    expect(leftOver()).deep.equal([]);
  });

  it('cannot be reached by a path', async () => {
    for (const name of ['..%2F..%2Fsession-secret', 'A'.repeat(64), 'zz', '%2Fetc%2Fpasswd'])
      expect((await client.send('GET', `/assets/${name}`)).status).equal(404);
  });

  it('a model becomes a product with parts, finishes and real size', async () => {
    const answer = await bring(glb, 'Dipper.glb');
    expect(answer.status, JSON.stringify(answer.body)).equal(201);
    const product = answer.body.document as unknown as {
      name: string;
      extent: number[];
      parts: Array<{ name: string; triangles: number }>;
      finishes: Array<{ name: string }>;
    };
    expect(product.name).equal('Dipper');
    expect(product.extent[1]).closeTo(0.1605, 1e-3);
    expect(product.parts[0].triangles).above(1000);
    expect(product.finishes[0].name).equal('Oiled beech');
  });

  it('broken models are refused in one sentence and make no product', async () => {
    const { id } = await smallCampaign(client);
    const mangled = glb.slice();
    mangled.fill(7, 100, 400);
    const cases: Array<[Uint8Array, string, RegExp]> = [
      [glb.slice(0, glb.length >> 1), 'half.glb', /"half\.glb" is cut off/],
      [mangled, 'mangled.glb', /"mangled\.glb"/],
      [
        new TextEncoder().encode('{"asset":{"version":"2.0"},"buffers":[{"uri":"jar.bin","byteLength":4}]}'),
        'jar.gltf',
        /needs the file "jar\.bin"/,
      ],
      [new TextEncoder().encode('{"asset":{"version":"2.0"}}'), 'empty.gltf', /no triangles/],
      [new TextEncoder().encode('hello'), 'hello.glb', /"hello\.glb" is .*not a glTF model/],
    ];
    for (const [bytes, name, message] of cases) {
      const answer = await bring(bytes, name, id);
      expect(answer.status, name).equal(422);
      expect(answer.body.title).match(message);
    }
    const bundle = await client.ok<{ products: unknown[] }>('GET', `/campaigns/${id}`);
    expect(bundle.products).deep.equal([]);
    expect(
      (await client.send('POST', `/campaigns/${id}/products`, { fileName: 'x.glb', asset: 'f'.repeat(64) })).status,
    ).equal(404);
  });

  it('files that nothing uses are swept away after a day, used ones stay', async () => {
    const { body: loose } = await upload(new TextEncoder().encode(`loose ${Math.random()}`));
    const kept = (await bring(glb, 'Kept.glb')).body.document as unknown as { model: string };
    await server.context.db.run('UPDATE assets SET created_at = NOW() - INTERVAL 2 DAY');
    await server.context.assets.sweep();
    expect((await client.send('GET', `/assets/${loose.hash}`)).status).equal(404);
    expect((await client.send('GET', `/assets/${kept.model}`)).status).equal(200);
  });
});
