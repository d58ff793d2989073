import vue from "@vitejs/plugin-vue";
import { fileURLToPath, URL } from "node:url";
import vuetify from "vite-plugin-vuetify";
import { VitePWA } from "vite-plugin-pwa";
import { defineConfig } from "vitest/config";

const api = `http://127.0.0.1:${process.env.API_PORT ?? "8000"}`;

export default defineConfig(({ command }) => ({
  // The server gives out the build under /static/.
  base: command === "build" ? "/static/" : "/",
  plugins: [
    vue(),
    vuetify({ autoImport: true }),
    VitePWA({
      registerType: "prompt",
      injectRegister: false,
      // The server gives it out at the root, so that it serves every address.
      scope: "/",
      manifest: {
        name: "Strom",
        short_name: "Strom",
        description: "Marine battery systems: design, build, prove, hand over.",
        start_url: "/",
        scope: "/",
        display: "standalone",
        background_color: "#12303a",
        theme_color: "#12303a",
        icons: [
          { src: "/static/icon-192.png", sizes: "192x192", type: "image/png" },
          { src: "/static/icon-512.png", sizes: "512x512", type: "image/png" },
          { src: "/static/icon-512.png", sizes: "512x512", type: "image/png", purpose: "maskable" },
        ],
      },
      workbox: {
        inlineWorkboxRuntime: true,
        modifyURLPrefix: { "": "/static/" },
        globPatterns: ["**/*.{js,css,html,woff2,svg,png}"],
        navigateFallback: "/static/index.html",
        navigateFallbackDenylist: [/^\/api\//, /^\/static\//],
        runtimeCaching: [
          {
            urlPattern: ({ url }) => url.pathname.startsWith("/api/photos/"),
            handler: "CacheFirst",
            options: {
              cacheName: "strom-photos",
              expiration: { maxEntries: 240 },
              cacheableResponse: { statuses: [200] },
            },
          },
        ],
      },
    }),
  ],
  resolve: { alias: { "@": fileURLToPath(new URL("./src", import.meta.url)) } },
  build: { target: "es2022", assetsInlineLimit: 0, modulePreload: { polyfill: false } },
  server: { proxy: { "/api": { target: api, changeOrigin: false } } },
  test: {
    environment: "happy-dom",
    setupFiles: ["fake-indexeddb/auto"],
    server: { deps: { inline: ["vuetify"] } },
    include: ["src/**/*.spec.ts"],
  },
}));
