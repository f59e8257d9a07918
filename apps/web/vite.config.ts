import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';

export default defineConfig({
  root: import.meta.dirname,
  plugins: [vue()],
  build: { target: 'es2022', chunkSizeWarningLimit: 3000, emptyOutDir: true },
  worker: { format: 'es' },
  server: { host: '127.0.0.1', proxy: { '/api': 'http://127.0.0.1:4860' } },
});
