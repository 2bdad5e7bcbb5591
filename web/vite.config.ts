import vue from '@vitejs/plugin-vue';
import { fileURLToPath } from 'node:url';
import { AntDesignVueResolver } from 'unplugin-vue-components/resolvers';
import components from 'unplugin-vue-components/vite';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [
    vue(),
    components({
      dirs: [],
      dts: 'src/components.d.ts',
      resolvers: [AntDesignVueResolver({ importStyle: false, resolveIcons: true })],
    }),
  ],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  // Data URLs for fonts would be refused by the content security policy.
  build: { assetsInlineLimit: 0, manifest: true, chunkSizeWarningLimit: 700 },
});
