export * from './powers.ts';
export * from './trigonometry.ts';
