export default defineNuxtConfig({ modules: ['@nuxt/ui', '@pinia/nuxt', '@nuxt/eslint'], compatibilityDate: '2026-01-01', telemetry: false, ssr: false })
