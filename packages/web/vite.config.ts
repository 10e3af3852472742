import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';
import vuetify from 'vite-plugin-vuetify';

const ISOLATION = { 'Cross-Origin-Opener-Policy': 'same-origin', 'Cross-Origin-Embedder-Policy': 'require-corp' };

export default defineConfig({
  // Libraries that also run in Node name its modules; that warning is not for the person who starts the server.
  logLevel: 'error',
  plugins: [vue(), vuetify({ autoImport: true })],
  build: {
    target: 'es2023',
    // Which file needs which: the benchmark of what a page loads reads it.
    manifest: true,
    // WebAssembly and fonts stay files: the content security policy allows no data URLs for them.
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 1600,
  },
  worker: { format: 'es' },
  server: { headers: ISOLATION, proxy: { '/api': 'http://127.0.0.1:4310' } },
});
