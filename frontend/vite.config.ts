import vue from "@vitejs/plugin-vue";
import { fileURLToPath, URL } from "node:url";
import vuetify from "vite-plugin-vuetify";
import { defineConfig } from "vitest/config";

const api = `http://127.0.0.1:${process.env.API_PORT ?? "8000"}`;

export default defineConfig(({ command }) => ({
  // The server gives out the build under /static/.
  base: command === "build" ? "/static/" : "/",
  plugins: [vue(), vuetify({ autoImport: true })],
  resolve: { alias: { "@": fileURLToPath(new URL("./src", import.meta.url)) } },
  build: { target: "es2022", assetsInlineLimit: 0, modulePreload: { polyfill: false } },
  server: { proxy: { "/api": { target: api, changeOrigin: false } } },
  test: {
    environment: "happy-dom",
    server: { deps: { inline: ["vuetify"] } },
    include: ["src/**/*.spec.ts"],
  },
}));
