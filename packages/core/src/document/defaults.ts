import type {
  BlockForm,
  BlockSurface,
  CampaignDocument,
  Point,
  Room,
  PromoDocument,
  CardSurface,
  Gobo,
  SeenBy,
  SetCamera,
  SetDocument,
  SetLight,
  SetProduct,
  ShotDocument,
  SweepSurface,
  Title,
} from './types.ts';

export function newCampaign(name: string, values: Partial<CampaignDocument> = {}): CampaignDocument {
  return {
    version: 2,
    kits: [],
    name,
    client: '',
    message: '',
    notes: '',
    frameRate: { num: 24, den: 1 },
    width: 1280,
    height: 720,
    ...values,
  };
}

export function seenByAll(): SeenBy {
  return { camera: true, reflections: true, shadows: true, lighting: true };
}

/** What a product on a set has besides its name and place: upright, on the floor. */
export function plainItem(): Omit<SetProduct, 'id' | 'name' | 'product' | 'position'> {
  return {
    ...{ variant: '', standsOn: '', group: '', locked: false },
    ...{ turn: 0, tilt: 0, roll: 0, scale: 1, seated: true, visible: true, seenBy: seenByAll() },
  };
}

export function noGobo(): Gobo {
  return { pattern: 'none', distance: 0.3, width: 0.6, height: 0.6, repeat: 4, seed: 1 };
}

/** What a light has besides its place, power and size. */
export function plainLight(): Pick<
  SetLight,
  'on' | 'seen' | 'spread' | 'cone' | 'softness' | 'gradient' | 'gobo' | 'touches' | 'group' | 'locked' | 'mark'
> {
  return {
    on: true,
    seen: false,
    spread: 0,
    cone: 40,
    softness: 0.3,
    gradient: 'even',
    gobo: noGobo(),
    touches: { mode: 'all', things: [] },
    ...{ group: '', locked: false, mark: '#E9B44C' },
  };
}

/** A flag (black) or bounce card (white) out of the camera's sight. */
export function newCard(id: string, name: string, colour: string, values: Partial<CardSurface> = {}): CardSurface {
  return {
    id,
    name,
    kind: 'card',
    width: 0.4,
    height: 0.6,
    position: [-0.4, 0.3, 0.3],
    aim: [0, 0.06, 0],
    colour,
    roughness: 0.9,
    ...{ finish: null, group: '', locked: false },
    visible: true,
    seenBy: { ...seenByAll(), camera: false },
    ...values,
  };
}

export function newSweep(id = 'sweep', values: Partial<SweepSurface> = {}): SweepSurface {
  return {
    id,
    name: 'Sweep',
    kind: 'sweep',
    width: 3.2,
    depth: 2.4,
    height: 1.8,
    radius: 0.6,
    colour: '#8C8378',
    roughness: 0.6,
    ...{ finish: null, group: '', locked: false },
    visible: true,
    seenBy: seenByAll(),
    mirror: { strength: 0, blur: 0.1, reach: 0.15 },
    catcher: false,
    ...values,
  };
}

const FORMS: Record<
  BlockForm,
  Pick<BlockSurface, 'width' | 'height' | 'depth' | 'bevel'> & { name: string; position: Point }
> = {
  floor: { name: 'Floor', width: 2, height: 0, depth: 2, bevel: 0, position: [0, 0, 0] },
  wall: { name: 'Wall', width: 2, height: 1.4, depth: 0, bevel: 0, position: [0, 0, -0.6] },
  plinth: { name: 'Plinth', width: 0.16, height: 0.08, depth: 0.16, bevel: 0.002, position: [0, 0, 0] },
  drum: { name: 'Round plinth', width: 0.18, height: 0.06, depth: 0.18, bevel: 0.002, position: [0, 0, 0] },
  steps: { name: 'Steps', width: 0.3, height: 0.12, depth: 0.24, bevel: 0.002, position: [0, 0, -0.05] },
  tabletop: { name: 'Tabletop', width: 0.9, height: 0.03, depth: 0.5, bevel: 0.02, position: [0, 0, 0] },
  panel: { name: 'Panel', width: 0.3, height: 0.4, depth: 0.008, bevel: 0.002, position: [-0.2, 0.12, -0.25] },
};

/** A body of a form at a size that suits a small product. */
export function newBlock(id: string, form: BlockForm, values: Partial<BlockSurface> = {}): BlockSurface {
  const { position, ...size } = FORMS[form];
  return {
    ...{ id, kind: 'block', form, ...size, position: [...position], turn: 0, steps: 3 },
    ...{
      colour: '#B9AFA6',
      roughness: 0.6,
      finish: null,
      visible: true,
      seenBy: seenByAll(),
      group: '',
      locked: false,
    },
    ...values,
  };
}

export function plainRoom(): Room {
  return { kind: 'studio', asset: '', boxes: [] };
}

/** Key, fill and rim as a small-product table set-up wants them: big and close key, weak fill, narrow rim behind. */
export function threeSoftboxes(): SetLight[] {
  const base = (): Omit<SetLight, 'id' | 'name' | 'role' | 'width' | 'height' | 'position' | 'kelvin' | 'lumens'> => ({
    ...plainLight(),
    shape: 'softbox',
    aim: [0, 0.06, 0],
  });
  return [
    {
      ...base(),
      id: 'key',
      name: 'Key',
      role: 'key',
      width: 0.6,
      height: 0.8,
      position: [-0.75, 0.7, 0.55],
      kelvin: 5200,
      lumens: 2600,
    },
    {
      ...base(),
      id: 'fill',
      name: 'Fill',
      role: 'fill',
      width: 0.8,
      height: 0.8,
      position: [0.95, 0.45, 0.7],
      kelvin: 6000,
      lumens: 700,
    },
    {
      ...base(),
      id: 'rim',
      name: 'Rim',
      role: 'rim',
      width: 0.25,
      height: 0.9,
      position: [0.55, 0.55, -0.6],
      kelvin: 4600,
      lumens: 1800,
    },
  ];
}

export function newCamera(id: string, name: string, values: Partial<SetCamera> = {}): SetCamera {
  return {
    id,
    name,
    position: [0, 0.16, 0.75],
    aim: [0, 0.06, 0],
    focalLength: 85,
    sensorWidth: 36,
    fNumber: 5.6,
    focus: 0,
    focusOn: '',
    exposure: 0,
    blades: 0,
    shiftX: 0,
    shiftY: 0,
    shutter: 180,
    ...values,
  };
}

/** A lit studio with nothing in it yet. */
export function newSet(name: string): SetDocument {
  return {
    version: 3,
    name,
    products: [],
    surfaces: [newSweep()],
    lights: threeSoftboxes(),
    environment: { id: 'environment', intensity: 150, rotation: 0, seen: true, room: plainRoom() },
    cameras: [newCamera('hero', 'Hero')],
    view: 'neutral',
  };
}

export function newShot(name: string, set: string, camera: string, length: number): ShotDocument {
  return { version: 1, name, set, camera, length, seed: 1, tracks: [] };
}

export function newPromo(name: string, width: number, height: number): PromoDocument {
  return { version: 1, name, width, height, clips: [], titles: [], music: null };
}

export function newTitle(id: string, values: Partial<Title> = {}): Title {
  return {
    id,
    text: 'Title',
    font: 'fraunces-600',
    size: 64,
    tracking: 0,
    colour: '#ECE7F2',
    x: 0.5,
    y: 0.8,
    align: 'centre',
    start: 0,
    length: 48,
    arrive: { kind: 'fade', frames: 10 },
    leave: { kind: 'fade', frames: 10 },
    ...values,
  };
}
