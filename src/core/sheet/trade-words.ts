/** Pictures by the names that the trade has for them: the mark, and what makes that picture of it. */
const PICTURES: Record<string, { mark: string; says: string }> = {
  histogram: { mark: "bars", says: "a histogram is bars over x: bin(COLUMN, 20) and y: count()" },
  scatter: { mark: "points", says: "a scatter plot is points" },
  scatterplot: { mark: "points", says: "a scatter plot is points" },
  dots: { mark: "points", says: "dots are points" },
  pie: { mark: "slices", says: "a pie is slices" },
  donut: { mark: "slices", says: "a ring is slices with ring: 0.6" },
  doughnut: { mark: "slices", says: "a ring is slices with ring: 0.6" },
  column: { mark: "bars", says: "columns are bars with the measure in y" },
  columns: { mark: "bars", says: "columns are bars with the measure in y" },
  boxplot: { mark: "boxes", says: "box plots are boxes" },
  choropleth: { mark: "regions", says: "areas of a map by colour are regions" },
  map: { mark: "points", says: "a map is points, track or regions with lat and lon or place" },
  kpi: { mark: "figure", says: "one large number is a figure" },
  number: { mark: "figure", says: "one large number is a figure" },
  text: { mark: "labels", says: "words beside marks are labels" },
  wordcloud: { mark: "words", says: "words by their size are words" },
  path: { mark: "track", says: "a path on a map is a track" },
  regression: { mark: "trend", says: "a fitted line is a trend" },
  loess: { mark: "smooth", says: "a local regression is smooth" },
  grid: { mark: "heatmap", says: "cells by colour are a heatmap" },
  list: { mark: "table", says: "a list of rows is a table" },
};

/** What a picture is drawn by that an author knows by its trade name; nothing for any other word. */
export function tradeWord(word: string): { mark: string; says: string } | undefined {
  const plain = word.toLowerCase().replace(/[ _-]?(?:chart|plot|graph)$/, "");
  return Object.hasOwn(PICTURES, plain) ? PICTURES[plain] : undefined;
}

/** Keys by other words that are common for what they say. */
const KEYS: Readonly<Record<string, readonly string[]>> = {
  keep: ["where", "filter", "having"],
  only: ["select"],
  drop: ["exclude", "remove", "delete"],
  unique: ["distinct", "deduplicate", "dedupe"],
  group: ["group_by", "aggregate", "summarize", "summarise"],
  join: ["lookup", "look_up", "merge", "left_join"],
  stack: ["union", "append"],
  sort: ["order_by", "sort_by"],
  first: ["limit"],
  add: ["calculate", "compute", "derive"],
  from: ["data", "source", "table", "dataset"],
  draw: ["mark", "chart", "type", "kind"],
  x: ["x_axis", "horizontal"],
  y: ["y_axis", "vertical"],
  panels: ["small_multiples", "facet", "facets"],
  color: ["fill", "hue", "colour"],
  colors: ["palette", "colours", "scheme"],
  stacking: ["stack", "stacked"],
  title: ["label", "name", "heading"],
  range: ["domain", "limits", "extent"],
  from_zero: ["zero", "include_zero", "start_at_zero"],
  reverse: ["reversed", "invert", "inverted", "descending"],
  at: ["position", "placement", "location"],
  page: ["name", "title"],
  value: ["measure", "metric"],
  top: ["limit"],
  label: ["title", "caption", "alias"],
  pick: ["filter", "column", "field"],
  as: ["type", "widget", "style"],
  start: ["default", "initial"],
  of: ["options", "choices"],
  why: ["comment", "note", "reason"],
};

/** The key that an author means by a word that is common for it, if it is one of those that are known. */
export function tradeKey(word: string, known: readonly string[]): string | undefined {
  const plain = word.toLowerCase();
  return Object.keys(KEYS).find((key) => known.includes(key) && KEYS[key]?.includes(plain));
}
