import { expect } from 'chai';
import type { RunningServer } from '@tender-orbit/server';
import { Client, signedIn, smallCampaign, startTestServer, testConfig, type SmallCampaign } from './harness.ts';

interface Saved {
  id: string;
  revision: number;
}

describe('server: documents', () => {
  let server: RunningServer;
  let client: Client;
  let campaign: SmallCampaign;
  const config = testConfig();
  before(async () => {
    server = await startTestServer(config);
    client = await signedIn(server);
  });
  beforeEach(async () => (campaign = await smallCampaign(client)));
  after(() => server.stop());

  const save = (document: object, expectedRevision: number, label = 'Edit') =>
    client.send<Saved & Record<string, unknown>>('PUT', `/documents/set/${campaign.set.id}`, {
      expectedRevision,
      label,
      document,
    });
  const read = () =>
    client.ok<{ revision: number; document: Record<string, unknown> }>('GET', `/documents/set/${campaign.set.id}`);

  it('a new campaign comes with a lit set, a shot and a promo', async () => {
    const bundle = await client.ok<Record<string, Array<{ document: Record<string, never> }>>>(
      'GET',
      `/campaigns/${campaign.id}`,
    );
    expect((bundle.sets[0].document.lights as unknown[]).length).equal(3);
    expect(bundle.shots).length(1);
    expect(bundle.promos[0].document).include({ width: 128, height: 72 });
    expect(bundle.products).deep.equal([]);
  });

  it('refuses a campaign without a name, and odd sizes', async () => {
    for (const [values, message] of [
      [{ name: '  ' }, /name/],
      [{ width: 127 }, /even/],
      [{ frameRate: { num: 0, den: 1 } }, /Frame rate/],
    ] as Array<[object, RegExp]>) {
      const answer = await client.send('POST', '/campaigns', {
        name: 'Test',
        frameRate: { num: 24, den: 1 },
        width: 128,
        height: 72,
        ...values,
      });
      expect(answer.status).equal(422);
      expect(answer.body.title).match(message);
    }
  });

  it('saves on the expected revision and counts up', async () => {
    const answer = await save({ ...campaign.set.document, name: 'Evening' }, 1);
    expect(answer.body).include({ revision: 2 });
    expect((await read()).document.name).equal('Evening');
  });

  it('refuses a stale save with the newer document, and loses neither', async () => {
    await save({ ...campaign.set.document, name: 'Theirs' }, 1);
    const stale = await save({ ...campaign.set.document, name: 'Mine' }, 1);
    expect(stale.status).equal(409);
    expect(stale.body.revision).equal(2);
    expect((stale.body.document as { name: string }).name).equal('Theirs');
    expect((await read()).document.name).equal('Theirs');
    // "Keep mine" saves over it; theirs stays in the history.
    expect((await save({ ...campaign.set.document, name: 'Mine' }, 2)).status).equal(200);
  });

  it('of two saves at the same time exactly one wins', async () => {
    const both = await Promise.all(['A', 'B', 'C', 'D'].map((name) => save({ ...campaign.set.document, name }, 1)));
    expect(both.map((a) => a.status).sort()).deep.equal([200, 409, 409, 409]);
    expect((await read()).revision).equal(2);
  });

  it('keeps every save as a revision that can be brought back', async () => {
    for (const [i, name] of ['One', 'Two', 'Three'].entries())
      await save({ ...campaign.set.document, name }, i + 1, `Rename to ${name}`);
    const revisions = await client.ok<Array<{ revision: number; label: string }>>(
      'GET',
      `/documents/set/${campaign.set.id}/revisions`,
    );
    expect(revisions.map((r) => [r.revision, r.label])).deep.equal([
      [4, 'Rename to Three'],
      [3, 'Rename to Two'],
      [2, 'Rename to One'],
      [1, 'Create set'],
    ]);
    const back = await client.ok<{ revision: number; document: { name: string } }>(
      'POST',
      `/documents/set/${campaign.set.id}/revisions/2/restore`,
    );
    expect(back.document.name).equal('One');
    expect(back.revision).equal(5);
    expect((await read()).document.name).equal('One');
    expect((await client.send('POST', `/documents/set/${campaign.set.id}/revisions/99/restore`)).status).equal(404);
  });

  it('refuses what the schema does not know, by the name of the field, and changes nothing', async () => {
    const cases: Array<[object, RegExp]> = [
      [{ ...campaign.set.document, surprise: 1 }, /not known here: surprise/],
      [
        {
          ...campaign.set.document,
          environment: { ...(campaign.set.document.environment as object), intensity: null },
        },
        /Room light/,
      ],
      [{ ...campaign.set.document, cameras: [] }, /at least one camera/],
    ];
    for (const [document, message] of cases) {
      const answer = await save(document, 1);
      expect(answer.status).equal(422);
      expect(answer.body.title).match(message);
    }
    expect((await read()).revision).equal(1);
  });

  it('refuses a text of 10,000 characters in one sentence, and a request of 20 MB', async () => {
    const title = {
      id: 't',
      text: 'x'.repeat(10000),
      font: 'fraunces-600',
      size: 20,
      tracking: 0,
      colour: '#FFFFFF',
      x: 0.5,
      y: 0.5,
      align: 'left',
      start: 0,
      length: 10,
      arrive: { kind: 'none', frames: 0 },
      leave: { kind: 'none', frames: 0 },
    };
    const answer = await client.send('PUT', `/documents/promo/${campaign.promo.id}`, {
      expectedRevision: 1,
      label: 'x',
      document: { ...campaign.promo.document, titles: [title] },
    });
    expect(answer.status).equal(422);
    expect(answer.body.title).equal('Title text is longer than 2000 characters: shorten it.');
    expect((await save({ ...campaign.set.document, name: 'x'.repeat(20e6) }, 1)).status).equal(413);
  });

  it('knows only its own kinds, and no statement is made of what comes in', async () => {
    expect((await client.send('GET', '/documents/people/1')).status).equal(404);
    expect((await client.send('GET', `/documents/set/${encodeURIComponent("x' OR '1'='1")}`)).status).equal(404);
    await save({ ...campaign.set.document, name: "Robert'); DROP TABLE sets;--" }, 1);
    expect((await read()).document.name).equal("Robert'); DROP TABLE sets;--");
  });

  it('adds and deletes shots', async () => {
    const shot = await client.ok<Saved>('POST', `/campaigns/${campaign.id}/shots`, {
      ...campaign.shot.document,
      name: 'Second',
    });
    expect((await client.send('DELETE', `/documents/shot/${shot.id}`)).status).equal(204);
    expect((await client.send('GET', `/documents/shot/${shot.id}`)).status).equal(404);
  });

  it('adds a set, which comes with the campaign, and refuses one that is not sound', async () => {
    const path = `/campaigns/${campaign.id}/sets`;
    const made = await client.ok<Saved>('POST', path, { ...campaign.set.document, name: 'Studio, Lid' });
    const bundle = await client.ok<{ sets: Saved[] }>('GET', `/campaigns/${campaign.id}`);
    expect(bundle.sets.map((s) => s.id)).include(made.id);
    const wrong = await client.send('POST', path, { ...campaign.set.document, cameras: [] });
    expect([wrong.status, wrong.body.title]).deep.equal([422, 'A set needs at least one camera.']);
  });

  it('has everything after a restart, sessions too', async () => {
    await save({ ...campaign.set.document, name: 'Kept' }, 1);
    await server.stop();
    server = await startTestServer(config);
    const again = new Client(server.address);
    Object.assign(again, { cookie: client.cookie, csrf: client.csrf });
    client = again;
    expect((await read()).document.name).equal('Kept');
  });
});
