import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { workersThatImport } from './scripts/worker-start.ts';

export default defineConfig({
  root: 'web',
  plugins: [react(), tailwindcss()],
  worker: { format: 'es', plugins: () => [workersThatImport()] },
  build: {
    outDir: '../dist/web',
    emptyOutDir: true,
    target: 'es2022',
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 1500,
  },
  server: {
    port: 4821,
    proxy: {
      '/api': { target: 'http://127.0.0.1:4820', changeOrigin: true, headers: { origin: 'http://127.0.0.1:4820' } },
    },
  },
});
