import * as yup from 'yup';

export const DELIVERY_FORMATS = ['mp4', 'webm'] as const;
export type DeliveryFormat = (typeof DELIVERY_FORMATS)[number];
export type DeliveryState = 'waiting' | 'working' | 'done' | 'failed' | 'stopped';

export interface DeliverySummary {
  id: string;
  promo: string;
  name: string;
  format: DeliveryFormat;
  state: DeliveryState;
  progress: number;
  size: number | null;
  error: string | null;
  frames: number;
  width: number;
  height: number;
  createdAt: string;
}

export const deliveryBody = yup.object({
  format: yup
    .string()
    .strict()
    .oneOf([...DELIVERY_FORMATS], 'The format must be mp4 or webm.')
    .required('Choose a format.'),
});
