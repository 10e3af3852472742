import {
  findThing,
  isPart,
  layerProperties,
  OWN,
  recipeEnd,
  recipeFacts,
  type AppliedRecipe,
  type Layer,
  type Rule,
  type SetDocument,
  type ShotDocument,
  type Track,
} from '@tender-orbit/core/document';
import { expandMoves } from '@tender-orbit/core/motion';
import type { Property } from '@tender-orbit/core/properties';
import { mayShow } from '@tender-orbit/core/scene';
import { ROLE_COLOUR } from '../things/role.ts';
import { keyedItem, type KeyedItem } from './keyed-item.ts';

interface RowBase {
  id: string;
  thing: string;
  /** The thing's name in its first row, empty in the others. */
  name: string;
  colour: string;
  /** Rules that hang on the row. */
  rules: readonly Rule[];
}

/** A property with its keys; `made` by a recipe that is open: its keys cannot be taken in hand. */
export interface ThreadRow extends RowBase {
  kind: 'thread';
  track: Track;
  label: string;
  property: Property | undefined;
  made: boolean;
}

export interface RecipeRow extends RowBase {
  kind: 'recipe';
  recipe: AppliedRecipe;
  /** Frame at which its last thing has arrived. */
  end: number;
}

/** Rules on a whole thing, or on what has no keys. */
export interface RulesRow extends RowBase {
  kind: 'rules';
}

/** Which frames of an effect are simulated. */
export interface RipenessRow extends RowBase {
  kind: 'ripeness';
}

/** When a layer of the composite is seen. */
export interface SpanRow extends RowBase {
  kind: 'span';
  layer: Layer;
}

/** The shapes that a drawn mask goes through. */
export interface ShapesRow extends RowBase {
  kind: 'shapes';
  layer: Layer;
}

/** Many parts of a thing that move, as one row: a product in pieces has hundreds of threads. */
export interface PartsRow extends RowBase {
  kind: 'parts';
  parts: number;
  /** Frames of their first and last keys. */
  from: number;
  to: number;
  /** Whether their threads follow. */
  open: boolean;
}

export type TimelineRow = ThreadRow | RecipeRow | RulesRow | RipenessRow | SpanRow | ShapesRow | PartsRow;

/** Threads of parts from which on they are one row. */
const MANY = 24;
const PARTS = `${OWN}parts.`;

/** The rows of a composite: for each layer, from the glass on, its span, the threads of its keyed values, and its mask's shapes. */
export function layerRows({ layers, tracks }: ShotDocument): TimelineRow[] {
  const parts = (of: string): readonly Layer[] => layers.filter((l) => isPart(l) && l.group === of);
  const stacked = layers.filter((l) => !isPart(l)).reverse();
  // Lights of a take and masks of a layer come below it.
  const shown = stacked.flatMap((layer) => [layer, ...parts(layer.id)]);
  return shown.flatMap((layer): TimelineRow[] => {
    const base = { thing: layer.id, colour: 'var(--bone)', rules: [] };
    const properties = layerProperties(layer.kind);
    const own = tracks.filter((t) => t.thing === layer.id).sort((a, b) => a.path.localeCompare(b.path));
    // They have no span: their keyed values alone are rows.
    const part = isPart(layer);
    return [
      ...(part ? [] : [{ ...base, kind: 'span' as const, id: `span ${layer.id}`, name: layer.name, layer }]),
      ...own.map((track, i): TimelineRow => {
        const property = properties[track.path] as Property | undefined;
        const label = property?.label.toLowerCase() ?? track.path;
        return {
          ...base,
          kind: 'thread',
          id: `${layer.id} ${track.path}`,
          name: part && i === 0 ? layer.name : '',
          track,
          property,
          label,
          made: false,
        };
      }),
      ...(shaped(layer)
        ? [
            {
              ...{ ...base, kind: 'shapes' as const, id: `shapes ${layer.id}`, layer },
              name: part && own.length === 0 ? layer.name : '',
            },
          ]
        : []),
    ];
  });
}

/** Whether a layer's mask is drawn and changes its shape. */
const shaped = ({ mask, maskPath }: Layer): boolean => mask === 'path' && maskPath.length > 1;

const mainThing = (recipe: AppliedRecipe): string => recipe.camera || (recipe.things[0] ?? '');

/** The part, label or finish that an own path of a thing is about; empty for other paths. */
export type SubjectOf = (thing: string, path: string) => string;

/**
 * The rows of the timeline: for each thing that moves its recipes, its rules, then its threads; the threads of a rule's own
 * numbers under the thing's. @param order ids of things as the set lists them. @param open the recipe whose threads are shown.
 * @param unfolded things whose many parts have a row each.
 */
