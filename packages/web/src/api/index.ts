export * from './client.ts';
export * from './types.ts';
export * from './upload.ts';
export * from './work-stream.ts';
export * from './fonts.ts';
export * from './pictures.ts';
