import { defineConfig } from "vite";

// What the preview origin serves around a component: one classic script, one
// style sheet, the fonts.
export default defineConfig({
  base: "./",
  publicDir: false,
  build: {
    outDir: "dist/preview",
    emptyOutDir: true,
    assetsInlineLimit: 0,
    modulePreload: false,
    cssCodeSplit: false,
    rolldownOptions: {
      input: "preview/runner.tsx",
      output: { format: "iife", name: "cobrikRunner", entryFileNames: "runner.js", assetFileNames: "[name][extname]" },
    },
  },
});
