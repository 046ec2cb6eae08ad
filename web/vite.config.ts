import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

export default defineConfig({
  plugins: [
    react(),
    tailwind(),
    // Each build has a name of its own, by which an open page knows that the server has another.
    {
      name: 'release',
      transformIndexHtml: () => [
        { tag: 'meta', attrs: { name: 'release', content: Date.now().toString(36) }, injectTo: 'head' },
      ],
    },
    // The page can be installed, opens without the server, and then shows what was last read; entries wait in the outbox.
    VitePWA({
      // Registered by src/shell/release.ts.
      registerType: 'prompt',
      injectRegister: null,
      includeAssets: ['icon.svg'],
      manifest: {
        name: 'Wunsch',
        short_name: 'Wunsch',
        description: 'A logbook for people who make chocolate from the bean.',
        display: 'standalone',
        start_url: '/',
        background_color: '#eaeeee',
        theme_color: '#4a1d42',
        icons: [
          { src: 'icon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' },
          { src: 'icon-maskable.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'maskable' },
        ],
      },
      workbox: {
        globPatterns: ['**/*.{js,css,html,svg,woff2}'],
        maximumFileSizeToCacheInBytes: 4_000_000,
        navigateFallback: null,
        // Or the stored page would answer for the first address.
        directoryIndex: null,
        runtimeCaching: [
          {
            // The page comes from the server, so that an upgrade is seen; what is stored stands in while it is away.
            urlPattern: ({ request, url }) => request.mode === 'navigate' && !/\/api\//.test(url.pathname),
            handler: 'NetworkFirst',
            options: {
              networkTimeoutSeconds: 3,
              cacheName: 'page',
              plugins: [
                {
                  // Only what is stored together with all its parts may stand in.
                  cacheWillUpdate: async () => null,
                  cachedResponseWillBeUsed: () => caches.match('/index.html', { ignoreSearch: true }),
                  fetchDidSucceed: async ({ response }) => {
                    if (response.status >= 500) throw new Error('the server is away');
                    return response;
                  },
                },
              ],
            },
          },
          {
            // What the Bench, a batch and the stations are drawn from. The network is asked first, always.
            urlPattern:
              /\/api\/(session|bench|batches|lots|stock|machines|ingredients|recipes|roasts)(\/|\?|$)/,
            handler: 'NetworkFirst',
            options: {
              cacheName: 'last-read',
              expiration: { maxEntries: 60, maxAgeSeconds: 3 * 86_400 },
              cacheableResponse: { statuses: [200] },
            },
          },
        ],
      },
    }),
  ],
  build: {
    target: 'es2023',
    sourcemap: false,
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 700,
    modulePreload: { polyfill: false },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:4310' } },
});
