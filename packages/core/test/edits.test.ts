import { expect } from 'chai';
import fc from 'fast-check';
import {
  addClip,
  addThing,
  applyPatches,
  carryClips,
  changeFinish,
  deleteThing,
  deleteUnusedFinishes,
  diff,
  dressPart,
  duplicateThing,
  editBetween,
  findFinish,
  keyValue,
  makeEdit,
  mergeDocuments,
  newBlock,
  newCamera,
  newCard,
  newPromo,
  newSet,
  newShot,
  openDocument,
  plainItem,
  plainLight,
  redoEdit,
  renameThing,
  runCommand,
  setProperties,
  settle,
  showThing,
  undoEdit,
  type Command,
  type PromoDocument,
  type SetDocument,
  type SetLight,
} from '@tender-orbit/core/document';
import { builtDocument, TURNED_PRESETS } from '@tender-orbit/core/product';

const light = (id: string): SetLight => ({
  ...plainLight(),
  ...{ id, name: id, role: 'fill', shape: 'disc', width: 0.2, height: 0.2 },
  ...{ position: [0, 1, 0], aim: [0, 0, 0], kelvin: 5000, lumens: 100 },
});

/** A set with several of everything. */
function fullSet(): SetDocument {
  const set = newSet('Studio');
  set.products = ['a', 'b', 'c'].map((id) => ({ ...plainItem(), id, name: id, product: 'jar', position: [0, 0, 0] }));
  set.surfaces.push(newBlock('plinth', 'plinth'), newCard('flag', 'Flag', '#000000'));
  set.cameras.push(newCamera('wide', 'Wide'));
  return set;
}

const IDS = ['a', 'b', 'c', 'sweep', 'plinth', 'flag', 'key', 'fill', 'rim', 'hero', 'wide'];
const number = fc.double({ min: 0, max: 50, noNaN: true });

/** An edit of one thing, with the id of that thing. */
const editOf = (id: string): fc.Arbitrary<Command<SetDocument>> =>
  fc.oneof(
    number.map((v) => setProperties(id, { 'position.0': v }, 'Move')),
    number.map((v) => setProperties(id, { 'position.2': v, turn: v }, 'Move')),
    fc.boolean().map((v) => showThing(id, v)),
    fc.string({ minLength: 1, maxLength: 12 }).map((name) => renameThing(id, name)),
    fc.constant(deleteThing(id)),
    fc.nat().map((n) => duplicateThing(id, `copy-of-${id}-${n}`)),
  );

/** Runs of edits of random things. */
const run = (ids: readonly string[]): fc.Arbitrary<Array<Command<SetDocument>>> =>
  fc.array(
    fc.constantFrom(...ids).chain((id) => editOf(id)),
    { minLength: 1, maxLength: 6 },
  );

const after = <D extends object>(document: D, commands: ReadonlyArray<Command<D>>): D =>
  commands.reduce((doc, command) => runCommand(doc as never, command as never) as D, document);

