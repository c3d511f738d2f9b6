import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    environment: "jsdom",
    include: ["src/**/*.test.{ts,tsx}"],
    setupFiles: ["src/base/test-setup.ts"],
    // How long a test may take says nothing of it on a machine that does other work beside: only what hangs is ended.
    testTimeout: 120_000,
    hookTimeout: 120_000,
    maxWorkers: 1,
    // Files stay apart from one another, in one process: the page they stand on is made once.
    pool: "vmThreads",
    // A class is called in a test as it is called in its module.
    css: { include: [/\.module\.scss$/], modules: { classNameStrategy: "non-scoped" } },
  },
});
