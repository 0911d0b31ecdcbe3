import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

// What a catalogue without a server is made of: classic scripts and style sheets that hold their fonts, for pages opened
// from a folder load no modules, and no fonts of other files.
const runner = process.env.COBRIK_SITE === "runner";

export default defineConfig({
  base: "./",
  publicDir: false,
  plugins: runner ? [] : [react()],
  define: { "process.env.NODE_ENV": '"production"' },
  build: {
    outDir: "dist/site",
    emptyOutDir: !runner,
    assetsInlineLimit: 1 << 22,
    modulePreload: false,
    cssCodeSplit: false,
    chunkSizeWarningLimit: 3000,
    rolldownOptions: {
      input: runner ? "preview/runner.tsx" : "src/site/site.tsx",
      output: {
        format: "iife",
        name: "cobrikSite",
        entryFileNames: runner ? "runner.js" : "site.js",
        assetFileNames: runner ? "runner[extname]" : "site[extname]",
      },
    },
  },
});
