import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { brotliCompressSync, gzipSync } from 'node:zlib'
import vue from '@vitejs/plugin-vue'
import subsetFont from 'subset-font'
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers'
import Components from 'unplugin-vue-components/vite'
import { VitePWA } from 'vite-plugin-pwa'
import type { Plugin } from 'vite'
import { defineConfig } from 'vitest/config'

/** What is built is packed once, for the server to send as it is. */
function packed(): Plugin {
  let folder = ''
  return {
    name: 'packed',
    apply: 'build',
    configResolved: (config) => {
      folder = join(config.build.outDir, 'assets')
    },
    closeBundle: () => {
      for (const name of readdirSync(folder).filter((one) => /\.(js|css)$/.test(one))) {
        const whole = readFileSync(join(folder, name))
        writeFileSync(join(folder, `${name}.br`), brotliCompressSync(whole))
        writeFileSync(join(folder, `${name}.gz`), gzipSync(whole, { level: 9 }))
      }
    },
  }
}

/** Signs that the application itself writes and its text face lacks; of two big files only these go along. */
const SIGNS = { latin: 'µ', math: '←→↑↓−≤≥≈' }
for (const [file, letters] of Object.entries(SIGNS)) {
  const whole = readFileSync(
    `node_modules/@fontsource-variable/open-sans/files/open-sans-${file}-wght-normal.woff2`,
  )
  mkdirSync('made', { recursive: true })
  writeFileSync(`made/signs-${file}.woff2`, await subsetFont(whole, letters, { targetFormat: 'woff2' }))
}

export default defineConfig({
  plugins: [
    vue(),
    packed(),
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
        globIgnores: ['**/open-sans-*'], // letters that somebody may type; fetched when they are
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
  test: {
    environment: 'happy-dom',
    isolate: false,
    setupFiles: ['src/test-setup.ts'],
    include: ['src/**/*.test.ts'],
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
})
