import type { Sheet } from "../sheet/read-sheet";
import type { TableSpec } from "../sheet/schema-tables";

const listed = (names: string | readonly string[] | undefined): readonly string[] =>
  typeof names === "string" ? [names] : (names ?? []);

/** Tables that a table is made from, looks up in or stacks. */
const namedByTable = ({ from, steps = [] }: TableSpec): string[] => [
  ...listed(from),
  ...steps.flatMap(({ join, stack }) => [...(join ? [join.table] : []), ...listed(stack)]),
];

/** Tables of which the pieces, controls, links and editions of a sheet speak. */
function namedBySheet({ charts, notes, controls, links, editions }: Sheet): string[] {
  const ofCharts = [...charts.values()].flatMap(({ from, layers = [], map }) => [
    from,
    ...layers.flatMap((layer) => listed(layer.from)),
    ...listed(map?.under),
  ]);
  const ofControls = [...controls.values()].flatMap(({ from, to, of }) => [
    ...listed(from),
    ...listed(to),
    // A setting may stand for a table.
    ...(typeof of === "string"
      ? listed(/^\s*\w+\(\s*(\w+)/.exec(of)?.[1])
      : Array.isArray(of)
        ? of
        : Object.keys(of ?? {})),
  ]);
  const ofLinks = links.flatMap(({ sentence }) => (sentence.type === "cross-filter" ? [sentence.table.name] : []));
  const ofEditions = listed(editions && /^(\w+)\./.exec(editions.by)?.[1]);
  return [
    ...ofCharts,
    ...[...notes.values()].flatMap(({ from }) => listed(from)),
    ...ofControls,
    ...ofLinks,
    ...ofEditions,
  ];
}

/** Tables of which sheets speak that use one another, and those that these are made from. */
export function tablesNamed(sheets: readonly Sheet[]): Set<string> {
  const specs = new Map(sheets.flatMap(({ tables }) => [...tables]));
  const named = new Set<string>();
  const waiting = sheets.flatMap(namedBySheet);
  for (let name = waiting.pop(); name !== undefined; name = waiting.pop()) {
    if (named.has(name)) continue;
    named.add(name);
    const spec = specs.get(name);
    if (spec) waiting.push(...namedByTable(spec));
  }
  return named;
}
