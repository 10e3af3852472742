export * from './own-campaign.ts';
export * from './repository.ts';
export * from './routes.ts';
