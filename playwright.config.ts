import { defineConfig } from "@playwright/test";
import { CHROMIUM } from "./tools/chromium";

export default defineConfig({
  testDir: "e2e",
  outputDir: ".build/e2e",
  // Far above what a step takes: a slow machine is not a failure.
  timeout: 240_000,
  expect: { timeout: 60_000 },
  workers: 3,
  fullyParallel: true,
  reporter: [["list"], ["json", { outputFile: process.env.STILL_E2E_REPORT ?? ".build/e2e.json" }]],
  // A million rows take the whole machine: those tests are not run beside others.
  projects: [
    { name: "side by side", testIgnore: "million.spec.ts" },
    { name: "alone", testMatch: "million.spec.ts", workers: 1 },
  ],
  globalSetup: "./e2e/prepare.ts",
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: CHROMIUM,
  },
  webServer: {
    command: "npx next start -p 3411 -H 127.0.0.1",
    url: "http://127.0.0.1:3411/",
    reuseExistingServer: false,
    timeout: 60_000,
  },
});
