import { expect } from 'chai';
import {
  findTrack,
  freezeDocument,
  joinEdits,
  keyAt,
  makeEdit,
  migrate,
  moveKey,
  newCampaign,
  newPromo,
  newSet,
  newShot,
  newTitle,
  redoEdit,
  removeKey,
  setKey,
  undoEdit,
  validateDocument,
  type DocumentKind,
  type SetDocument,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { Problem } from '@tender-orbit/core/problem';

const SAMPLES: Record<Exclude<DocumentKind, 'product'>, object> = {
  campaign: newCampaign('Heather launch'),
  set: newSet('Studio'),
  shot: newShot('Jar turns', 'set-1', 'hero', 48),
  promo: { ...newPromo('Launch', 960, 540), titles: [newTitle('t1')] },
};

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
    ['shot', 'tracks', [{ thing: 'key', path: '__proto__.x', keys: [] }], /not a number of a thing/],
    ['promo', 'titles.0.text', 'x'.repeat(10000), /Title text is longer than 2000 characters: shorten it/],
    ['promo', 'titles.0.size', NaN, /Size must be a number/],
    ['promo', 'music', { asset: '../../etc/passwd' }, /./],
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

describe('document: edits', () => {
  it('leave the original alone and can be undone and redone', () => {
    const before = freezeDocument(newSet('Studio'));
    const { document, edit } = makeEdit(before, 'Brighten key', (set) => void (set.lights[0].lumens = 9000));
    expect(before.lights[0].lumens).not.equal(9000);
    expect(document.lights[0].lumens).equal(9000);
    expect(undoEdit(document, edit)).deep.equal(before);
    expect(redoEdit(before, edit)).deep.equal(document);
  });

  it('have no patches when nothing changed', () => {
    expect(makeEdit(newSet('Studio'), 'Nothing', (set) => void (set.name = 'Studio')).edit.patches).deep.equal([]);
  });

  it('undo any run of random changes, one by one or joined', () => {
    let seed = 7;
    const random = (): number => (seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0) / 4294967296;
    const change = (set: SetDocument): void => {
      const roll = random();
      if (roll < 0.3) set.lights.push({ ...set.lights[0], id: `l${seed}`, lumens: random() * 1000 });
      else if (roll < 0.5 && set.lights.length > 1) set.lights.splice(Math.floor(random() * set.lights.length), 1);
      else if (roll < 0.8) set.environment.intensity = random() * 500;
      else set.cameras[0].position[Math.floor(random() * 3)] = random();
    };
    const first = freezeDocument(newSet('Studio'));
    let now = first;
    const edits = Array.from({ length: 40 }, () => {
      const made = makeEdit(now, 'Change', (draft) => change(draft as SetDocument));
      now = made.document;
      return made.edit;
    });
    expect([...edits].reverse().reduce(undoEdit, now)).deep.equal(first);
    const joined = edits.reduce((a, b) => joinEdits(a, b));
    expect(undoEdit(now, joined)).deep.equal(first);
    expect(redoEdit(first, joined)).deep.equal(now);
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

describe('document: sets saved before lights had shapes', () => {
  const current = newSet('Studio');
  const without = (thing: object, keys: readonly string[]): object =>
    Object.fromEntries(Object.entries(thing).filter(([key]) => !keys.includes(key)));
  const light = ['on', 'seen', 'spread', 'cone', 'softness', 'gradient', 'gobo', 'touches'].slice(2);
  const old = {
    ...without(current, ['view']),
    version: 1,
    surfaces: current.surfaces.map((s) => without(s, ['seenBy', 'mirror', 'catcher'])),
    lights: current.lights.map((l) => ({ ...without(l, light), shape: 'softbox' })),
    environment: without(current.environment, ['seen']),
    cameras: current.cameras.map((c) => without(c, ['focusOn', 'blades', 'shiftX', 'shiftY', 'shutter'])),
  };

  it('become what a new set is, without motion blur', () => {
    const migrated = migrate('set', old) as unknown as SetDocument;
    expect(validateDocument('set', migrated)).deep.equal({
      ...current,
      cameras: current.cameras.map((c) => ({ ...c, shutter: 0 })),
    });
  });

  it('keep what they had', () => {
    const dim = { ...old, lights: old.lights.map((l) => ({ ...l, lumens: 12, seen: true })) };
    const { lights } = migrate('set', dim) as unknown as SetDocument;
    for (const l of lights) expect(l).include({ lumens: 12, seen: true, shape: 'softbox' });
  });

  const WRONG: Array<[string, unknown, RegExp]> = [
    ['lights.0.spread', 120, /^Honeycomb/],
    ['lights.0.shape', 'lantern', /^Shape/],
    ['lights.0.gobo.pattern', 'bats', /^Gobo/],
    ['lights.0.touches.mode', 'some', /^Touches/],
    ['surfaces.0.mirror.strength', 2, /strength/i],
    ['cameras.0.shutter', 900, /^Shutter/],
    ['cameras.0.blades', 2.5, /^Blades/],
    ['view', 'sepia', /^View/],
  ];
  for (const [path, value, says] of WRONG) {
    it(`refuses ${path} = ${String(value)} and names it`, () => {
      expect(refusal('set', put(current, path, value)).message).match(says);
    });
  }
});
