import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import type { Bench } from './bench.ts';

/** A file of the built application, as Vite's manifest lists it. */
interface Chunk {
  file: string;
  imports?: string[];
  css?: string[];
}

const DIST = join('packages', 'web', 'dist');
const ENTRY = 'index.html';
const FIRST = 'src/campaigns/SignIn.vue';
const FRAME = 'src/frame/CampaignFrame.vue';
const STATIONS = ['brief', 'products', 'set', 'moves', 'composite', 'promo', 'release'];

function readManifest(): Record<string, Chunk> {
  const path = join(DIST, '.vite', 'manifest.json');
  if (!existsSync(path)) throw new Error('The application is not built: run "npm run build" first.');
  return JSON.parse(readFileSync(path, 'utf8')) as Record<string, Chunk>;
}

/** Scripts and style sheets that some sources need before they can run. */
function filesOf(manifest: Record<string, Chunk>, sources: readonly string[]): Set<string> {
  const files = new Set<string>();
  const seen = new Set<string>();
  const visit = (source: string): void => {
    if (seen.has(source)) return;
    seen.add(source);
    const { file, imports = [], css = [] } = manifest[source];
    [file, ...css].forEach((name) => files.add(name));
    imports.forEach(visit);
  };
  sources.forEach(visit);
  return files;
}

const kilobytes = (files: ReadonlySet<string>): number =>
  [...files].reduce((sum, file) => sum + gzipSync(readFileSync(join(DIST, file)), { level: 9 }).length, 0) / 1000;

/** Scripts and styles that pages load, compressed, kB; fonts, pictures, workers and WebAssembly come besides. */
export const webBenches: Bench[] = [
  {
    name: 'web/first-load-kb',
    unit: 'kB',
    run: () => {
      const files = filesOf(readManifest(), [ENTRY, FIRST]);
      return Promise.resolve({ value: kilobytes(files), note: `signing in, ${files.size} files` });
    },
  },
  {
    name: 'web/station-load-kb',
    unit: 'kB',
    run: () => {
      const manifest = readManifest();
      const sizes = STATIONS.map((station) => {
        const name = `src/${station}/${station.replace(/^./, (c) => c.toUpperCase())}Station.vue`;
        return [station, kilobytes(filesOf(manifest, [ENTRY, FRAME, name]))] as const;
      });
      const note = sizes.map(([station, size]) => `${station} ${size.toFixed(0)}`).join(', ');
      return Promise.resolve({ value: Math.max(...sizes.map(([, size]) => size)), note });
    },
  },
];
