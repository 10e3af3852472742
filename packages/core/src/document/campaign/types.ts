import type { FrameRate } from '../../time/index.ts';
import type { Item, Point } from '../common.ts';
import type { CardSurface, SetLight } from '../set/index.ts';

/** A lighting set-up that was kept: as it stood round a product of `radius`, seen from the camera's direction. */
export interface SavedKit extends Item {
  lights: SetLight[];
  cards: CardSurface[];
  /** Luminance of the room, cd/m2. */
  room: number;
  /** What it stood round: middle, half of its diagonal, direction of the camera in degrees. */
  centre: Point;
  radius: number;
  cameraTurn: number;
}

/** A font that was brought for the campaign: texts name it by its file. */
export interface CampaignFont {
  /** SHA-256 of the file. */
  asset: string;
  name: string;
}

/** One job for one client. */
export interface CampaignDocument {
  version: 5;
  name: string;
  client: string;
  /** What the promo must say and to whom. */
  message: string;
  notes: string;
  frameRate: FrameRate;
  width: number;
  height: number;
  kits: SavedKit[];
  /** Shots in the storyboard's order; those it does not name come after, the oldest first. */
  boards: string[];
  /** Missing: none but those that ship. */
  fonts?: CampaignFont[];
}
