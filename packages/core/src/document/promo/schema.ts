import { KIT_KINDS, KIT_SECONDS, type KitSound, type Piece, type Strip } from '../../audio/index.ts';
import type { NumberProperty } from '../../properties/index.ts';
import {
  byKind,
  finite,
  flag,
  hash,
  hex,
  id,
  list,
  name,
  numbers,
  oneOf,
  optional,
  order,
  orNull,
  shape,
  text,
  versionOf,
  whole,
} from '../fields.ts';
import { pictureSize } from '../picture-size.ts';
import { keyedShape } from '../shot/keyed-schema.ts';
import { clipPictureSchema } from './clip-picture.ts';
import { OVERLAY_PROPERTIES, type OverlayPath } from './overlay-values.ts';
import { TITLE_PROPERTIES, type TitlePath } from './title-values.ts';
import {
  ALIGNMENTS,
  ARRIVAL_KINDS,
  CALLOUT_MARKS,
  CLIP_FILLS,
  IN_BETWEENS,
  IRIS_SHAPES,
  MUSIC_PARTS,
  PACE_RAMPS,
  PITCHES,
  PART_ORDERS,
  FASTEST_PACE,
  LOW_PASS,
  PROMO_LIMITS,
  TITLE_PARTS,
  TRANSITIONS,
  type Arrival,
  type Clip,
  type FileSource,
  type Footage,
  type MadeSource,
  type Mixer,
  type Marker,
  type MusicPart,
  type MusicUse,
  type OwnSound,
  type Pace,
  type PacePoint,
  type PartByPart,
  type PromoDocument,
  type PromoGroup,
  type PromoOverlay,
  type PromoSound,
  type PromoVariable,
  type RenderedTimes,
  type SoundSource,
  type TextRun,
  type Title,
  type TitleDress,
  type TitleCallout,
  type TitleFill,
  type TitleWindow,
  type Transition,
} from './types.ts';

const ofProperty = ({ label, min, max }: NumberProperty) => finite(label, min, max);
const ofTitle = (path: TitlePath) => ofProperty(TITLE_PROPERTIES[path]);
const ofOverlay = (path: OverlayPath) => ofProperty(OVERLAY_PROPERTIES[path]);

const arrival = shape<Arrival>({
  kind: oneOf('Arrival', ARRIVAL_KINDS),
  frames: whole('Arrival length', 0, 1000),
  colour: optional(hex('Colour of the arrival')),
});

const transition = shape<Transition>({
  kind: oneOf('Transition', TRANSITIONS),
  frames: whole('Transition length', 1, 1000),
  angle: finite('Direction', -360, 360),
  softness: finite('Softness', 0, 1),
  colour: hex('Colour'),
  shape: optional(oneOf('Shape of the iris', IRIS_SHAPES)),
  seed: optional(whole('Seed', 0, 1000000)),
  logo: optional(text('Logo', 64)),
});

const pacePoint = shape<PacePoint>({
  at: finite('Place of a speed', -PROMO_LIMITS.frames, PROMO_LIMITS.frames),
  speed: finite('Speed', 0, FASTEST_PACE),
  ramp: oneOf('Ramp', PACE_RAMPS),
});

const pace = shape<Pace>({
  from: finite('Speed at the start', 0, FASTEST_PACE),
  to: finite('Speed at the end', 0, FASTEST_PACE),
  points: optional(list('Points of the pace', pacePoint, PROMO_LIMITS.pacePoints)),
  reverse: flag('Reverse'),
  between: oneOf('In-betweens', IN_BETWEENS),
  rendered: optional(
    shape<RenderedTimes>({
      take: text('Take of the in-betweens', 64),
      times: list('Rendered times', finite('Rendered time', 0, PROMO_LIMITS.frames), PROMO_LIMITS.renderedTimes),
    }),
  ),
});

const parts = shape<PartByPart>({
  part: oneOf('Part', TITLE_PARTS),
  order: oneOf('Order', PART_ORDERS),
  overlap: finite('Overlap', 0, 1),
  seed: whole('Seed', 0, 1000000),
  times: list('Times of parts', whole('Time of a part', 0, PROMO_LIMITS.frames), 2000),
});

const dress = shape<TitleDress>({
  outline: finite('Outline', 0, 1),
  outlineColour: hex('Colour of the outline'),
  shadow: finite('Shadow', 0, 1),
  shadowColour: hex('Colour of the shadow'),
  shadowBlur: finite('Softness of the shadow', 0, 3),
  shadowDown: finite('Shadow below', -3, 3),
  box: finite('Box', 0, 1),
  boxColour: hex('Colour of the box'),
  boxPadding: finite('Padding of the box', 0, 3),
  boxRadius: finite('Corners of the box', 0, 3),
});

