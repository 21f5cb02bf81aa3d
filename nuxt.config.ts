import { fileURLToPath } from 'node:url'
import { defineNuxtConfig } from 'nuxt/config'
import vuetify from 'vite-plugin-vuetify'

const folder = (name: string): string => fileURLToPath(new URL(`./${name}`, import.meta.url))
const alias = Object.fromEntries(
  ['core', 'intake', 'voices', 'takes', 'reading', 'press', 'store', 'services'].map(name => [`#${name}`, folder(name)]),
)

export default defineNuxtConfig({
  compatibilityDate: '2026-01-01',
  ssr: false,
  telemetry: false,
  devtools: { enabled: false },
  modules: ['@pinia/nuxt', 'nuxt-security'],
  alias,
  nitro: { alias, publicAssets: [{ baseURL: '/demo', dir: folder('demo/files'), maxAge: 0 }], esbuild: { options: { target: 'node20' } } },
  css: ['vuetify/styles', '~/assets/main.css'],
  build: { transpile: ['vuetify'] },
  components: [{ path: '~/components', pathPrefix: false }],
  app: { head: { title: 'Orator Quill', htmlAttrs: { lang: 'en' }, link: [{ rel: 'icon', type: 'image/svg+xml', href: '/quill.svg' }] } },
  vite: {
    plugins: [vuetify({ autoImport: true })],
    build: { cssMinify: 'lightningcss', assetsInlineLimit: 0 },
    optimizeDeps: { include: ['@tiptap/core', '@tiptap/vue-3', '@mdi/js', '@vueuse/core', 'vue-draggable-plus'] },
  },
  experimental: { viteEnvironmentApi: true },
  security: {
    corsHandler: false,
    rateLimiter: false,
    requestSizeLimiter: false,
    xssValidator: false,
    headers: {
      strictTransportSecurity: false,
      crossOriginEmbedderPolicy: false,
      contentSecurityPolicy: {
        'default-src': ['\'self\''],
        'script-src': ['\'self\'', '\'nonce-{{nonce}}\''],
        'style-src': ['\'self\'', '\'unsafe-inline\''],
        'img-src': ['\'self\'', 'data:'],
        'media-src': ['\'self\'', 'blob:'],
        'connect-src': ['\'self\''],
        'font-src': ['\'self\''],
        'upgrade-insecure-requests': false,
      },
    },
  },
})
