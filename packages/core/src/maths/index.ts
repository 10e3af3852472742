export * from './powers.ts';
export * from './trigonometry.ts';
export * from './random.ts';