describe('edits: one person', () => {
  it('leave the original alone, and can be undone and redone', () => {
    const before = openDocument(newSet('Studio'));
    const { document, edit } = makeEdit(before, setProperties('key', { lumens: 9000 }, 'Brighten'));
    expect(before.lights[0].lumens).equal(2600);
    expect(document.lights[0].lumens).equal(9000);
    expect(edit.patches).deep.equal([{ op: 'set', path: ['lights', '#key', 'lumens'], value: 9000 }]);
    expect(undoEdit(document, edit)).deep.equal(before);
    expect(redoEdit(before, edit)).deep.equal(document);
  });

  it('that change nothing give the document itself and have no patches', () => {
    const before = openDocument(newSet('Studio'));
    const made = makeEdit(before, renameThing('nobody', 'x'));
    expect(made.document).equal(before);
    expect(made.edit.patches).deep.equal([]);
    expect(runCommand(before, setProperties('key', { nothing: 4, '__proto__.polluted': 1 }, 'x'))).equal(before);
    expect(({} as Record<string, unknown>).polluted).equal(undefined);
  });

  it('never give two things one id', () => {
    const first = openDocument(fullSet());
    const copied = runCommand(first, duplicateThing('key', 'copy'));
    expect(copied.lights.map(({ id }) => id)).includes('copy');
    expect(runCommand(copied, duplicateThing('fill', 'copy'))).equal(copied);
    expect(runCommand(copied, addThing('surfaces', newBlock('copy', 'plinth'), 'Add'))).equal(copied);
  });

  it('undo after redo is identity, step by step or as one, whatever was done', () => {
    fc.assert(
      fc.property(run(IDS), (commands) => {
        const first = openDocument(fullSet());
        const states = [first];
        for (const command of commands) states.push(runCommand(states.at(-1)!, command));
        const last = states.at(-1)!;
        const steps = states.slice(1).map((state, i) => editBetween('step', states[i], state));
        expect([...steps].reverse().reduce(undoEdit, last)).deep.equal(first);
        expect(steps.reduce(redoEdit, first)).deep.equal(last);
        const whole = editBetween('drag', first, last);
        expect(undoEdit(last, whole)).deep.equal(first);
        expect(redoEdit(undoEdit(last, whole), whole)).deep.equal(last);
      }),
      { numRuns: 200 },
    );
  });

  it('a drag is one edit as small as its last step, however long it was', () => {
    const first = openDocument(fullSet());
    let now = first;
    for (let i = 1; i <= 200; i++) now = runCommand(now, setProperties('b', { 'position.0': i / 100 }, 'Move'));
    const drag = editBetween('Move', first, now);
    expect(drag.patches).deep.equal([{ op: 'set', path: ['products', '#b', 'position', '0'], value: 2 }]);
    expect(undoEdit(now, drag)).deep.equal(first);
  });

  it('what an edit did not touch is the same object as before', () => {
    const first = openDocument(fullSet());
    const next = runCommand(first, setProperties('b', { turn: 5 }, 'Turn'));
    expect(next.lights).equal(first.lights);
    expect(next.products[0]).equal(first.products[0]);
    expect(next.products[1]).not.equal(first.products[1]);
    expect(Object.isFrozen(next.products[1].position)).equal(true);
  });
});

describe('edits: two people', () => {
  const split = fc.shuffledSubarray(IDS, { minLength: IDS.length }).map((ids) => [ids.slice(0, 5), ids.slice(5)]);

  it('to different things come together to the same document in either order', () => {
    fc.assert(
      fc.property(
        split.chain(([mine, theirs]) => fc.tuple(run(mine), run(theirs))),
        ([mine, theirs]) => {
          const base = openDocument(fullSet());
          const [a, b] = [after(base, mine), after(base, theirs)];
          const [pa, pb] = [diff(base, a), diff(base, b)];
          const ab = applyPatches(applyPatches(base, pa), pb);
          expect(applyPatches(applyPatches(base, pb), pa)).deep.equal(ab);
          expect(mergeDocuments(base, a, b)).deep.equal(ab);
          expect(mergeDocuments(base, b, a)).deep.equal(ab);
        },
      ),
      { numRuns: 300 },
    );
  });

  it('a deletion wins over edits of the same thing, in either order', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('a', 'plinth', 'key', 'wide').chain((id) => fc.tuple(fc.constant(id), run([id]))),
        ([id, edits]) => {
          const base = openDocument(fullSet());
          const gone = runCommand(base, deleteThing(id));
          const merged = mergeDocuments(base, after(base, edits), gone)!;
          const things = (set: SetDocument): string[] =>
            [...set.products, ...set.surfaces, ...set.lights, ...set.cameras].map((t) => t.id);
          expect(things(merged)).not.include(id);
          expect(mergeDocuments(base, gone, after(base, edits))).deep.equal(merged);
        },
      ),
      { numRuns: 100 },
    );
  });

  it('the same property set to two values is for a person to decide; to the same value it is not', () => {
    const base = openDocument(fullSet());
    const power = (lumens: number): SetDocument => runCommand(base, setProperties('key', { lumens }, 'Power'));
    expect(mergeDocuments(base, power(1), power(2))).equal(null);
    expect(mergeDocuments(base, power(1), power(1))).deep.equal(power(1));
    const whole = runCommand(base, { label: 'x', run: (set) => void (set.lights[0].lightLinking.things = ['a']) });
    const other = runCommand(base, { label: 'x', run: (set) => void (set.lights[0].lightLinking.things = ['b']) });
    expect(mergeDocuments(base, whole, other)).equal(null);
    // Two axes of one place are two properties.
    const x = runCommand(base, setProperties('key', { 'position.0': 1 }, 'Move'));
    const y = runCommand(base, setProperties('key', { 'position.1': 2 }, 'Move'));
    expect(mergeDocuments(base, x, y)!.lights[0].position.slice(0, 2)).deep.equal([1, 2]);
  });

  it('things added at the same place are both there, in the same order for both', () => {
    const base = openDocument(fullSet());
    const mine = runCommand(base, addThing('lights', light('mine'), 'Add'));
    const theirs = runCommand(base, addThing('lights', light('theirs'), 'Add'));
    const ids = (set: SetDocument | null): string[] => set!.lights.map((l) => l.id);
    expect(ids(mergeDocuments(base, mine, theirs))).deep.equal(['key', 'fill', 'rim', 'mine', 'theirs']);
    expect(ids(mergeDocuments(base, theirs, mine))).deep.equal(['key', 'fill', 'rim', 'mine', 'theirs']);
  });

  it('keys of one track at different frames merge', () => {
    const base = openDocument(newShot('Shot', 'set', 'hero', 48));
    const at = (frame: number, value: number) =>
      runCommand(base, keyValue({ thing: 'a', path: 'turn', frame }, value, 'Key'));
    const one = runCommand(at(0, 1), keyValue({ thing: 'a', path: 'turn', frame: 20 }, 5, 'Key'));
    const merged = mergeDocuments(
      one,
      runCommand(one, keyValue({ thing: 'a', path: 'turn', frame: 30 }, 9, 'Key')),
      runCommand(one, keyValue({ thing: 'a', path: 'turn', frame: 10 }, 2, 'Key')),
    )!;
    expect(merged.tracks[0].keys.map((k) => [k.frame, k.value])).deep.equal([
      [0, 1],
      [10, 2],
      [20, 5],
      [30, 9],
    ]);
  });

  it('change two finishes of one product, add one and remove what is unused, and all of it stands', () => {
    const base = openDocument(builtDocument('Jar', TURNED_PRESETS.jar));
    const [first, second] = base.finishes;
    const made = { ...first, name: 'Smoke' };
    const a = after(base, [changeFinish(first.id, 'Roughness', { roughness: 0.9 })]);
    const b = after(base, [
      changeFinish(second.id, 'Roughness', { roughness: 0.1 }),
      dressPart(base.parts[0].index, base.variants[0].id, made, 'smoke', 'Smoke'),
      deleteUnusedFinishes(),
    ]);
    const merged = mergeDocuments(base, a, b)!;
    const roughness = (id: string): number | undefined => findFinish(merged, id)?.roughness;
    // The first part was the only one of the first finish: the other window removed it, and removal wins.
    expect([roughness(first.id), roughness(second.id), roughness('smoke')]).deep.equal([
      undefined,
      0.1,
      first.roughness,
    ]);
    expect(merged.parts[0].finish).equal('smoke');
    expect(mergeDocuments(base, b, a)).deep.equal(merged);
  });
});

