import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

export default defineConfig({
  plugins: [
    react(),
    VitePWA({
      strategies: "injectManifest",
      srcDir: "src",
      filename: "sw.ts",
      injectRegister: false,
      injectManifest: { globPatterns: ["**/*.{html,js,css,woff2}"] },
      manifest: {
        id: "/",
        name: "Vane Check",
        short_name: "Vane Check",
        description: "Test, judge and replace batteries at the counter.",
        start_url: "/counter",
        display: "standalone",
        background_color: "#f6f1e6",
        theme_color: "#f6f1e6",
        icons: [{ src: "/assets/mark.svg", sizes: "any", type: "image/svg+xml", purpose: "any" }],
      },
    }),
  ],
  build: { target: "es2022", chunkSizeWarningLimit: 1200 },
  server: { proxy: { "/api": "http://127.0.0.1:8140" } },
});
