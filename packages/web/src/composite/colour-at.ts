import type { Picture } from '@tender-orbit/core/picture';

/** The colour of a picture at a place of the page, where it lies whole in the middle of a box; null beside it. */
export function colourAt(
  { width, height, data }: Picture,
  box: Pick<DOMRect, 'left' | 'top' | 'width' | 'height'>,
  clientX: number,
  clientY: number,
): string | null {
  const scale = Math.min(box.width / width, box.height / height);
  const x = Math.floor((clientX - box.left - (box.width - width * scale) / 2) / scale);
  const y = Math.floor((clientY - box.top - (box.height - height * scale) / 2) / scale);
  if (!(x >= 0 && y >= 0 && x < width && y < height)) return null;
  const at = (y * width + x) * 4;
  const hex = [...data.subarray(at, at + 3)].map((v) => v.toString(16).padStart(2, '0')).join('');
  return `#${hex.toUpperCase()}`;
}
