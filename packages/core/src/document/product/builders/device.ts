import { propertiesOf, smallLength } from '../../../properties/index.ts';
import { field, oneOf, shape } from '../../fields.ts';

/** A card or screen device: a slab with rounded corners and a picture area on its front. */
export interface DeviceBuilder {
  kind: 'device';
  width: number;
  height: number;
  depth: number;
  corner: number;
  bevel: number;
  /** From the edge to the picture area; 0 covers the whole front. */
  border: number;
}

export const DEVICE_PROPERTIES = propertiesOf<DeviceBuilder>()({
  width: smallLength('Width', 0.001, 5, { step: 1 }),
  height: smallLength('Height', 0.001, 5, { step: 1 }),
  depth: smallLength('Depth', 0.0002, 1),
  corner: smallLength('Corner radius', 0, 1),
  bevel: smallLength('Edge radius', 0, 0.5, { step: 0.1 }),
  border: smallLength('Border', 0, 1, { step: 0.1 }),
});

export const deviceSchema = shape<DeviceBuilder>({
  kind: oneOf('Builder', ['device']),
  width: field(DEVICE_PROPERTIES.width),
  height: field(DEVICE_PROPERTIES.height),
  depth: field(DEVICE_PROPERTIES.depth),
  corner: field(DEVICE_PROPERTIES.corner),
  bevel: field(DEVICE_PROPERTIES.bevel),
  border: field(DEVICE_PROPERTIES.border),
});
