import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

export default defineConfig({
  base: "/static/",
  plugins: [
    react(),
    tailwindcss(),
    // Keeps the page on the device. It is registered by app/worker.ts, and served from the root by the server.
    VitePWA({
      injectRegister: null,
      registerType: "autoUpdate",
      filename: "sw.js",
      manifest: {
        name: "Mattone",
        short_name: "Mattone",
        start_url: "/bake",
        scope: "/",
        display: "standalone",
        background_color: "#e6e8ea",
        theme_color: "#2b2f33",
        icons: [{ src: "/static/mark.svg", sizes: "any", type: "image/svg+xml" }],
      },
      workbox: {
        globPatterns: ["**/*.{js,css,woff2,svg}"],
        modifyURLPrefix: { "": "/static/" },
        inlineWorkboxRuntime: true,
        cleanupOutdatedCaches: true,
        navigateFallback: null,
        runtimeCaching: [
          {
            urlPattern: ({ request, url }) =>
              request.mode === "navigate" && !/^\/(api|_allauth|static|healthz)/.test(url.pathname),
            handler: "NetworkFirst",
            options: {
              cacheName: "page",
              networkTimeoutSeconds: 2,
              plugins: [
                {
                  // Every address is the same page.
                  cacheKeyWillBeUsed: () => Promise.resolve("/"),
                  // What something in between answers, such as a hotel's sign-in page, is not the page.
                  cacheWillUpdate: ({ response }) =>
                    Promise.resolve(response.ok && response.headers.has("X-Mattone") ? response : null),
                },
              ],
            },
          },
        ],
      },
    }),
  ],
  build: {
    manifest: "manifest.json",
    outDir: "dist",
    emptyOutDir: true,
    target: "es2022",
    rollupOptions: { input: "src/main.tsx" },
    assetsInlineLimit: 0,
  },
});
