import vue from '@vitejs/plugin-vue'
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers'
import Components from 'unplugin-vue-components/vite'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [
    vue(),
    Components({
      dirs: [],
      dts: 'components.d.ts',
      resolvers: [ElementPlusResolver({ importStyle: process.env.VITEST ? false : 'css' })],
    }),
  ],
  // The page's content policy allows no data: fonts, so nothing is inlined.
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 800 },
  server: { proxy: { '/api': 'http://127.0.0.1:8300' } },
  // A busy machine may be ten times slower than this one; only a test that hangs is to fail.
  test: { environment: 'happy-dom', include: ['src/**/*.test.ts'], testTimeout: 60_000, hookTimeout: 60_000 },
})
