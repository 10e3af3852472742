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
import { WorkerPool } from '../src/workers/index.ts';
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
      .transaction(async (statements) => {
        await statements.run(add('one'));
        throw new Error('halfway');
      })
      .catch(() => undefined);
    expect(await db.one('SELECT id FROM people')).equal(null);
    await db.transaction((statements) => statements.run(add('two')));
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
  const pool = new WorkerPool<{ n: number; how?: string }, number>(new URL('./echo-worker.ts', import.meta.url), {
    threads: 1,
    memoryMb: 64,
  });
  after(() => pool.close());
  const late = new Problem('model/too-heavy', 'It took too long: simplify it.');
  const failure = (task: { n: number; how: string }, options = {}): Promise<Error> =>
    pool.run(task, options).then(
      () => expect.fail('it ended well'),
      (error: Error) => error,
    );

  it('answer again and again', async () => {
    for (let n = 1; n <= 3; n++) expect(await pool.run({ n })).equal(n * 2);
  });

  it('are ended when they take too long or too much memory, with the sentence they were given', async () => {
    expect(await failure({ n: 1, how: 'for ever' }, { seconds: 1, tooHeavy: late })).equal(late);
    expect(await failure({ n: 1, how: 'memory' }, { seconds: 60, tooHeavy: late })).equal(late);
    expect(await pool.run({ n: 4 })).equal(8);
  });

  it('are ended when they are given up', async () => {
    const abort = new AbortController();
    const ended = failure({ n: 1, how: 'for ever' }, { signal: abort.signal });
    setTimeout(() => abort.abort(), 200);
    expect((await ended).name).equal('AbortError');
    expect(await pool.run({ n: 5 })).equal(10);
  });

  it('report problems as problems, and whatever else ends them as it is', async () => {
    const known = (await failure({ n: 1, how: 'problem' })) as Problem;
    expect(known).instanceOf(Problem);
    expect([known.code, known.message, known.thing]).deep.equal(['a/b', 'What to do.', 'Jar']);
    const unknown = await failure({ n: 1, how: 'defect' });
    expect(unknown).not.instanceOf(Problem);
    expect(unknown.message).contain('is not a function');
    expect((await failure({ n: 1, how: 'exit' })).message).match(/exit|terminat|worker/i);
    expect(await pool.run({ n: 6 })).equal(12);
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
