import { readModelFile } from './read-model-file.ts';
import { readPictureFile } from './read-picture-file.ts';
import { serveChild } from './serve-child.ts';

serveChild({
  model: readModelFile,
  picture: readPictureFile,
  // What reads them is large and seldom needed.
  font: async (task: never) => (await import('./read-font-file.ts')).readFontFile(task),
  // Its reader of OpenEXR is large and seldom needed.
  panorama: async (task: never) => (await import('./read-panorama.ts')).readPanoramaFile(task),
});
