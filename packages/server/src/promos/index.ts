export * from './delivery-runner.ts';
export * from './routes.ts';
