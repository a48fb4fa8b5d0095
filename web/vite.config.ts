import { readFileSync } from 'node:fs'
import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig, type Plugin } from 'vite'

// The two faces under names that don't change, so that released sheets and the PDF printer find them.
function fonts(): Plugin {
  const files = {
    'fonts/text.woff2':
      'node_modules/@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2',
    'fonts/num.woff2':
      'node_modules/@fontsource-variable/jetbrains-mono/files/jetbrains-mono-latin-wght-normal.woff2',
  }
  return {
    name: 'fonts',
    generateBundle() {
      for (const [fileName, from] of Object.entries(files))
        this.emitFile({ type: 'asset', fileName, source: readFileSync(from) })
    },
  }
}

// The drawing is drawn on demand and asks no clock; the one its binding makes is deprecated by the 3D library, which says so on every page.
function plainClock(): Plugin {
  const clock =
    '({ running: false, oldTime: 0, elapsedTime: 0, start() {}, stop() {}, getDelta: () => 0, getElapsedTime: () => 0 })'
  return {
    name: 'plain-clock',
    transform: (code, id) =>
      id.includes('@react-three/fiber') && code.includes('new THREE.Clock()')
        ? { code: code.replaceAll('new THREE.Clock()', clock), map: null }
        : null,
  }
}

export default defineConfig({
  base: '/static/',
  plugins: [react(), tailwindcss(), fonts(), plainClock()],
  build: {
    outDir: '../build/web',
    emptyOutDir: true,
    chunkSizeWarningLimit: 1200,
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8000', '/s/': 'http://127.0.0.1:8000' } },
  test: { include: ['tests/**/*.test.ts'] },
} as Parameters<typeof defineConfig>[0])
