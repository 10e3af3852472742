import type { Mat4 } from '../geometry/index.ts';
import type { PartPlace, PartShape, ShownPart } from '../product/index.ts';
import type { TableauInstance } from './tableau.ts';

/** An instance with the places and shapes of its parts as the shutter closes and one frame before. */
export function withPartMoves(
  instance: TableauInstance,
  close: readonly ShownPart[] | undefined,
  before: readonly ShownPart[] | undefined,
): TableauInstance {
  const owned = (parts: readonly ShownPart[] | undefined): boolean => parts?.some((p) => p.place ?? p.shape) ?? false;
  if (!owned(instance.parts) && !owned(close) && !owned(before)) return instance;
  const parts = instance.parts.map((part) => {
    const same = (other: ShownPart): boolean => other.index === part.index && other.slot === part.slot;
    const [later, earlier] = [close?.find(same), before?.find(same)];
    if (!part.place && !part.shape && !later?.place && !earlier?.place) return part;
    const place = placeAt(part, later, earlier);
    return { ...part, ...(place && { place }), ...(part.shape && { shape: shapeAt(part.shape, later, earlier) }) };
  });
  return { ...instance, parts };
}

const IDENTITY: Mat4 = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
const placed = (part: ShownPart | undefined): Mat4 | undefined => part && (part.place?.matrix ?? IDENTITY);

function placeAt(part: ShownPart, later?: ShownPart, earlier?: ShownPart): PartPlace | undefined {
  if (!part.place && !later?.place && !earlier?.place) return undefined;
  const matrix = part.place?.matrix ?? IDENTITY;
  const unlike = (other: Mat4 | undefined): Mat4 | undefined =>
    other && other.some((v, i) => Math.abs(v - matrix[i]) > 1e-9) ? other : undefined;
  return { matrix, close: unlike(placed(later)), before: unlike(placed(earlier)) };
}

/** Shapes whose triangles are the same ones move from one to the other; others stay as they are in the frame. */
function shapeAt({ mesh }: PartShape, later?: ShownPart, earlier?: ShownPart): PartShape {
  const alike = (other: ShownPart | undefined): PartShape['mesh'] | undefined => {
    const shape = other?.shape?.mesh;
    return shape && shape !== mesh && shape.positions.length === mesh.positions.length ? shape : undefined;
  };
  const [close, before] = [alike(later), alike(earlier)];
  return {
    mesh,
    ...(close && { close: { positions: close.positions, normals: close.normals } }),
    ...(before && { before: before.positions }),
  };
}
