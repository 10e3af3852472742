export * from './routes.ts';
export * from './title-styles.ts';
