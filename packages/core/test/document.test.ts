import { expect } from 'chai';
import {
  findTrack,
  inBoardOrder,
  keyAt,
  migrate,
  moveKey,
  newCampaign,
  newPromo,
  newSet,
  newShot,
  newTitle,
  orderBoards,
  removeKey,
  runCommand,
  setKey,
  validateDocument,
  type CampaignDocument,
  type DocumentKind,
  type ShotDocument,
  noBeats,
} from '@tender-orbit/core/document';
import { Problem } from '@tender-orbit/core/problem';

const SAMPLES: Record<Exclude<DocumentKind, 'product'>, object> = {
  campaign: newCampaign('Heather launch'),
  set: newSet('Studio'),
  shot: newShot('Jar turns', 'set-1', 'hero', 48),
  promo: { ...newPromo('Launch', 960, 540), titles: [newTitle('t1')] },
};

const MUSIC = { name: 'Tune', trim: 0, gain: 0, fadeIn: 0, fadeOut: 0, tempo: 96, firstBeat: 0, ...noBeats() };
const track = (path: string, values: unknown[]): object => ({
  ...{ thing: 'key', path },
  keys: values.map((value, frame) => ({ frame, value, ease: 'linear' })),
});

/** A copy with the value at `path` replaced. */
function put(document: object, path: string, value: unknown): object {
  const copy = JSON.parse(JSON.stringify(document)) as Record<string, unknown>;
  const steps = path.split('.');
  const last = steps.pop()!;
  const target = steps.reduce<Record<string, unknown>>((at, step) => at[step] as Record<string, unknown>, copy);
  target[last] = value;
  return copy;
}

function refusal(kind: DocumentKind, document: unknown): Problem {
  try {
    validateDocument(kind, document);
  } catch (error) {
    expect(error).instanceOf(Problem);
    return error as Problem;
  }
  throw new Error(`${kind} was accepted`);
}

