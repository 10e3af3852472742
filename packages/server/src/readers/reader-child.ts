import { readModelFile } from './read-model-file.ts';
import { serveChild } from './serve-child.ts';

serveChild({ model: readModelFile });
