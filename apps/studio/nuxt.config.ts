import tailwindcss from '@tailwindcss/vite'

/** Isolation lets threads share memory; the rest keeps other sites out. */
const HEADERS = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
  'Cross-Origin-Resource-Policy': 'same-origin',
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'no-referrer',
}

export default defineNuxtConfig({
  compatibilityDate: '2026-01-01',
  ssr: false,
  modules: ['@pinia/nuxt'],
  css: ['~/assets/main.css'],
  telemetry: { enabled: false },
  devtools: { enabled: false },
  sourcemap: false,
  components: [{ path: '~/features', pathPrefix: false, pattern: '**/*.vue' }],
  app: {
    head: {
      title: 'Dusk Reel',
      htmlAttrs: { lang: 'en' },
      meta: [{ name: 'viewport', content: 'width=device-width, initial-scale=1' }],
      link: [{ rel: 'icon', type: 'image/svg+xml', href: '/lantern.svg' }],
    },
  },
  routeRules: { '/**': { headers: HEADERS } },
  nitro: { experimental: { websocket: true }, sourceMap: false },
  typescript: {
    strict: true,
    tsConfig: {
      compilerOptions: {
        noUncheckedIndexedAccess: true,
        lib: ['ES2023', 'ES2024.String', 'DOM', 'DOM.Iterable', 'WebWorker'],
      },
    },
  },
  // Without server rendering Nuxt 4.4 still looks for a server entry in development and stops when there is none.
  $development: {
    vite: { environments: { ssr: { build: { rollupOptions: { input: { server: 'nuxt/dist/app/entry' } } } } } },
  },
  vite: {
    plugins: [tailwindcss()],
    worker: { format: 'es' },
    server: { headers: HEADERS },
    // Nothing is written into the page as a data address: the policy allows files only.
    build: { target: 'es2023', assetsInlineLimit: 0 },
    // All dependencies are found before the first page, so development never reloads it for one found late.
    optimizeDeps: {
      entries: ['**/*.vue', '**/*.ts'],
      exclude: ['@lucide/vue'],
    },
  },
})
