"use client";

import { createGlobalStyle } from "styled-components";
import { TOKENS } from "../core/scene/theme";

const tokens = (ground: "light" | "dark") =>
  Object.entries(TOKENS[ground])
    .map(([name, color]) => `--${name}: ${color};`)
    .join("");

export const GlobalStyle = createGlobalStyle`
  :root { color-scheme: light; ${tokens("light")} --sans: "Source Sans 3", system-ui, sans-serif; --serif: "Source Serif 4", Georgia, serif; --code: "Source Code Pro", ui-monospace, monospace; }
  *, *::before, *::after { box-sizing: border-box; }
  html, body { height: 100%; margin: 0; }
  body { background: var(--ground); color: var(--ink); font: 13px/1.45 var(--sans); font-variant-numeric: tabular-nums; }
  h1, h2, h3, p, ul, ol { margin: 0; padding: 0; }
  :focus-visible { outline: 2px solid var(--sea); outline-offset: 2px; }
`;
