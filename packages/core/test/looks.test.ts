import { expect } from 'chai';
import {
  keyValue,
  linkEase,
  lookFrom,
  newLayer,
  newShot,
  putLook,
  shiftLayer,
  runCommand,
  validateDocument,
  type Layer,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { compileLayers } from '@tender-orbit/core/composite';

const layer = (kind: Layer['kind'], id: string, values: object = {}): Layer => newLayer(kind, id, id, values);

/** A group of a grade and a card with a mask, one keyed by an ease that is shared, and layers that do not belong to it. */
function source(): ShotDocument {
  const layers = [
    layer('take', 'take', { take: 'take-a' }),
    layer('null', 'hub'),
    layer('grade', 'grade', { group: 'g' }),
    layer('shape', 'card', {
      group: 'g',
      parent: 'hub',
      thing: 'jar',
      inSet: true,
      matte: 'alpha',
      matteLayer: 'take',
    }),
    layer('mask', 'mask', { group: 'card', mask: 'thing', maskThing: 'lid' }),
    layer('solid', 'twin', { group: 'g', parent: 'card', locked: true }),
    layer('group', 'g'),
    layer('text', 'words', { space: 'glass' }),
  ];
  let shot: ShotDocument = { ...newShot('S', 'set', 'hero', 24), layers };
  for (const frame of [2, 8])
    shot = runCommand(shot, keyValue({ thing: 'grade', path: 'exposure', frame }, frame, 'Key'));
  shot = runCommand(
    shot,
    linkEase([{ thing: 'grade', path: 'exposure', frame: 2 }], {
      ...{ id: 'ease', name: 'Shared', ease: { kind: 'overshoot', amount: 0.2 } },
    } as never),
  );
  return shot;
}
let made = 0;
const fresh = (): string => `new-${++made}`;

describe('looks: layers kept for other shots', () => {
  it('take with them what they hold, their keys and shared eases, and nothing of their shot', () => {
    const look = lookFrom(source(), 'g', 'Warm', 48);
    expect(look.layers.map((l) => l.id)).deep.equal(['grade', 'card', 'mask', 'twin', 'g']);
    const card = look.layers.find((l) => l.id === 'card')!;
    expect([card.parent, card.matte, card.matteLayer, card.group]).deep.equal(['', 'none', '', 'g']);
    expect(look.layers.find((l) => l.id === 'twin')).contain({ parent: 'card', locked: false });
    expect(look.tracks.map((t) => [t.thing, t.keys.length])).deep.equal([['grade', 2]]);
    expect(look.eases.map((e) => e.id)).deep.equal(['ease']);
    expect(validateDocument('shot', JSON.parse(JSON.stringify(look))).layers).length(5);
    expect((lookFrom(source(), 'take', 'T', 48).layers[0] as { take: string }).take).equal('');
  });

  it('are put on another rack below the glass, called anew, and show there what they showed', () => {
    const look = lookFrom(source(), 'g', 'Warm', 48);
    const other = {
      ...newShot('O', 'set', 'hero', 48),
      layers: [layer('take', 'take'), layer('text', 't', { space: 'glass' })],
    };
    const { command, id } = putLook(look, fresh, new Set(['lid']));
    const once = runCommand(other, command);
    expect(once.layers.map((l) => l.kind)).deep.equal(['take', 'grade', 'shape', 'mask', 'solid', 'group', 'text']);
    const [, grade, card, mask, twin, group] = once.layers;
    expect(id).equal(group.id);
    expect([grade.group, card.group, twin.group, mask.group, twin.parent]).deep.equal([id, id, id, card.id, card.id]);
    // The jar is not in this set, the lid is.
    expect([card.thing, mask.maskThing]).deep.equal(['', 'lid']);
    const [track] = once.tracks;
    expect(track.thing).equal(grade.id);
    expect(track.keys[0].ease).deep.equal({ kind: 'linked', id: once.eases[0].id });
    const shown = (shot: ShotDocument, of: string): unknown =>
      (
        compileLayers(shot)
          .at(6)
          .find((l) => l.id === of) as unknown as { exposure: number }
      ).exposure;
    expect(shown(once, grade.id)).equal(shown(source(), 'grade'));
    // Twice, they are two: nothing is called alike.
    const twice = runCommand(once, putLook(look, fresh, new Set()).command);
    expect(new Set(twice.layers.map((l) => l.id)).size).equal(twice.layers.length);
    expect(validateDocument('shot', JSON.parse(JSON.stringify(twice)))).deep.equal(twice);
  });

  it('a layer that is moved in time takes its keys and what it holds along', () => {
    const before = source();
    const moved = runCommand(before, shiftLayer('g', 10));
    const start = (shot: ShotDocument, id: string): number => shot.layers.find((l) => l.id === id)!.start;
    const by = 10 - start(before, 'g');
    for (const id of ['g', 'grade', 'card']) expect(start(moved, id) - start(before, id)).equal(by);
    expect(start(moved, 'take')).equal(start(before, 'take'));
    const frames = (shot: ShotDocument): number[] =>
      shot.tracks.find((t) => t.thing === 'grade')!.keys.map((k) => k.frame);
    expect(frames(moved)).deep.equal(frames(before).map((frame) => frame + by));
  });

  it('that stand on the glass go on top, and into the group that is looked into', () => {
    const look = lookFrom(source(), 'words', 'Words', 48);
    const other = {
      ...newShot('O', 'set', 'hero', 48),
      layers: [layer('group', 'g', { space: 'glass' }), layer('text', 't', { space: 'glass' })],
    };
    const next = runCommand(other, putLook(look, fresh, new Set(), 'g').command);
    expect([next.layers[2].kind, next.layers[2].group]).deep.equal(['text', 'g']);
  });
});