describe('document: validation', () => {
  for (const kind of Object.keys(SAMPLES) as Array<keyof typeof SAMPLES>) {
    it(`takes a new ${kind} and gives it back unchanged`, () => {
      expect(validateDocument(kind, SAMPLES[kind])).deep.equal(SAMPLES[kind]);
    });
  }

  const REFUSED: Array<[keyof typeof SAMPLES, string, unknown, RegExp]> = [
    ['campaign', 'name', '   ', /Campaign name is empty/],
    ['campaign', 'name', 'x'.repeat(121), /longer than 120/],
    ['campaign', 'width', 1001, /even/],
    ['campaign', 'width', 1e9, /between 64 and 4096/],
    ['campaign', 'extra', 1, /not known here: extra/],
    ['set', 'lights.0.lumens', NaN, /Power must be a number/],
    ['set', 'lights.0.lumens', null, /Power must be a number/],
    ['set', 'lights.0.lumens', '200', /Power must be a number/],
    ['set', 'lights.0.position', [0, 1], /Position must hold 3 numbers/],
    ['set', 'lights.0.position', [0, Infinity, 0], /Position must be a number/],
    ['set', 'surfaces.0.colour', 'red', /hex colour like #C98F6B/],
    ['set', 'cameras', [], /at least one camera/],
    ['set', 'cameras.0.focalLength', 0, /Focal length/],
    ['shot', 'length', 0, /Length/],
    ['shot', 'length', 1.5, /whole number/],
    ['shot', 'tracks', [{ thing: 'key', path: '__proto__.x', keys: [] }], /not the path of a property/],
    ['promo', 'titles.0.text', 'x'.repeat(10000), /Title text is longer than 2000 characters: shorten it/],
    ['promo', 'titles.0.size', NaN, /Size must be a number/],
    ['promo', 'music', { ...MUSIC, asset: '../../etc/passwd' }, /Music file is not the name of a stored file/],
    [
      'shot',
      'tracks',
      [
        { thing: 'key', path: 'on', keys: [] },
        { thing: 'a b', path: 'on', keys: [] },
      ],
      /Thing/,
    ],
    ['shot', 'tracks', [track('on', [true, 1])], /same kind of value/],
    ['shot', 'tracks', [track('kelvin', [NaN])], /Value of a key must be a number/],
    ['shot', 'tracks', [track('position', [[1, 2, Infinity]])], /Value of a key must be a number/],
  ];
  for (const [kind, path, value, message] of REFUSED) {
    it(`refuses ${kind}.${path} = ${JSON.stringify(value)?.slice(0, 40)} and says why`, () => {
      expect(refusal(kind, put(SAMPLES[kind], path, value)).message).match(message);
    });
  }

  it('refuses what is no document', () => {
    for (const input of [null, 1, 'set', []]) expect(refusal('set', input).code).equal('document/invalid');
  });

  it('refuses a document of a newer version instead of losing what it cannot read', () => {
    expect(() => migrate('set', { version: 99 })).throw(/newer/);
  });
});

describe('document: keys', () => {
  const shot = (): ShotDocument => newShot('Shot', 'set', 'hero', 48);

  it('are kept in order, one a frame', () => {
    const s = shot();
    for (const [frame, value] of [
      [20, 2],
      [0, 0],
      [10, 1],
      [10, 5],
    ])
      setKey(s, 'jar', 'turn', frame, value);
    expect(findTrack(s, 'jar', 'turn')!.keys.map((k) => [k.frame, k.value])).deep.equal([
      [0, 0],
      [10, 5],
      [20, 2],
    ]);
  });

  it('take their track with them when the last one goes', () => {
    const s = shot();
    setKey(s, 'jar', 'turn', 5, 1);
    removeKey(s, 'jar', 'turn', 5);
    expect(s.tracks).deep.equal([]);
  });

  it('move, keep their value and ease, and push out the key they land on', () => {
    const s = shot();
    setKey(s, 'jar', 'turn', 0, 1, 'hold');
    setKey(s, 'jar', 'turn', 10, 2);
    moveKey(s, 'jar', 'turn', 0, 10);
    expect(s.tracks[0].keys).deep.equal([{ frame: 10, value: 1, ease: 'hold' }]);
    moveKey(s, 'jar', 'turn', 3, 4);
    expect(keyAt(s.tracks[0], 4)).equal(undefined);
  });
});

describe('document: what sets refuse', () => {
  const current = newSet('Studio');
  const WRONG: Array<[string, unknown, RegExp]> = [
    ['lights.0.gridAngle', 120, /^Honeycomb/],
    ['lights.0.shape', 'lantern', /^Shape/],
    ['lights.0.gobo.pattern', 'bats', /^Gobo/],
    ['lights.0.lightLinking.mode', 'some', /^Light linking/],
    ['surfaces.0.mirror.strength', 2, /strength/i],
    ['cameras.0.shutter', 900, /^Shutter/],
    ['cameras.0.blades', 2.5, /^Blades/],
    ['cameras.0.blades', 2, /^Blades must be 0, or 3/],
    ['surfaces.0.kind', 'cloud', /^Kind must be one of/],
    ['surfaces.0.kind', 'constructor', /^Kind must be one of/],
    ['lights.0.order', 'a b', /^Order/],
    ['view', 'sepia', /^View/],
  ];
  for (const [path, value, says] of WRONG) {
    it(`refuses ${path} = ${String(value)} and names it`, () => {
      expect(refusal('set', put(current, path, value)).message).match(says);
    });
  }
});

describe('document: the storyboard', () => {
  const shots = ['a', 'b', 'c', 'd'].map((id) => ({ id }));
  const ids = (campaign: CampaignDocument): string =>
    inBoardOrder(campaign, shots)
      .map(({ id }) => id)
      .join('');

  it('has its shots in their order; new ones come last, those that are gone leave no gap', () => {
    const campaign = newCampaign('Heather');
    expect(ids(campaign)).equal('abcd');
    const ordered = runCommand(campaign, orderBoards(['c', 'gone', 'a']));
    expect(ids(ordered)).equal('cabd');
    expect(validateDocument('campaign', ordered)).deep.equal(ordered);
    expect(refusal('campaign', put(ordered, 'boards', ['a b'])).message).contain('not a valid id');
  });
});
