import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  root: import.meta.dirname,
  plugins: [react()],
  build: { target: 'es2023', assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  worker: { format: 'es' },
  server: {
    proxy: Object.fromEntries(
      ['/api', '/pictures'].map((path) => [
        path,
        {
          target: 'http://127.0.0.1:4601',
          changeOrigin: true,
          // The server takes changes from its own pages only; in development this is one of them.
          headers: { origin: 'http://127.0.0.1:4601' },
        },
      ]),
    ),
  },
});