export function timelineRows(
  set: SetDocument,
  shot: ShotDocument,
  order: readonly string[],
  open: string,
  subjectOf: SubjectOf = () => '',
  unfolded: ReadonlySet<string> = new Set(),
): TimelineRow[] {
  const ruleById = new Map(shot.rules.map((r) => [r.id, r]));
  const ownerOf = (track: Track): string => ruleById.get(track.thing)?.thing ?? track.thing;
  const owners = new Set([
    ...shot.recipes.map(mainThing),
    ...shot.rules.map((r) => r.thing),
    ...shot.tracks.map(ownerOf),
    ...set.effects.filter((effect) => mayShow(effect, shot)).map((e) => e.id),
  ]);
  // Layers of the composite have a timeline of their own.
  for (const { id } of shot.layers) owners.delete(id);
  const rank = (id: string): number => (order.includes(id) ? order.indexOf(id) : order.length);
  const itemOf = (track: Track): KeyedItem => keyedItem(set, shot, track.thing, track.path);
  const made = open ? expandMoves(set, shot).made.get(open) : undefined;
  return [...owners]
    .sort((a, b) => rank(a) - rank(b))
    .flatMap((thing) => {
      const found = findThing(set, thing);
      const tracks = shot.tracks.filter((t) => ownerOf(t) === thing);
      const parts = partsRow(thing, tracks, unfolded.has(thing));
      const shown = parts && !parts.open ? tracks.filter((t) => !t.path.startsWith(PARTS)) : tracks;
      const rows: BareRow[] = [
        ...(found?.role === 'effect' ? [{ kind: 'ripeness', id: `ripeness ${thing}`, rules: [] } as const] : []),
        ...recipeRows(shot, thing, made?.tracks ?? [], open, set, itemOf, subjectOf),
        ...ruleRows(shot, thing),
        ...(parts ? [parts] : []),
        ...threadRows(shown, itemOf, shot.rules, ruleById, false, subjectOf),
      ];
      const way = shot.paths.find((p) => p.id === thing);
      const colour = found ? ROLE_COLOUR[found.role] : way ? 'var(--coral)' : 'var(--bone-dim)';
      return rows.map((row, i) => ({
        ...row,
        thing,
        name: i === 0 ? (found?.name ?? way?.name ?? 'deleted') : '',
        colour,
      }));
    });
}

type ItemOf = (track: Track) => KeyedItem;
type Bare<R> = R extends TimelineRow ? Omit<R, 'thing' | 'name' | 'colour'> : never;
type BareRow = Bare<TimelineRow>;

function recipeRows(
  shot: ShotDocument,
  thing: string,
  made: readonly Track[],
  open: string,
  set: SetDocument,
  itemOf: ItemOf,
  subjectOf: SubjectOf,
): BareRow[] {
  return shot.recipes
    .filter((recipe) => mainThing(recipe) === thing)
    .flatMap((recipe): BareRow[] => [
      { kind: 'recipe', id: `recipe ${recipe.id}`, recipe, rules: [], end: recipeEnd(recipe) },
      ...(recipe.id === open ? madeRows(made, thing, set, itemOf, subjectOf) : []),
    ]);
}

/** What a recipe made, thing by thing, to be looked at; the name of the thing that the row stands under is left out. */
function madeRows(
  made: readonly Track[],
  main: string,
  set: SetDocument,
  itemOf: ItemOf,
  subjectOf: SubjectOf,
): BareRow[] {
  return made.flatMap((track) => {
    const found = findThing(set, track.thing);
    const rows = threadRows([track], itemOf, [], new Map(), true, subjectOf);
    return rows.map((row) =>
      row.kind === 'thread' && found && found.id !== main ? { ...row, label: `${found.name} ${row.label}` } : row,
    );
  });
}

function ruleRows(shot: ShotDocument, thing: string): BareRow[] {
  const keyed = new Set(shot.tracks.filter((t) => t.thing === thing).map((t) => t.path));
  const rules = shot.rules.filter((r) => r.thing === thing && !keyed.has(r.path));
  return rules.length > 0 ? [{ kind: 'rules', id: `rules ${thing}`, rules }] : [];
}

/** The row of a thing's parts when many of them have keys; null while they are few. */
function partsRow(thing: string, tracks: readonly Track[], open: boolean): Bare<PartsRow> | null {
  const own = tracks.filter((t) => t.path.startsWith(PARTS));
  if (own.length < MANY) return null;
  const frames = own.flatMap(({ keys }) => keys.map(({ frame }) => frame));
  const [from, to] = frames.reduce(([a, b], f) => [Math.min(a, f), Math.max(b, f)], [Infinity, -Infinity]);
  const parts = new Set(own.map(({ path }) => path.slice(PARTS.length).split('.')[0])).size;
  return { kind: 'parts', id: `parts ${thing}`, rules: [], parts, from, to, open };
}

function threadRows(
  tracks: readonly Track[],
  itemOf: ItemOf,
  rules: readonly Rule[],
  ruleById: ReadonlyMap<string, Rule>,
  made: boolean,
  subjectOf: SubjectOf,
): BareRow[] {
  return [...tracks]
    .sort((a, b) => a.path.localeCompare(b.path))
    .map((track): BareRow => {
      const rule = ruleById.get(track.thing);
      const { property, part } = itemOf(track);
      const subject = part || subjectOf(track.thing, track.path);
      const plain = property?.label.toLowerCase() ?? track.path;
      const own = subject ? `${subject}: ${plain}` : plain;
      return {
        ...{ kind: 'thread', id: `${made ? 'made ' : ''}${track.thing} ${track.path}`, track, property, made },
        label: rule ? `${rule.name.toLowerCase()}: ${own}` : own,
        rules: rules.filter((r) => r.thing === track.thing && r.path === track.path),
      };
    });
}

/** What a recipe's bar says under the pointer. */
export function recipeTip({ kind, name }: AppliedRecipe): string {
  const { title, says } = recipeFacts(kind);
  return name === title ? says : `${title}: ${says}`;
}
