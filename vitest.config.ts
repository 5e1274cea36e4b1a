import { defineConfig } from "vitest/config";

export default defineConfig({
  test: { include: ["src/**/*.test.ts", "examples/make/*.test.ts"], environment: "node", testTimeout: 30_000, setupFiles: ["src/core/testing/seeds.ts"] },
});
