import {
  finite,
  hash,
  hex,
  id,
  list,
  name,
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
import {
  ALIGNMENTS,
  ARRIVAL_KINDS,
  MUSIC_PARTS,
  type Arrival,
  type Clip,
  type MusicPart,
  type MusicUse,
  type PromoDocument,
  type Title,
} from './types.ts';

const arrival = shape<Arrival>({
  kind: oneOf('Arrival', ARRIVAL_KINDS),
  frames: whole('Arrival length', 0, 1000),
});

const clip = shape<Clip>({
  id: id('Id'),
  order: order(),
  take: text('Take', 64),
  start: whole('First frame', 0, 100000),
  length: whole('Length', 1, 100000),
});

const title = shape<Title>({
  id: id('Id'),
  order: order(),
  text: text('Title text', 2000),
  font: text('Font', 64),
  size: finite('Size', 4, 2000),
  tracking: finite('Tracking', -0.5, 5),
  colour: hex('Colour'),
  x: finite('Across', -1, 2),
  y: finite('Down', -1, 2),
  align: oneOf('Align', ALIGNMENTS),
  start: whole('First frame', 0, 100000),
  length: whole('Length', 1, 100000),
  arrive: arrival,
  leave: arrival,
});

const music = shape<MusicUse>({
  asset: hash('Music file'),
  peaks: optional(hash('Peaks file')),
  name: text('Music name', 255),
  trim: finite('Trim', 0, 36000),
  gain: finite('Gain', -60, 24),
  fadeIn: finite('Fade in', 0, 600),
  fadeOut: finite('Fade out', 0, 600),
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

export const promoSchema = shape<PromoDocument>({
  version: versionOf(2),
  name: name('Promo name'),
  ...pictureSize,
  clips: list('Clips', clip, 500),
  titles: list('Titles', title, 200),
  music: orNull(music),
});
