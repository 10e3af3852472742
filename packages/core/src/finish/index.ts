export * from './finish.ts';
