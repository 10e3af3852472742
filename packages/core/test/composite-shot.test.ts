import { expect } from 'chai';
import {
  addLayer,
  carryLayer,
  changeLayer,
  clearMoves,
  clearLayerValues,
  copyLayerValues,
  deleteLayer,
  duplicateLayer,
  keyValue,
  LAYER_KINDS,
  linkEase,
  movesIn,
  newLayer,
  newShot,
  retimeShot,
  runCommand,
  validateDocument,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { compileLayers, composeTake } from '@tender-orbit/core/composite';
import { hexToLinear } from '@tender-orbit/core/finish';
import { at, composed, layer, lightOf, plates } from './composite-box.ts';

describe('composite: documents', () => {
  const shot = (): ShotDocument =>
    LAYER_KINDS.reduce(
      (made, kind) => runCommand(made, addLayer(newLayer(kind, `${kind}-1`, kind))),
      newShot('S', 'set', 'camera', 48),
    );
  it('every kind of layer is sound as it is made; what is out of range is named', () => {
    const made = shot();
    expect(validateDocument('shot', JSON.parse(JSON.stringify(made)))).deep.equal(made);
    const bad = { ...made, layers: [{ ...made.layers[1], opacity: 7 }] };
    expect(() => validateDocument('shot', bad)).throw(/Opacity/);
    expect(() => validateDocument('shot', { ...made, layers: [{ ...made.layers[1], kind: 'nothing' }] })).throw(
      /Layer/,
    );
  });
  it('layers are carried, copied with their keys into a staircase, given values, and go with their keys', () => {
    let made = runCommand(shot(), keyValue({ thing: 'solid-1', path: 'opacity', frame: 4 }, 0.5, 'Key'));
    made = runCommand(made, duplicateLayer('solid-1', 'copy', 'Copy', 6));
    const names = made.layers.map(({ id }) => id);
    expect(names.indexOf('copy')).equal(names.indexOf('solid-1') + 1);
    expect(made.layers.find(({ id }) => id === 'copy')!.start).equal(6);
    expect(made.tracks.find(({ thing }) => thing === 'copy')!.keys[0].frame).equal(10);
    made = runCommand(made, copyLayerValues('copy', ['shape-1'], ['opacity', 'blend', 'nothing']));
    expect(made.tracks.filter(({ thing }) => thing === 'shape-1')).length(1);
    // In steps: each begins later than the one before, with the keys that it was given.
    const stepped = runCommand(made, copyLayerValues('copy', ['shape-1', 'text-1'], ['opacity'], 5));
    const of = (id: string): number[] => stepped.tracks.find(({ thing }) => thing === id)!.keys.map((k) => k.frame);
    expect([of('shape-1'), of('text-1')]).deep.equal([[15], [20]]);
    expect(stepped.layers.find(({ id }) => id === 'text-1')!.start).equal(16);
    const cleared = runCommand(stepped, clearLayerValues(['shape-1'], ['opacity', 'blend', 'text']));
    expect(cleared.layers.find(({ id }) => id === 'shape-1')).contain({ opacity: 1, blend: 'over' });
    expect(cleared.tracks.some(({ thing }) => thing === 'shape-1')).equal(false);
    expect(of('text-1')).deep.equal([20]);
    made = runCommand(made, carryLayer('copy', 0));
    expect(made.layers[0].id).equal('copy');
    made = runCommand(made, deleteLayer('copy'));
    expect(made.tracks.some(({ thing }) => thing === 'copy')).equal(false);
  });
});

describe('composite: with the rest of a shot', () => {
  const keyed = (): ShotDocument => {
    let shot = runCommand(
      newShot('S', 'set', 'camera', 48),
      addLayer(layer('solid', { id: 'a', start: 10, length: 7 })),
    );
    shot = runCommand(shot, keyValue({ thing: 'a', path: 'opacity', frame: 0 }, 0, 'Key'));
    shot = runCommand(shot, keyValue({ thing: 'a', path: 'opacity', frame: 20 }, 1, 'Key'));
    return runCommand(shot, keyValue({ thing: 'jar', path: 'turn', frame: 4 }, 90, 'Key'));
  };

  it('clearing all moves leaves the keys of layers, and the eases that they share', () => {
    const address = { thing: 'a', path: 'opacity', frame: 0 };
    const ease = { kind: 'steps', count: 3 } as never;
    const linked = runCommand(keyed(), linkEase([address], { id: 'e', name: 'Ease', ease }));
    const cleared = runCommand(linked, clearMoves());
    expect(movesIn(linked).map(({ thing }) => thing)).deep.equal(['jar']);
    expect(cleared.tracks.map(({ thing }) => thing)).deep.equal(['a']);
    expect(cleared.eases).deep.equal(linked.eases);
  });

  it('another frame rate keeps when layers are seen', () => {
    const { start, length } = runCommand(keyed(), retimeShot(2)).layers[0];
    expect([start, length]).deep.equal([20, 14]);
    const endless = runCommand(keyed(), changeLayer('a', 'To the end', { length: 0 }));
    expect(runCommand(endless, retimeShot(2)).layers[0].length).equal(0);
  });

  it('a linked ease that is changed moves what is keyed by it, at once', () => {
    const address = { thing: 'a', path: 'opacity', frame: 0 };
    const link = (count: number) => ({ id: 'e', name: 'Ease', ease: { kind: 'steps', count } as never });
    const shot = runCommand(keyed(), linkEase([address], link(2)));
    const before = compileLayers(shot).at(15)[0].opacity;
    const after = compileLayers({ ...shot, eases: [link(10)] }).at(15)[0].opacity;
    expect(before).not.equal(after);
  });

  it('a grade on the glass works on light as well: a stop is a stop', () => {
    const glass = { space: 'glass' } as const;
    const picture = composed([
      layer('solid', { colour: '#808080', ...glass }),
      layer('grade', { exposure: 1, ...glass }),
    ]);
    const linear = hexToLinear('#808080')![0];
    expect(at(picture, 4, 4)[0]).equal(Math.round(255 * (1.055 * (2 * linear) ** (1 / 2.4) - 0.055)));
  });

  it('is composed from what a host reads: other takes and stills, gaps where they are not there', async () => {
    const asked: string[] = [];
    const reader = {
      plates,
      light: (take: string, frame: number) => {
        asked.push(`${take} ${frame}`);
        return Promise.resolve(take === 'gone' ? null : lightOf(32, 18, take === 'b' ? [1, 1, 1] : [0, 0, 0]));
      },
      still: (asset: string) => {
        asked.push(asset);
        return Promise.resolve(null);
      },
      film: () => Promise.resolve(null),
      cube: () => Promise.resolve(null),
      parts: () => Promise.resolve(null),
      vector: () => Promise.resolve(null),
      text: () => null,
    };
    const hash = 'f'.repeat(64);
    const layers = [
      layer('take', { id: '1' }),
      layer('take', { id: '2', take: 'b', scale: 0.5 }),
      layer('take', { id: '3', take: 'gone' }),
      layer('still', { asset: hash }),
    ];
    const shot = { ...newShot('S', 'set', 'camera', 9), layers };
    const rate = { num: 24, den: 1 };
    const picture = (await composeTake('a', { shot, view: 'plain' }, 3, rate, reader, 16))!;
    expect(asked.sort()).deep.equal(['a 3', 'b 3', hash, 'gone 3']);
    expect([picture.width, picture.height]).deep.equal([16, 9]);
    expect(at(picture, 8, 4)[0]).equal(255);
    expect(at(picture, 0, 0)[0]).equal(0);
    expect(await composeTake('gone', { shot, view: 'plain' }, 3, rate, reader)).equal(null);
  });
});
