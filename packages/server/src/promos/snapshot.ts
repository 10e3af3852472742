export type DeliveryFormat = 'mp4' | 'webm';
