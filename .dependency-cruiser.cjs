/** The one-way street of data as rules: who may import whom. */
const inCore = (names) => `^src/core/(${names.join("|")})/`;

/** Circles are looked for without type-only imports, direction with them: see tools/check-imports.mjs. */
const circles = process.env.IMPORT_RULES === "circles";

/** Folders of core from the lowest up; each may import only those at or below its own step. */
const STEPS = [["finding"], ["table"], ["formula"], ["steps", "read", "scene", "stat"], ["query", "scale"], ["page", "link", "mark", "chart", "sheet"], ["plan"], ["model"], ["compile"], ["dashboard", "look", "advice", "project"]];

const upwards = STEPS.flatMap((folders, step) => {
  const above = STEPS.slice(step + 1).flat();
  if (above.length === 0) return [];
  return [{ name: `${folders.join("-")}-not-upwards`, severity: "error", from: { path: inCore(folders), pathNot: "\\.test\\.ts$" }, to: { path: inCore(above) } }];
});

module.exports = {
  forbidden: [
    ...(circles ? [{ name: "no-circles", severity: "error", from: {}, to: { circular: true } }] : []),
    // The page opens without what only its worker does; types cost nothing, so they may be named.
    ...(circles ? [{ name: "compiling-is-the-workers", severity: "error", from: { path: "^src/workbench/workbench" }, to: { path: "^src/core/(compile|read)/", reachable: true } }] : []),
    { name: "core-is-pure", severity: "error", from: { path: "^src/core/", pathNot: "\\.test\\.ts$" }, to: { path: "^src/(viewer|workbench|app|cli|server)/" } },
    { name: "core-without-node", severity: "error", from: { path: "^src/core/", pathNot: "\\.test\\.ts$" }, to: { dependencyTypes: ["core"] } },
    { name: "core-without-interface", severity: "error", from: { path: "^src/core/" }, to: { path: "node_modules/(react|react-dom|next|styled-components|react-aria-components|comlink)/" } },
    { name: "viewer-alone", severity: "error", from: { path: "^src/viewer/" }, to: { path: "^src/(workbench|app|cli|server)/|node_modules/(react|next|styled-components|zod|yaml|papaparse|markdown-it)" } },
    // Files are read in a dashboard only where its author lets readers put in rows of their own: a part of its own.
    { name: "viewer-takes-what-a-dashboard-needs", severity: "error", from: { path: "^src/viewer/", pathNot: "\\.test\\.ts$|^src/viewer/open/" }, to: { path: "^src/core/(sheet|read|compile|look|advice)/" } },
    { name: "opening-takes-reading-too", severity: "error", from: { path: "^src/viewer/open/" }, to: { path: "^src/core/(sheet|compile|look|advice)/" } },
    { name: "app-is-thin", severity: "error", from: { path: "^src/(core|viewer|workbench|cli|server)/" }, to: { path: "^src/app/" } },
    { name: "server-takes-core-alone", severity: "error", from: { path: "^src/server/" }, to: { path: "^src/(viewer|workbench|app|cli)/" } },
    ...upwards,
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    enhancedResolveOptions: { exportsFields: ["exports"], conditionNames: ["import", "node", "default"], extensions: [".ts", ".tsx", ".js", ".mjs"] },
  },
};