const ownSound = shape<OwnSound>({
  gain: finite('Gain', -60, 24),
  pitch: oneOf('Pitch', PITCHES),
});

const clip = shape<Clip>({
  id: id('Id'),
  order: order(),
  take: text('Take', 64),
  start: whole('First frame', 0, PROMO_LIMITS.frames),
  length: whole('Length', 1, PROMO_LIMITS.frames),
  into: optional(transition),
  pace: optional(pace),
  picture: optional(clipPictureSchema),
  off: optional(flag('Off')),
  fill: optional(oneOf('Fill', CLIP_FILLS)),
  sound: optional(ownSound),
});

const run = shape<TextRun>({
  from: whole('First letter', 0, PROMO_LIMITS.letters),
  to: whole('Letter after the last', 0, PROMO_LIMITS.letters),
  font: optional(text('Font', 64)),
  colour: optional(hex('Colour')),
  size: optional(finite('Size', 0.1, 10)),
  weight: optional(ofTitle('weight')),
  raise: optional(finite('Raised', -5, 5)),
  tracking: optional(ofTitle('tracking')),
});

const title = shape<Title>({
  id: id('Id'),
  order: order(),
  text: text('Title text', PROMO_LIMITS.letters),
  font: text('Font', 64),
  size: finite('Size', 4, 2000),
  tracking: ofTitle('tracking'),
  colour: hex('Colour'),
  x: ofTitle('x'),
  y: ofTitle('y'),
  align: oneOf('Align', ALIGNMENTS),
  start: whole('First frame', 0, PROMO_LIMITS.frames),
  length: whole('Length', 1, PROMO_LIMITS.frames),
  arrive: arrival,
  leave: arrival,
  parts: optional(parts),
  dress: optional(dress),
  fill: optional(shape<TitleFill>({ colour: hex('Other colour'), angle: finite('Direction', -360, 360) })),
  measure: optional(finite('Width of the text', 0.05, 1)),
  balanced: optional(flag('Balanced lines')),
  bend: optional(ofTitle('bend')),
  scale: optional(ofTitle('scale')),
  rotation: optional(ofTitle('rotation')),
  opacity: optional(ofTitle('opacity')),
  weight: optional(ofTitle('weight')),
  stretch: optional(ofTitle('stretch')),
  leading: optional(finite('Leading', 0.3, 5)),
  unkerned: optional(flag('No kerning')),
  runs: optional(list('Letters set apart', run, PROMO_LIMITS.runs)),
  window: optional(
    shape<TitleWindow>({
      footage: text('Footage', 64),
      first: whole('First frame of the footage', 0, 1799),
    }),
  ),
  along: optional(text('Stroke', 64)),
  callout: optional(
    shape<TitleCallout>({
      take: text('Take of the callout', 64),
      from: whole('First frame', 0, PROMO_LIMITS.frames),
      track: list('Places of the callout', finite('Place', -100, 100), 3 * PROMO_LIMITS.followed),
      line: finite('Line', 0, 2),
      mark: oneOf('Mark', CALLOUT_MARKS),
      rides: flag('Goes along'),
    }),
  ),
});

const music = shape<MusicUse>({
  asset: hash('Music file'),
  peaks: optional(hash('Peaks file')),
  name: text('Music name', 255),
  trim: finite('Trim', 0, 36000),
  pieces: optional(
    list(
      'Pieces of the music',
      shape<Piece>({ from: finite('Begin', 0, 36000), to: finite('End', 0, 36000) }),
      500,
      1,
      'Music has a piece at least.',
    ),
  ),
  stretch: optional(finite('Stretch', 0.5, 2)),
  loops: optional(flag('Loops')),
  lowPass: optional(finite('Low-pass', LOW_PASS.least, LOW_PASS.most)),
  gain: finite('Gain', -60, 24),
  fadeIn: finite('Fade in', 0, 600),
  fadeOut: finite('Fade out', 0, 600),
  ring: optional(finite('Rings out', 0, 20)),
  loudness: optional(finite('Loudness', -60, 0)),
  tempo: finite('Tempo', 0, 400),
  firstBeat: finite('First beat', -60, 3600),
  beats: list('Beats', finite('Beat', 0, 36000), 20000),
  beatsPerBar: whole('Beats in a bar', 1, 16),
  downbeat: whole('First beat of a bar', 0, 20000),
  sections: list(
    'Parts of the music',
    shape<MusicPart>({
      from: finite('Begin', 0, 36000),
      to: finite('End', 0, 36000),
      kind: oneOf('Part', MUSIC_PARTS),
    }),
    1000,
  ),
});

