import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { firstDeskAtOnce, keptOnTheDevice } from "./release";

export default defineConfig({
  plugins: [react(), firstDeskAtOnce(), keptOnTheDevice()],
  build: { target: "es2022", chunkSizeWarningLimit: 1200 },
  server: { proxy: { "/api": "http://127.0.0.1:8140" } },
});
