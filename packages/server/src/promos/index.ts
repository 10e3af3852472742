export * from './delivery-files.ts';
export * from './encode-node.ts';
export * from './sound-node.ts';
export { listDeliveries, promoRoutes, type PromoContext } from './routes.ts';
