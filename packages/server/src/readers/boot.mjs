import { register } from 'tsx/esm/api';

// A child process does not take over its parent's module hooks, so the TypeScript loader is registered inside it.
register();
await import(process.argv[2]);
