import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

export default defineConfig({
  base: "/static/",
  plugins: [
    react(),
    tailwindcss(),
    // the shell, kept by the browser for where there is no network; registered by the places that need it (features/build/offline.ts)
    VitePWA({
      strategies: "injectManifest",
      srcDir: "src",
      filename: "sw.ts",
      injectRegister: false,
      // the worker stands at the root, what it keeps below /static/
      injectManifest: {
        modifyURLPrefix: { "": "/static/" },
        globPatterns: ["**/*.{js,css,html,svg,png,woff2}"], maximumFileSizeToCacheInBytes: 4_000_000,
      },
      manifest: {
        name: "Varistrat",
        short_name: "Varistrat",
        description: "Pattern-welded and laminated blades, from the blade back to the bars and on to the log of the work.",
        start_url: "/book",
        scope: "/",
        display: "standalone",
        background_color: "#171614",
        theme_color: "#171614",
        icons: [
          { src: "mark-192.png", sizes: "192x192", type: "image/png" },
          { src: "mark-512.png", sizes: "512x512", type: "image/png" },
          { src: "mark.svg", sizes: "any", type: "image/svg+xml" },
        ],
      },
    }),
  ],
  build: { outDir: "dist", manifest: true, target: "es2022", chunkSizeWarningLimit: 900 },
  server: { proxy: { "/api": "http://127.0.0.1:8000" } },
});
