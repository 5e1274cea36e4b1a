/** Pictures by the names that the trade has for them: the mark, and what makes that picture of it. */
const PICTURES: Record<string, { meant: string; says: string }> = {
  histogram: { meant: "bars", says: "a histogram is bars over x: bin(COLUMN, 20) and y: count()" },
  scatter: { meant: "points", says: "a scatter plot is points" },
  scatterplot: { meant: "points", says: "a scatter plot is points" },
  dots: { meant: "points", says: "dots are points" },
  pie: { meant: "slices", says: "a pie is slices" },
  donut: { meant: "slices", says: "a ring is slices with ring: 0.6" },
  doughnut: { meant: "slices", says: "a ring is slices with ring: 0.6" },
  column: { meant: "bars", says: "columns are bars with the measure in y" },
  columns: { meant: "bars", says: "columns are bars with the measure in y" },
  boxplot: { meant: "boxes", says: "box plots are boxes" },
  choropleth: { meant: "regions", says: "areas of a map by colour are regions" },
  map: { meant: "points", says: "a map is points, track or regions with lat and lon or place" },
  kpi: { meant: "figure", says: "one large number is a figure" },
  number: { meant: "figure", says: "one large number is a figure" },
  text: { meant: "labels", says: "words beside marks are labels" },
  wordcloud: { meant: "words", says: "words by their size are words" },
  path: { meant: "track", says: "a path on a map is a track" },
  regression: { meant: "trend", says: "a fitted line is a trend" },
  loess: { meant: "smooth", says: "a local regression is smooth" },
  grid: { meant: "heatmap", says: "cells by colour are a heatmap" },
  list: { meant: "table", says: "a list of rows is a table" },
};

/** What a picture is drawn by that an author knows by its trade name; nothing for any other word. */
export function tradeWord(word: string): { meant: string; says: string } | undefined {
  const plain = word.toLowerCase().replace(/[ _-]?(?:chart|plot|graph)$/, "");
  return Object.hasOwn(PICTURES, plain) ? PICTURES[plain] : undefined;
}

/** Words of lists of choices by other words that are common for them, by the key that they stand under. */
const CHOICES: Readonly<Record<string, Readonly<Record<string, readonly string[]>>>> = {
  as: {
    menu: ["dropdown", "select", "combobox", "list"],
    menus: ["multiselect", "tags", "multi_select"],
    dates: ["daterange", "date_range", "calendar", "date_picker", "datepicker"],
    radio: ["buttons", "segmented", "button_group"],
    switch: ["toggle"],
    text: ["input", "textbox"],
    stepper: ["number", "spinner"],
  },
  type: {
    text: ["string", "varchar", "char"],
    number: ["int", "integer", "float", "double", "decimal", "numeric", "real"],
    boolean: ["bool", "logical"],
    datetime: ["timestamp", "date_time", "time"],
    duration: ["interval"],
    place: ["geometry", "geo", "geojson", "geography"],
  },
  scale: {
    log: ["logarithmic", "log10"],
    linear: ["even", "continuous"],
    time: ["date"],
    category: ["categorical"],
    sqrt: ["root", "square_root"],
  },
  zoom: { none: ["false", "off"] },
  does: { reset: ["clear", "clear_all"], export: ["download", "save"], redraw: ["refresh", "rerun"] },
  ground: { dark: ["black", "night"], light: ["white", "day"], auto: ["system"] },
  stacking: {
    sum: ["true", "stack", "stacked"],
    percent: ["share", "shares"],
    beside: ["grouped", "side_by_side"],
    off: ["false", "none"],
  },
};

/** The word of a list of choices that an author means by another one that is common for it. */
export function tradeChoice(key: string, word: string, options: readonly string[]) {
  const meant = Object.entries(CHOICES[key] ?? {}).find(([, others]) => others.includes(word.toLowerCase()))?.[0];
  return meant !== undefined && options.includes(meant) ? { meant, says: undefined } : undefined;
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
  first: ["limit", "top", "head"],
  last: ["bottom", "tail"],
  add: ["calculate", "compute", "derive"],
  from: ["data", "source", "table", "dataset"],
  draw: ["mark", "chart", "type", "kind"],
  x: ["x_axis", "horizontal"],
  y: ["y_axis", "vertical"],
  panels: ["small_multiples", "small_charts"],
  color: ["colour"],
  colors: ["palette", "colours"],
  stacking: ["stack", "stacked"],
  title: ["label", "name", "heading"],
  range: ["domain", "limits", "extent"],
  from_zero: ["zero", "include_zero", "start_at_zero"],
  reverse: ["reversed", "invert", "inverted", "descending"],
  across: ["columns", "per_row", "cols"],
  at: ["position", "placement", "location"],
  page: ["name", "title"],
  pages: ["layout", "dashboard", "tabs"],
  about: ["description", "subtitle", "intro"],
  ground: ["theme", "mode", "background"],
  table: ["with", "to", "right"],
  read: ["file", "path", "url", "csv", "parse", "input_format", "date_format"],
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
