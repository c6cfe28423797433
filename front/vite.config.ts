import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { firstDeskAtOnce, keptOnTheDevice } from "./release";

export default defineConfig({
  plugins: [react(), firstDeskAtOnce(), keptOnTheDevice()],
  build: {
    target: "es2022",
    chunkSizeWarningLimit: 1200,
    // what is not ours, by name: it changes seldom, and a release of ours leaves it on the device
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            { name: "react", test: /node_modules\/(react|react-dom|scheduler)\// },
            { name: "router-and-queries", test: /node_modules\/(react-router|@tanstack)\// },
            { name: "controls", test: /node_modules\/(@?react-aria|@?react-stately|@internationalized|react-aria-components)/, minShareCount: 6 },
            { name: "styles", test: /node_modules\/(styled-components|stylis|@emotion)\// },
          ],
        },
      },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8140" } },
});
