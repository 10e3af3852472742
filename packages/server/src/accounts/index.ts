export * from './people.ts';
export { Presence } from './presence.ts';
export * from './routes.ts';
