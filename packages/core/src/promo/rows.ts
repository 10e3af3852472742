import {
  addClip,
  addOverlay,
  changeClips,
  clipTracks,
  newClipPicture,
  overlayTracks,
  ownOverlayValues,
  deleteClip,
  deleteOverlay,
  OVERLAY_PROPERTIES,
  runCommand,
  splitClip,
  type Clip,
  type ClipPath,
  type Command,
  type OverlayPath,
  type PromoDocument,
  type PromoOverlay,
  type Track,
} from '../document/index.ts';
import { pictureAt } from './framing.ts';
import { insertClip } from './insert.ts';
import { placedClips } from './cut.ts';
import { framesPlayed, halvesOf } from './pace.ts';
import { trimStart } from './trim.ts';

type Edits = Array<Command<PromoDocument>>;

/**
 * Puts a clip at a frame of the cut in the place of what is there: the cut keeps its length, unless the clip goes beyond it. Where the
 * cut has ended already, it follows on.
 * @param newId of the second half of a clip that it comes to lie within. @returns what is to be run, in this order.
 */
export function overwriteClip(promo: PromoDocument, at: number, clip: Clip, name: string, newId: string): Edits {
  const end = at + clip.length;
  const edits: Edits = [];
  let index = 0;
  for (const { clip: under, from } of placedClips(promo)) {
    const to = from + under.length;
    if (to <= at) {
      index++;
      continue;
    }
    if (from >= end) break;
    if (from < at && to > end) {
      const [first, second] = halvesOf(under, at - from);
      const halves = splitClip(under.id, at - from, newId, second, first);
      const half = runCommand(promo, halves).clips.find(({ id }) => id === newId)!;
      edits.push(halves, changeClips('Trim clip', [trimStart(half, end - at)]));
      index++;
    } else if (from < at) {
      const [head] = halvesOf(under, at - from);
      edits.push(changeClips('Trim clip', [{ id: under.id, values: { ...head, length: at - from } }]));
      index++;
    } else if (to > end) edits.push(changeClips('Trim clip', [trimStart(under, end - from)]));
    else edits.push(deleteClip(under.id));
  }
  return [...edits, addClip(clip, name, index)];
}

/** A clip of the cut as an overlay where it was, as large and as fast and with its keys; the cut closes behind it. */
export function clipToOverlay(promo: PromoDocument, id: string, overlayId: string): Edits {
  const found = placedClips(promo).find(({ clip }) => clip.id === id);
  if (!found || !found.clip.take) return [];
  const { clip, from } = found;
  const aspect = promo.width / promo.height;
  const { x, y, scale, rotation, opacity, radius, cropLeft, cropRight, cropTop, cropBottom } = pictureAt(
    clip,
    promo,
    0,
    aspect,
  );
  const crops = { radius, cropLeft, cropRight, cropTop, cropBottom };
  const overlay: PromoOverlay = {
    ...{ id: overlayId, footage: clip.take, first: clip.start, speed: framesPlayed(clip) / clip.length },
    ...{ start: from, length: clip.length, x: 0.5 + x / aspect, y: 0.5 - y, size: scale, rotation, opacity },
    ...Object.fromEntries(Object.entries(crops).filter(([, value]) => value > 0)),
    ...{ arrive: { kind: 'none', frames: 0 }, leave: { kind: 'none', frames: 0 } },
    ...(clip.sound && { sound: { ...clip.sound } }),
  };
  // Clips lie in heights from the middle, y up; overlays in shares of the width and the height from the top left.
  const placed: Partial<Record<ClipPath, [path: OverlayPath, of: (value: number) => number]>> = {
    x: ['x', (v) => 0.5 + v / aspect],
    y: ['y', (v) => 0.5 - v],
    scale: ['size', (v) => v],
  };
  const tracks = clipTracks(promo, id).flatMap((track): Track[] => {
    const [path, valueOf] = placed[track.path as ClipPath] ?? [track.path, (v: number) => v];
    if (!(path in OVERLAY_PROPERTIES)) return [];
    return [{ thing: overlayId, path, keys: track.keys.map((key) => ({ ...key, value: valueOf(Number(key.value)) })) }];
  });
  // The clip goes last: eases that its keys share with no others would go with it.
  return [
    addOverlay(overlay, 'overlay'),
    { label: 'Keep keys', run: (now) => void now.tracks.push(...tracks) },
    deleteClip(id),
  ];
}

/**
 * An overlay as a clip of the cut from where it begins; what comes after it goes along. It fills the frame, unless it is keyed: then it
 * lies and moves as it did.
 */
export function overlayToClip(promo: PromoDocument, id: string, clipId: string, newId: string): Edits {
  const overlay = promo.overlays.find((o) => o.id === id);
  if (!overlay) return [];
  const { footage, first, speed, start, length } = overlay;
  const clip: Clip = {
    ...{ id: clipId, take: footage, start: first, length },
    ...(speed !== 1 && { pace: { from: speed, to: speed, reverse: false, between: 'nearest' } }),
    ...(overlay.sound && { sound: { ...overlay.sound } }),
  };
  const keyed = overlayTracks(promo, id);
  if (keyed.length === 0) return [deleteOverlay(id), ...insertClip(promo, start, clip, 'clip', newId)];
  const aspect = promo.width / promo.height;
  const { size, ...values } = ownOverlayValues(overlay);
  clip.picture = newClipPicture({ ...values, x: (values.x - 0.5) * aspect, y: 0.5 - values.y, scale: size });
  const placed: Partial<Record<string, [path: ClipPath, of: (value: number) => number]>> = {
    x: ['x', (v) => (v - 0.5) * aspect],
    y: ['y', (v) => 0.5 - v],
    size: ['scale', (v) => v],
  };
  const tracks = keyed.map((track): Track => {
    const [path, valueOf] = placed[track.path] ?? [track.path, (v: number) => v];
    return { thing: clipId, path, keys: track.keys.map((key) => ({ ...key, value: valueOf(Number(key.value)) })) };
  });
  return [
    ...insertClip(promo, start, clip, 'clip', newId),
    { label: 'Keep keys', run: (now) => void now.tracks.push(...tracks) },
    deleteOverlay(id),
  ];
}
