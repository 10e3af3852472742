export * from './powers.ts';
export * from './trigonometry.ts';
export * from './random.ts';
export * from './clamp.ts';
