import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    environment: "jsdom",
    include: ["src/**/*.test.{ts,tsx}"],
    // A class is called in a test as it is called in its module.
    css: { include: [/\.module\.scss$/], modules: { classNameStrategy: "non-scoped" } },
  },
});
