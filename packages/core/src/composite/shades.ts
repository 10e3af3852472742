import type { Layer } from '../document/index.ts';
import { blurPlate } from './blur.ts';
import { edge, placeOf } from './place.ts';
import { contentOf, type Plate, type Plates } from './plate.ts';
import { colourOf, placed } from './layer-plate.ts';

/** What a layer casts: laid below it, in this order. */
export function shadesOf(
  plates: Plates,
  plate: Plate,
  layer: Layer,
  lay: (shade: Plate, opacity: number) => void,
): void {
  if (layer.contact > 0) plates.within(() => castContact(plates, plate, layer, lay));
  if (layer.mirror > 0) plates.within(() => castMirror(plates, plate, layer, lay));
  if (layer.shadow > 0) plates.within(() => castShadow(plates, plate, layer, lay));
}

type Lay = (shade: Plate, opacity: number) => void;

/** Its shape in the shadow's colour, moved and blurred. */
function castShadow(plates: Plates, plate: Plate, layer: Layer, lay: Lay): void {
  const { width, height } = plate;
  const shade = plates.copy(plate);
  const [r, g, b] = colourOf(layer.shadowColour, layer.space);
  const { data } = shade;
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3];
    [data[i], data[i + 1], data[i + 2]] = [r * alpha, g * alpha, b * alpha];
  }
  const place = placeOf({ x: layer.shadowX, y: layer.shadowY, scale: 1, stretch: 1, rotation: 0 }, width, height);
  const moved = placed(plates, shade, place, plate, 1);
  if (layer.shadowBlur > 0) blurPlate(plates, moved, layer.shadowBlur * height);
  lay(moved, layer.shadow);
}

/** What is less than a step of a byte is not seen to cast anything. */
const SEEN = 1 / 255;

/** Height of a contact shadow as a share of its width, and how much wider than what casts it it is. */
const FLAT = 0.09;
const WIDER = 1.06;

/** A dark soft ellipse where it stands. */
function castContact(plates: Plates, plate: Plate, layer: Layer, lay: Lay): void {
  const content = contentOf(plate, SEEN);
  if (!content) return;
  const { width, height } = plate;
  const shade = plates.make(width, height);
  const { data } = shade;
  const [a, b] = [((content.right - content.left) / 2) * WIDER, (content.right - content.left) * FLAT];
  const [cx, cy] = [(content.left + content.right) / 2, content.bottom];
  const [r, g, bl] = colourOf(layer.shadowColour, layer.space);
  const [top, bottom] = [Math.max(0, Math.floor(cy - b)), Math.min(height, Math.ceil(cy + b))];
  for (let y = top; y < bottom; y++)
    for (let x = Math.max(0, Math.floor(cx - a)); x < Math.min(width, Math.ceil(cx + a)); x++) {
      const [u, v] = [(x + 0.5 - cx) / a, (y + 0.5 - cy) / b];
      // Full in the middle, out at the edge.
      const there = edge(0.5 - Math.sqrt(u * u + v * v), 1);
      const at = (y * width + x) * 4;
      [data[at], data[at + 1], data[at + 2], data[at + 3]] = [r * there, g * there, bl * there, there];
    }
  lay(shade, layer.contact);
}

/** Its picture upside down below where it ends, fading out. */
function castMirror(plates: Plates, plate: Plate, layer: Layer, lay: Lay): void {
  const content = contentOf(plate, SEEN);
  if (!content) return;
  const { width, height } = plate;
  const shade = plates.make(width, height);
  const [from, to] = [plate.data, shade.data];
  const line = content.bottom + Math.round(layer.mirrorGap * height);
  const fall = layer.mirrorFall * height;
  for (let y = Math.max(0, line); y < height; y++) {
    const source = content.bottom - 1 - (y - line);
    const there = 1 - (y + 0.5 - line) / fall;
    if (source < 0 || there <= 0) break;
    const [row, into] = [source * width * 4, y * width * 4];
    for (let i = 0; i < width * 4; i++) to[into + i] = from[row + i] * there * there;
  }
  if (layer.mirrorBlur > 0) blurPlate(plates, shade, layer.mirrorBlur * height);
  lay(shade, layer.mirror);
}