describe('edits: the order of lists', () => {
  const promo = (count: number): PromoDocument => ({
    ...newPromo('Launch', 640, 360),
    clips: Array.from({ length: count }, (_, i) => ({ id: `c${i}`, take: '', start: 0, length: 10 })),
  });
  const ids = (p: PromoDocument): string[] => p.clips.map((c) => c.id);

  it('is kept by keys of place: moving one clip changes one clip', () => {
    const base = openDocument(promo(6));
    const moved = runCommand(base, carryClips(['c4'], 1));
    expect(ids(moved)).deep.equal(['c0', 'c4', 'c1', 'c2', 'c3', 'c5']);
    expect(diff(base, moved).map((p) => p.path.join('/'))).deep.equal(['clips/#c4/order']);
    expect(ids(undoEdit(moved, editBetween('x', base, moved)))).deep.equal(ids(base));
  });

  it('one carries a clip, another adds one: both are where they were meant to be', () => {
    const base = openDocument(promo(4));
    const carried = runCommand(base, carryClips(['c3'], 0));
    const added = runCommand(base, addClip({ id: 'new', take: '', start: 0, length: 5 }, 'take'));
    expect(ids(mergeDocuments(base, carried, added)!)).deep.equal(['c3', 'c0', 'c1', 'c2', 'new']);
  });

  it('survives any run of moves, and lists stay sorted by their keys', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(7), fc.nat(7)), { maxLength: 30 }), (moves) => {
        let now = openDocument(promo(8));
        const wanted = ids(now);
        for (const [from, to] of moves) {
          const id = wanted[from];
          wanted.splice(to, 0, ...wanted.splice(from, 1));
          now = runCommand(now, carryClips([id], to));
          expect(ids(now)).deep.equal(wanted);
        }
        const orders = now.clips.map((c) => c.order!);
        expect(orders).deep.equal([...orders].sort());
        expect(new Set(orders).size).equal(8);
        expect(settle(JSON.parse(JSON.stringify(now)))).deep.equal(now);
      }),
      { numRuns: 100 },
    );
  });
});
