export * from './people.ts';
export * from './routes.ts';
