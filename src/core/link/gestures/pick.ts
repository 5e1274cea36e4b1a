import { type GestureSpec, keyBasis, needsChart, pickBasis } from "./gesture";

export const click = {
  name: "click",
  says: "The rows behind a mark; Shift adds, again takes away.",
  kept: true,
  suffix: "",
  basis: pickBasis,
} as const satisfies GestureSpec;

export const hover = {
  name: "hover",
  says: "What is under the pointer, as long as it is there.",
  kept: false,
  suffix: ".hover",
  basis: pickBasis,
} as const satisfies GestureSpec;

export const rows = {
  name: "rows",
  says: "Rows picked in a data table.",
  kept: true,
  suffix: "",
  basis: (piece, layer) =>
    piece.plan.type === "chart"
      ? { problem: `rows are picked in data tables; ${piece.name} is a chart` }
      : pickBasis(piece, layer),
} as const satisfies GestureSpec;

export const hoverX = {
  name: "hover x",
  says: "The rows at the nearest x, as long as the pointer is there.",
  kept: false,
  suffix: ".hover",
  basis: (piece, layer) => {
    const problem = needsChart(piece);
    if (problem !== undefined) return { problem };
    const x = layer?.query.channels.x;
    return x ? keyBasis([x]) : { problem: `${piece.name} has nothing on x` };
  },
} as const satisfies GestureSpec;

export const legend = {
  name: "legend",
  says: "The entries of the legend that are left on.",
  kept: true,
  suffix: ".legend",
  basis: (piece, layer) => {
    const problem = needsChart(piece);
    if (problem !== undefined) return { problem };
    const color = layer?.query.channels.color;
    return color ? keyBasis([color]) : { problem: `${piece.name} has no legend; a color: makes one` };
  },
} as const satisfies GestureSpec;
