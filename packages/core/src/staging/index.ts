export * from './light-kits.ts';
