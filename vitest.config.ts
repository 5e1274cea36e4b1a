import { defineConfig } from "vitest/config";

const shared = { environment: "node", testTimeout: 30_000, setupFiles: ["src/core/testing/seeds.ts"] };

export default defineConfig({
  test: {
    // Unsaid, of two cores only one would be used.
    maxWorkers: 2,
    projects: [
      // Pure code keeps nothing from file to file: its modules are loaded once for many of them.
      {
        test: {
          ...shared,
          name: "core",
          include: ["src/core/**/*.test.ts", "src/viewer/**/*.test.ts", "examples/make/*.test.ts"],
          isolate: false,
        },
      },
      { test: { ...shared, name: "around", include: ["src/{workbench,server}/**/*.test.ts"] } },
    ],
  },
});
