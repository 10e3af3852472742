export * from './connect.ts';
export * from './migrate.ts';
