/** Metres, +Y up. */
export type Point = [number, number, number];

/** An item of a list that edits address by its id. */
export interface Item {
  id: string;
  name: string;
  /** Where it stands in its list, as a fractional index; absent: where it lies. See edit.ts. */
  order?: string;
}
