import Components from 'unplugin-vue-components/vite';
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers';
import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';

export default defineConfig({
  root: import.meta.dirname,
  plugins: [
    vue(),
    // Only what is used of Element Plus is brought along.
    Components({ dirs: [], dts: false, resolvers: [ElementPlusResolver({ importStyle: false })] }),
  ],
  build: { target: 'es2022', chunkSizeWarningLimit: 3000, emptyOutDir: true },
  worker: { format: 'es' },
  server: { host: '127.0.0.1', proxy: { '/api': 'http://127.0.0.1:4860' } },
});
