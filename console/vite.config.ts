import { defineConfig } from 'vite'
import vue from '@vitejs/plugin-vue'

// The build lands where the Go binary embeds it.
export default defineConfig({
  plugins: [vue()],
  build: { outDir: '../internal/service/console/dist', emptyOutDir: false, chunkSizeWarningLimit: 2000 },
  server: { proxy: { '/api': 'http://127.0.0.1:8470' } },
})
