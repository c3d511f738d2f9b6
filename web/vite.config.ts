import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  base: "/static/",
  plugins: [react()],
  build: { outDir: "dist", emptyOutDir: true, assetsInlineLimit: 0, sourcemap: false },
  css: {
    preprocessorOptions: {
      scss: {
        quietDeps: true,
        silenceDeprecations: ["import", "global-builtin", "color-functions", "if-function"],
      },
    },
  },
  // How long a test may take says nothing of it on a machine that does other work beside: only what hangs is ended.
  test: {
    testTimeout: 120_000,
    hookTimeout: 120_000,
    maxWorkers: 1,
    setupFiles: ["src/base/test-setup.ts"],
  },
});
