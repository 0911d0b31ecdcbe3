import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

// Vitest reads its part of this, too.
export default defineConfig({
  plugins: [react()],
  // make dev: the pages from here, everything they ask for from the program.
  server: { host: "127.0.0.1", port: 7190, strictPort: true, proxy: { "/api": "http://127.0.0.1:7180", "^/$": "http://127.0.0.1:7180" } },
  build: { outDir: "dist/app", emptyOutDir: true, assetsInlineLimit: 0, chunkSizeWarningLimit: 1500 },
  test: {
    environment: "jsdom",
    environmentOptions: { jsdom: { url: "http://cobrik.test/hollowbeck/" } },
    include: ["{src,preview}/**/*.test.{ts,tsx}"],
    setupFiles: ["src/test-setup.ts"],
    css: { include: /theme\.css/ },
  },
});
