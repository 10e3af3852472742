export * from './sound.ts';
export * from './mix.ts';
export * from './peaks.ts';
export * from './instruments.ts';
export * from './wav.ts';
export * from './peak-file.ts';
export * from './beats/index.ts';
