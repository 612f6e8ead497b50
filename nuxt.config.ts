import { MAP_MEMORY } from './core/maps/plan'
import { inlineSlotsPlugin } from './scripts/inline-slots.mjs'

// Everything works without a network: no telemetry, no remote fonts, no remote icons.
const isolation = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
  'Cross-Origin-Resource-Policy': 'same-origin',
}

export default defineNuxtConfig({
  modules: ['@nuxt/ui', '@pinia/nuxt', '@nuxt/eslint'],
  ssr: false,
  components: [{ path: '~/components', pathPrefix: false }],
  devtools: { enabled: false },
  app: { head: { title: 'Wavelume', htmlAttrs: { lang: 'en' } } },
  css: ['~/assets/css/main.css'],
  ui: { fonts: false, colorMode: false },
  runtimeConfig: {
    // MiB of a page that maps may take (NUXT_PUBLIC_MAP_MEMORY)
    public: { mapMemory: MAP_MEMORY },
  },
  routeRules: {
    '/**': {
      headers: {
        ...isolation,
        'X-Content-Type-Options': 'nosniff',
        'Referrer-Policy': 'no-referrer',
        'X-Frame-Options': 'DENY',
      },
    },
    // Compiled networks become functions in the render workers, whose policy comes with their own files; pages
    // never evaluate source.
    '/_nuxt/**': { headers: { 'Content-Security-Policy': "default-src 'self'; script-src 'self' 'unsafe-eval'" } },
  },
  sourcemap: false,
  compatibilityDate: '2026-01-01',
  nitro: { preset: 'node-server', esbuild: { options: { target: 'node20' } } },
  vite: {
    plugins: [inlineSlotsPlugin()],
    worker: { format: 'es', plugins: () => [inlineSlotsPlugin()] },
    server: { headers: isolation },
    optimizeDeps: {
      include: [
        '@vue-flow/core',
        'splitpanes',
        'zod',
        'fflate',
        'fast-png',
        'jpeg-js',
        '@gltf-transform/core',
        'fast-xml-parser',
      ],
    },
  },
  // packages without types of their own that both the page and the command line use
  typescript: { strict: true, tsConfig: { include: ['../core/formats/models/*.d.ts'] } },
  telemetry: false,
  eslint: { config: { stylistic: false } },
  icon: {
    provider: 'server',
    fallbackToApi: false,
    serverBundle: { collections: ['lucide'] },
    clientBundle: {
      scan: true,
      icons: ['lucide:x', 'lucide:check', 'lucide:chevron-down', 'lucide:loader-circle'],
      sizeLimitKb: 512,
    },
  },
})
