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
