export * from './routes.ts';
