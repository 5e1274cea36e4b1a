import { type FSWatcher, watch as watchPath } from "node:fs";
import { createServer, type ServerResponse } from "node:http";
import { dirname, resolve } from "node:path";
import { prepareFiles } from "../core/compile/prepare";
import { buildDashboard } from "../core/dashboard/build";
import { scriptFor } from "../core/dashboard/parts";
import { lineOf } from "../core/finding/place";
import { type BuildOptions, viewerKit } from "./build";
import { openSheet } from "./files";
import { tell } from "./report";

export interface WatchOptions extends Pick<BuildOptions, "also"> {
  port?: string;
}

/** Savings follow one another; one build is enough for them. */
const QUIET_MILLISECONDS = 150;

/** The page around the dashboard: it loads it anew after each build, in the state in which its reader had it. */
const SHELL = `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>still watch</title><style>
html,body{margin:0;height:100%}body{display:flex;flex-direction:column;font:13px/1.5 system-ui,sans-serif;background:#f7f4ec;color:#15302d}
iframe{flex:1;border:0;width:100%}#findings{margin:0;padding:0 22px;max-height:30vh;overflow:auto;white-space:pre-wrap;border-bottom:1px solid #d8d1bf}
#findings:empty{border:0}</style></head><body><pre id="findings" role="status"></pre><iframe title="The dashboard" src="/dashboard.html"></iframe><script>
const frame = document.querySelector("iframe"), findings = document.getElementById("findings");
new EventSource("/events").onmessage = ({ data }) => {
  const { said, written } = JSON.parse(data);
  findings.textContent = said;
  if (!written) return;
  const { hash } = frame.contentWindow.location;
  frame.contentWindow.location.replace("/dashboard.html?" + Date.now() + hash);
};
</script></body></html>`;

/**
 * `still watch`: builds at every save of the sheet or of what it reads, and serves the dashboard on this
 * machine alone. Findings stand over it and in the terminal; while an error stands the last good one stays.
 */
export async function watch(path: string, options: WatchOptions): Promise<void> {
  const viewer = scriptFor(viewerKit());
  const readers = new Set<ServerResponse>();
  let html = "<!doctype html><title>still watch</title><p>nothing is built yet";
  let said = "";
  const watchers = new Map<string, FSWatcher>();
  const rebuild = async () => {
    const disk = openSheet(path, options.also);
    const built = buildDashboard({ ...disk, sheet: await prepareFiles(disk) }, { viewer });
    if (built.html !== undefined) html = built.html;
    said = built.findings.map((finding) => lineOf(finding, path, disk.text)).join("\n");
    tell([{ path, text: disk.text, findings: built.findings }], {});
    process.stderr.write(
      `${new Date().toTimeString().slice(0, 8)} ${built.html === undefined ? "not built" : "built"}\n`,
    );
    const event = JSON.stringify({ said, written: built.html !== undefined });
    for (const reader of readers) reader.write(`data: ${event}\n\n`);
    for (const folder of new Set([...disk.taken].map((file) => dirname(resolve(file))))) follow(folder);
  };
  let timer: ReturnType<typeof setTimeout> | undefined;
  const later = () => {
    clearTimeout(timer);
    timer = setTimeout(() => {
      // A file in the middle of being saved may be away for a moment; the next event builds again.
      rebuild().catch((fault: unknown) => process.stderr.write(`${String(fault)}\n`));
    }, QUIET_MILLISECONDS);
  };
  const follow = (folder: string) => {
    if (!watchers.has(folder)) watchers.set(folder, watchPath(folder, later));
  };
  follow(dirname(resolve(path)));
  await rebuild();
  const server = createServer((request, response) => {
    const { pathname } = new URL(request.url ?? "/", "http://localhost");
    if (pathname === "/events") {
      response.writeHead(200, { "content-type": "text/event-stream", "cache-control": "no-store" });
      response.write(`data: ${JSON.stringify({ said, written: false })}\n\n`);
      readers.add(response);
      request.on("close", () => readers.delete(response));
      return;
    }
    const isDashboard = pathname === "/dashboard.html";
    response.writeHead(isDashboard || pathname === "/" ? 200 : 404, {
      "content-type": "text/html; charset=utf-8",
      "cache-control": "no-store",
    });
    response.end(isDashboard ? html : pathname === "/" ? SHELL : "");
  });
  const port = Number(options.port ?? 4100);
  await new Promise<void>((listening, failed) => {
    server.once("error", failed);
    server.listen(port, "127.0.0.1", listening);
  });
  process.stderr.write(`http://localhost:${port}/ follows ${path}; Ctrl+C ends it\n`);
}
