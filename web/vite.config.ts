import vue from '@vitejs/plugin-vue'
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers'
import Components from 'unplugin-vue-components/vite'
import { VitePWA } from 'vite-plugin-pwa'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [
    vue(),
    Components({
      dirs: [],
      dts: 'components.d.ts',
      resolvers: [ElementPlusResolver({ importStyle: process.env.VITEST ? false : 'css' })],
    }),
    // The application opens while the server is away. Data are not the worker's business: readings wait in
    // IndexedDB, and /api is never answered from here. A page keeps its own files until it is closed.
    VitePWA({
      registerType: 'prompt',
      injectRegister: 'script-defer',
      includeAssets: ['mark.svg'],
      manifest: {
        name: 'Velvet Hand',
        short_name: 'Velvet Hand',
        description: 'Indicate work true, one clear move at a time.',
        theme_color: '#4c2145',
        background_color: '#f3efe7',
        display: 'standalone',
        icons: [{ src: '/mark.svg', sizes: 'any', type: 'image/svg+xml' }],
      },
      workbox: {
        globPatterns: ['**/*.{js,css,html,svg,woff2}'],
        inlineWorkboxRuntime: true,
        clientsClaim: true,
        navigateFallback: null,
        runtimeCaching: [
          {
            urlPattern: ({ request }) => request.mode === 'navigate',
            handler: 'NetworkFirst',
            options: { networkTimeoutSeconds: 3, precacheFallback: { fallbackURL: '/index.html' } },
          },
        ],
      },
    }),
  ],
  // The page's content policy allows no data: fonts, so nothing is inlined.
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 800 },
  server: { proxy: { '/api': 'http://127.0.0.1:8300' } },
  // A busy machine may be ten times slower than this one; only a test that hangs is to fail.
  test: { environment: 'happy-dom', include: ['src/**/*.test.ts'], testTimeout: 60_000, hookTimeout: 60_000 },
})
