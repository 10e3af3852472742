export * from './job.ts';
export * from './job-queue.ts';
export * from './job-events.ts';
export * from './dispatcher.ts';
export * from './routes.ts';
export * from './run-to-end.ts';
