import { defineConfig } from "@playwright/test";

/** Debian's Chromium, never a browser of the package's own. */
export default defineConfig({
  testDir: "e2e",
  outputDir: ".build/e2e",
  timeout: 120_000,
  expect: { timeout: 20_000 },
  workers: 2,
  fullyParallel: true,
  reporter: [["list"], ["json", { outputFile: ".build/e2e.json" }]],
  globalSetup: "./e2e/prepare.ts",
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
  webServer: {
    command: "npx next start -p 3411 -H 127.0.0.1",
    url: "http://127.0.0.1:3411/",
    reuseExistingServer: false,
    timeout: 60_000,
  },
});
