import { defineConfig } from 'vitest/config'
import vue from '@vitejs/plugin-vue'
import components from 'unplugin-vue-components/vite'
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers'
import { packed } from './packed.ts'

// The build lands where the Go binary embeds it. Element Plus comes by component: a view brings what it shows.
export default defineConfig({
  plugins: [
    vue(),
    components({ dts: false, dirs: [], resolvers: [ElementPlusResolver({ importStyle: 'css' })] }),
    packed(),
  ],
  build: {
    outDir: '../internal/service/console/dist',
    emptyOutDir: true,
    chunkSizeWarningLimit: 1600, // what describes the API is that large, and is loaded by its page alone
    rollupOptions: { input: ['index.html', 'api.html'] },
  },
  test: {
    environment: 'happy-dom',
    setupFiles: ['src/testing/setup.ts'],
    testTimeout: 60_000, // for what hangs: a busy machine needs seconds to load a view
    hookTimeout: 60_000,
    restoreMocks: true,
    unstubGlobals: true,
    server: { deps: { inline: ['element-plus'] } }, // its style sheets go through Vite
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8470' } },
})
