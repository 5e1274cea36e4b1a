"use client";

import { createGlobalStyle } from "styled-components";
import { TOKENS, WORKBENCH_TOKENS } from "../core/scene/theme";

const tokens = (ground: "light" | "dark") =>
  Object.entries({ ...TOKENS[ground], ...WORKBENCH_TOKENS[ground] })
    .map(([name, color]) => `--${name}: ${color};`)
    .join("");

export const GlobalStyle = createGlobalStyle`
  :root { color-scheme: light; ${tokens("light")} --sans: "Source Sans 3", system-ui, sans-serif; --serif: "Source Serif 4", Georgia, serif; --code: "Source Code Pro", ui-monospace, monospace; }
  :root[data-ground="dark"] { color-scheme: dark; ${tokens("dark")} }
  *, *::before, *::after { box-sizing: border-box; }
  html, body { height: 100%; margin: 0; }
  body { background: var(--ground); color: var(--ink); font: 13px/1.45 var(--sans); font-variant-numeric: tabular-nums; }
  h1, h2, h3, p, ul, ol { margin: 0; padding: 0; }
  button, input, select { font: inherit; color: inherit; font-variant-numeric: inherit; }
  .sr { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); white-space: nowrap; }
  .dragging iframe { pointer-events: none; }
  :focus-visible { outline: 2px solid var(--sea); outline-offset: 2px; }
`;
