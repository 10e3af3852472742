import { expect } from 'chai';
import { gzipSync } from 'node:zlib';
import sharp from 'sharp';
import { makeModels } from '@tender-orbit/demo';
import { Problem } from '@tender-orbit/core/problem';
import { configFromEnvironment } from '@tender-orbit/server';
import { contentType, describeType } from '../src/assets/content-type.ts';
import { Database, migrateDatabase } from '../src/database/index.ts';
import { newId } from '../src/ids.ts';
import { fontPath } from '../src/promos/title-fonts.ts';
import { replyOf, runOnce, startWorker, stopListening } from '../src/workers/index.ts';
import { testConfig } from './harness.ts';

describe('server: telling files by their content', () => {
  const png = () =>
    sharp({ create: { width: 2, height: 2, channels: 3, background: '#fff' } })
      .png()
      .toBuffer();

  it('knows models, pictures and sounds, whatever they are called', async () => {
    const [{ glb }] = await makeModels();
    expect(await contentType(glb.subarray(0, 4100))).equal('model/gltf-binary');
    expect(await contentType(Buffer.from('\uFEFF  {"asset":{}}'))).equal('model/gltf+json');
    expect(await contentType(await png())).equal('image/png');
    expect(
      await contentType(
        await sharp(await png())
          .jpeg()
          .toBuffer(),
      ),
    ).equal('image/jpeg');
    expect(
      await contentType(
        await sharp(await png())
          .webp()
          .toBuffer(),
      ),
    ).equal('image/webp');
    expect(await contentType(Buffer.from('plain words'))).equal('application/octet-stream');
    expect(await contentType(gzipSync('x'))).match(/gzip/);
  });

  it('says in words what a file is instead', () => {
    expect(describeType('image/png')).equal('a PNG picture');
    expect(describeType('audio/x-flac')).equal('a FLAC sound');
    expect(describeType('application/octet-stream')).equal('of no known type');
    expect(describeType('application/pdf')).equal('of type application/pdf');
  });
});

describe('server: settings', () => {
  it('have usual values that listen on loopback only', () => {
    const config = configFromEnvironment({});
    expect(config.host).equal('127.0.0.1');
    expect(config.database.host).equal('127.0.0.1');
    expect(config.renderWorkers).at.least(1);
    expect(config.uploadLimit).equal(256 * 1024 * 1024);
  });

  it('are all taken from the environment', () => {
    const config = configFromEnvironment({
      TENDER_ORBIT_PORT: '5000',
      TENDER_ORBIT_DATA: '/srv/orbit',
      TENDER_ORBIT_FFMPEG: '/opt/ffmpeg',
      TENDER_ORBIT_RENDER_WORKERS: '7',
    });
    expect(config).include({ port: 5000, files: '/srv/orbit/files', ffmpeg: '/opt/ffmpeg', renderWorkers: 7 });
  });
});

describe('server: the database', () => {
  it('is brought up to date once, and knows it', async () => {
    const db = await Database.open(testConfig().database);
    expect(await migrateDatabase(db)).include('001-first.sql');
    expect(await migrateDatabase(db)).deep.equal([]);
    await db.close();
  });

  it('takes back a change that did not come to its end', async () => {
    const db = await Database.open(testConfig().database);
    await migrateDatabase(db);
    const add = (id: string) =>
      `INSERT INTO people (id, email, name, password_hash) VALUES ('${id}', '${id}@vellowmere.example', 'x', 'x')`;
    await db
      .transaction(async (connection) => {
        await connection.query(add('one'));
        throw new Error('halfway');
      })
      .catch(() => undefined);
    expect(await db.one('SELECT id FROM people')).equal(null);
    await db.transaction((connection) => connection.query(add('two')));
    expect(await db.one('SELECT id FROM people')).deep.equal({ id: 'two' });
    await db.close();
  });

  it('keeps JSON as the text it was given', async () => {
    const db = await Database.open(testConfig().database);
    await migrateDatabase(db);
    await db.run(
      "INSERT INTO revisions (kind, document_id, revision, document, label) VALUES ('set', 'a', 1, ?, 'x')",
      ['{"b":1,"a":[1.50]}'],
    );
    expect((await db.one<{ document: string }>('SELECT document FROM revisions'))!.document).equal(
      '{"b":1,"a":[1.50]}',
    );
    await db.close();
  });
});

describe('server: worker threads', () => {
  const ECHO = new URL('./echo-worker.ts', import.meta.url);

  it('answer again and again, also after nobody listened for a while', async () => {
    const worker = startWorker(ECHO);
    for (let i = 1; i <= 3; i++) {
      const answer = new Promise((done) => worker.on('message', done));
      worker.postMessage(i);
      expect(await answer).equal(i * 2);
      stopListening(worker);
    }
    await worker.terminate();
  });

  it('are ended when they take too long, with the sentence they were given', async () => {
    const late = new Problem('model/too-heavy', 'It took too long: simplify it.');
    const started = Date.now();
    await runOnce(ECHO, null, 1, 256, late).then(
      () => expect.fail('it ended'),
      (error: Error) => expect(error).equal(late),
    );
    expect(Date.now() - started).above(900);
  });

  it('report problems as plain data and hide nothing else', async () => {
    expect(await replyOf(async () => 5)).deep.equal({ ok: true, value: 5 });
    const known = await replyOf(async () => {
      throw new Problem('a/b', 'What to do.', 'Jar');
    });
    expect(known).deep.equal({ ok: false, problem: { code: 'a/b', message: 'What to do.', thing: 'Jar' } });
    const unknown = await replyOf(async () => {
      throw new TypeError('x is not a function');
    });
    expect(unknown).deep.include({ ok: false });
    expect(JSON.stringify(unknown)).contain('x is not a function');
  });
});

describe('server: names', () => {
  it('of things are short, safe in addresses, and never the same', () => {
    const ids = new Set(Array.from({ length: 5000 }, newId));
    expect(ids.size).equal(5000);
    for (const id of ids) expect(id).match(/^[A-Za-z0-9_-]{12}$/);
  });

  it('of fonts reach only fonts that ship', () => {
    expect(fontPath('fraunces/files/fraunces-latin-600-normal.woff2')).match(/fraunces-latin-600-normal\.woff2$/);
    for (const name of ['../../etc/passwd', 'fraunces/package.json', 'fraunces/files/../package.json', ''])
      expect(fontPath(name)).equal(null);
  });
});
