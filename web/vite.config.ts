import { join } from 'node:path';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';

const server = {
  target: 'http://127.0.0.1:4601',
  changeOrigin: true,
  // The server takes changes from its own pages only; in development this is one of them.
  headers: { origin: 'http://127.0.0.1:4601' },
};

/** In development the pages of the stand-ins stand at the addresses that the server gives them. */
const standIns: Plugin = {
  name: 'stand-ins',
  configureServer({ middlewares }) {
    middlewares.use((request, _response, next) => {
      const page = /^\/(shop|journal)\/?(?:\?|$)/.exec(request.url ?? '')?.[1];
      if (page) request.url = `/${page}.html`;
      next();
    });
  },
};

export default defineConfig({
  root: import.meta.dirname,
  plugins: [react(), standIns],
  build: {
    target: 'es2023',
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 900,
    rollupOptions: {
      // The interface, and the pages of the two stand-ins.
      input: ['index', 'shop', 'journal'].map((name) => join(import.meta.dirname, `${name}.html`)),
    },
  },
  worker: { format: 'es' },
  server: {
    proxy: Object.fromEntries(
      ['/api', '/pictures', '^/shop/.*', '^/journal/.*'].map((path) => [path, server]),
    ),
  },
});