const kitSound = shape<KitSound>({
  kind: oneOf('Sound', KIT_KINDS),
  seconds: finite('Length', KIT_SECONDS.least, KIT_SECONDS.most),
  pitch: finite('Pitch', -36, 36),
  weight: finite('Weight', 0, 1),
  seed: whole('Seed', 0, 1000000),
});

const source = byKind<SoundSource>('Sound', {
  made: shape<MadeSource>({ kind: oneOf('Sound', ['made']), sound: kitSound }),
  file: shape<FileSource>({
    kind: oneOf('Sound', ['file']),
    asset: hash('Sound file'),
    trim: finite('Begins at', 0, 36000),
    seconds: finite('Length', 0.01, 36000),
  }),
});

const sound = shape<PromoSound>({
  id: id('Id'),
  order: order(),
  name: name('Sound name'),
  source,
  at: whole('Accent on frame', 0, PROMO_LIMITS.frames),
  gain: finite('Gain', -60, 24),
  pan: finite('Pan', -1, 1),
  panTo: finite('Pan at the end', -1, 1),
  fadeIn: finite('Fade in', 0, 60),
  fadeOut: finite('Fade out', 0, 60),
  duck: finite('Ducks the music', 0, 40),
  reverse: optional(flag('Reversed')),
  sweep: optional(numbers<[number, number]>('Filter sweep', 2, LOW_PASS.least, LOW_PASS.most)),
  on: flag('On'),
});

const footage = shape<Footage>({
  id: id('Id'),
  order: order(),
  name: name('Name of the footage'),
  list: hash('Footage'),
  poster: hash('Picture of the footage'),
  frames: whole('Frames', 1, 1800),
  width: whole('Width', 1, 16384),
  height: whole('Height', 1, 16384),
  rate: finite('Rate', 0.1, 120),
  sound: optional(hash('Sound of the footage')),
});

const overlay = shape<PromoOverlay>({
  id: id('Id'),
  order: order(),
  footage: text('Footage', 64),
  first: whole('First frame of the footage', 0, PROMO_LIMITS.frames),
  speed: finite('Speed', 0, FASTEST_PACE),
  start: whole('First frame', 0, PROMO_LIMITS.frames),
  length: whole('Length', 1, PROMO_LIMITS.frames),
  x: ofOverlay('x'),
  y: ofOverlay('y'),
  size: ofOverlay('size'),
  rotation: ofOverlay('rotation'),
  opacity: ofOverlay('opacity'),
  radius: optional(ofOverlay('radius')),
  cropLeft: optional(ofOverlay('cropLeft')),
  cropRight: optional(ofOverlay('cropRight')),
  cropTop: optional(ofOverlay('cropTop')),
  cropBottom: optional(ofOverlay('cropBottom')),
  arrive: arrival,
  leave: arrival,
  sound: optional(ownSound),
});

const marker = shape<Marker>({
  id: id('Id'),
  order: order(),
  name: name('Name of the marker'),
  at: whole('Frame of the marker', 0, PROMO_LIMITS.frames),
  length: whole('Length', 0, PROMO_LIMITS.frames),
});

const strip = shape<Strip>({
  gain: finite('Gain', -60, 24),
  pan: finite('Pan', -1, 1),
  low: finite('Low', -18, 18),
  middle: finite('Middle', -18, 18),
  high: finite('High', -18, 18),
  threshold: finite('Threshold', -60, 0),
  ratio: finite('Ratio', 1, 20),
  attack: finite('Attack', 0.0001, 1),
  release: finite('Release', 0.005, 5),
  hall: finite('Hall', 0, 1),
  muted: flag('Muted'),
});

export const promoSchema = shape<PromoDocument>({
  version: versionOf(5),
  name: name('Promo name'),
  ...pictureSize,
  clips: list('Clips', clip, 500),
  titles: list('Titles', title, PROMO_LIMITS.titles),
  music: orNull(music),
  sounds: list('Sounds', sound, PROMO_LIMITS.sounds),
  footage: list('Footage', footage, PROMO_LIMITS.footage),
  overlays: list('Overlays', overlay, PROMO_LIMITS.overlays),
  markers: list('Markers', marker, PROMO_LIMITS.markers),
  variables: optional(
    list(
      'Variables',
      shape<PromoVariable>({ name: text('Name of a variable', 60), value: text('Value of a variable', 400) }),
      100,
    ),
  ),
  mixer: optional(shape<Mixer>({ music: strip, sounds: strip, all: strip })),
  groups: optional(
    list(
      'Groups',
      shape<PromoGroup>({ id: id('Id'), order: order(), members: list('Things of a group', id('Id'), 1000) }),
      PROMO_LIMITS.groups,
    ),
  ),
  ...keyedShape,
});
