export * from './delivery-runner.ts';
export * from './routes.ts';
export type { DeliveryFormat } from './snapshot.ts';
