import type { FrameRate } from '../../time/index.ts';
import { finite, hash, id, item, list, name, optional, point, shape, text, versionOf, whole } from '../fields.ts';
import { pictureSize } from '../picture-size.ts';
import { card, light } from '../set/index.ts';
import type { CampaignDocument, CampaignFont, SavedKit } from './types.ts';

const kit = shape<SavedKit>({
  ...item('Kit name'),
  lights: list('Lights of a kit', light.schema, 200),
  cards: list('Cards of a kit', card.schema, 50),
  room: finite('Room light', 0, 100000),
  centre: point('Middle'),
  radius: finite('Size', 1e-4, 1000),
  cameraTurn: finite('Camera direction', -1e6, 1e6),
});

export const campaignSchema = shape<CampaignDocument>({
  version: versionOf(5),
  kits: list('Light kits', kit, 100),
  fonts: optional(
    list('Fonts', shape<CampaignFont>({ asset: hash('Font'), name: text('Name of the font', 120) }), 100),
  ),
  boards: list('Storyboard', id('Shot'), 2000),
  name: name('Campaign name'),
  client: text('Client', 120),
  message: text('Message', 4000),
  notes: text('Notes', 4000),
  frameRate: shape<FrameRate>({ num: whole('Frame rate', 1, 240000), den: whole('Frame rate', 1, 1001) }),
  ...pictureSize,
});
