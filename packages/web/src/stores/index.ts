export * from './session.ts';
export * from './notices.ts';
export * from './documents.ts';
export * from './campaign.ts';
export * from './playhead.ts';
export * from './stage.ts';
export * from './desk.ts';
export * from './selection.ts';
