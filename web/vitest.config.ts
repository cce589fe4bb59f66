import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["src/**/*.test.ts"],
    environment: "node",
    setupFiles: ["src/testing.ts"],
    watch: false,
    // What is tested keeps nothing between two files; a fresh world for each takes three times as long as all of them.
    isolate: false,
  },
});
