import { type ChildProcess, spawn } from "node:child_process";
import type { Page } from "@playwright/test";
import { launch } from "./browser";

const PORT = 3412;
const ADDRESS = `http://127.0.0.1:${PORT}/`;

async function serve(): Promise<ChildProcess> {
  const server = spawn("npx", ["next", "start", "-p", String(PORT), "-H", "127.0.0.1"], {
    stdio: "ignore",
    detached: true,
  });
  for (let tries = 0; tries < 100; tries++) {
    const up = await fetch(ADDRESS).then(
      ({ ok }) => ok,
      () => false,
    );
    if (up) return server;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error("the workbench does not answer");
}

/** Serves the workbench while something is measured in it: each asks for pages of browsers that were never here. */
export async function withWorkbench(measure: (opened: () => Promise<Page>) => Promise<void>) {
  const server = await serve();
  const browser = await launch();
  try {
    await measure(async () => {
      const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
      const page = await context.newPage();
      await page.goto(ADDRESS);
      await page.getByText("nothing to mend").waitFor({ timeout: 120_000 });
      return page;
    });
  } finally {
    await browser.close();
    if (server.pid) process.kill(-server.pid);
  }
}
