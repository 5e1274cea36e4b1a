import { leadingLayer } from "../chart/leading";
import type { PartName } from "../chart/part-names";
import { type ChartPlan, LEGEND_PLACES } from "../chart/plan";
import type { Compiled } from "../compile/compile";
import type { TextEdit } from "../finding/finding";
import { printFormula } from "../formula/print";
import type { Formula } from "../formula/tree";
import type { AxisName } from "../mark/mark";
import type { Channel } from "../query/query";
import { withUnit } from "../query/write";
import { PALETTE_NAMES, RAMP_NAMES } from "../scene/theme";
import { documentOf, nodeAt, removeValue, type SheetValue, setValue } from "../sheet/edit/edit";
import type { Path } from "../sheet/tree";
import { GRAINS } from "../table/calendar";

export interface PartChoice {
  says: string;
  /** It stands so at the moment. */
  isNow: boolean;
  edits: TextEdit[];
}

/** One thing of a part, and what it can be. */
export interface PartGroup {
  name: string;
  choices: PartChoice[];
}

export interface PicturePart {
  part: PartName;
  /** What stands there now, in words. */
  words: string;
  groups: PartGroup[];
}

/** A choice before it is known what it changes in the text: a value at a path, or nothing there. */
interface Wanted {
  says: string;
  isNow: boolean;
  path: Path;
  value: SheetValue | undefined;
}

/** The few choices of each part of a chart, every one as an edit of the sheet; none for what has no axes. */
export function picturePartsOf({ plan, sheet }: Compiled, name: string): PicturePart[] {
  const piece = plan.pieces.find((one) => one.name === name);
  if (piece?.plan.type !== "chart" || piece.plan.variants) return [];
  const chart = piece.plan;
  const { text } = sheet.source;
  const writing = new Writing(text, name);
  const parts: PicturePart[] = [
    {
      part: "title",
      words: piece.words.title,
      groups: writing.groups({
        title: [
          { says: "shown", isNow: !writing.has(["title"], "none"), path: ["title"], value: undefined },
          { says: "none", isNow: writing.has(["title"], "none"), path: ["title"], value: "none" },
        ],
      }),
    },
  ];
  for (const axis of ["x", "y"] as const) {
    const channel = leadingLayer(chart).query.channels[axis];
    if (channel && chart.axes[axis])
      parts.push({
        part: axis,
        words: wordsOf(channel),
        groups: writing.groups(axisChoices(chart, axis, channel, writing)),
      });
  }
  const color = chart.layers.map(({ query }) => query.channels.color).find(Boolean);
  if (color)
    parts.push({ part: "color", words: wordsOf(color), groups: writing.groups(colorChoices(chart, color, writing)) });
  parts.push({
    part: "marks",
    words: [...new Set(chart.layers.map(({ draw }) => draw))].join(", "),
    groups: writing.groups(markChoices(chart, writing)),
  });
  return parts.filter(({ groups }) => groups.length > 0);
}

const wordsOf = ({ label, unit }: Channel): string => withUnit(label, unit);

/** Writes choices of one chart into its sheet. */
class Writing {
  private readonly root;

  constructor(
    private readonly text: string,
    private readonly chart: string,
  ) {
    this.root = documentOf(text).contents;
  }

  /** The path of a key of the chart. */
  private whole = (path: Path): Path => ["charts", this.chart, ...path];

  has(path: Path, value: SheetValue): boolean {
    const node = nodeAt(this.root, this.whole(path)) as { value?: unknown } | null | undefined;
    return node?.value === value;
  }

  isThere = (path: Path): boolean => nodeAt(this.root, this.whole(path)) !== undefined;

  /** Where a channel's formula is written: at the chart, or at its first layer. */
  channel(name: string): Path | undefined {
    return [[name], ["layers", 0, name]].find((path) => this.isThere(path));
  }

  groups(wanted: Record<string, Wanted[]>): PartGroup[] {
    return Object.entries(wanted).flatMap(([name, choices]): PartGroup[] => {
      const written = choices.flatMap(({ says, isNow, path, value }): PartChoice[] => {
        const at = this.whole(path);
        // What stands so already is left as the author wrote it.
        const isWritten = isNow || (value === undefined && !this.isThere(path));
        const edits = isWritten
          ? []
          : value === undefined
            ? removeValue(this.text, at)
            : setValue(this.text, at, value);
        return edits ? [{ says, isNow, edits }] : [];
      });
      return written.length > 1 ? [{ name, choices: written }] : [];
    });
  }
}

/** Which way an axis runs: numbers towards an end, categories from one. */
const RUNS = { x: ["to the right", "to the left"], y: ["upwards", "downwards"] } as const;
const BEGINS = { x: ["from the left", "from the right"], y: ["from the top", "from the bottom"] } as const;

/** How a measure can be summed up. */
const SUMS = ["sum", "mean", "median", "min", "max"] as const;
const BINS = [10, 20, 40, 80] as const;

function axisChoices(chart: ChartPlan, axis: AxisName, channel: Channel, writing: Writing): Record<string, Wanted[]> {
  const own = chart.axes[axis];
  const wanted: Record<string, Wanted[]> = {};
  if (!own) return wanted;
  const looks = (key: string, options: [says: string, value: SheetValue, isNow: boolean][]): Wanted[] =>
    options.map(([says, value, isNow]) => ({ says, isNow, path: ["axes", axis, key], value }));
  if (own.scale === "category") wanted.order = orderChoices(chart, axis);
  else if (own.kind === "number" || own.kind === "duration") {
    wanted.scale = looks(
      "scale",
      (["linear", "log", "sqrt", "symlog"] as const).map((scale) => [scale, scale, own.scale === scale]),
    );
    if (own.measure && own.scale === "linear")
      wanted.begins = looks("from_zero", [
        ["at zero", true, own.fromZero],
        ["where the values begin", false, !own.fromZero],
      ]);
  }
  Object.assign(wanted, formulaChoices(axis, channel, writing));
  const [forth, back] = own.scale === "category" ? BEGINS[axis] : RUNS[axis];
  wanted.runs = looks("reverse", [
    [forth, false, !own.reverse],
    [back, true, own.reverse],
  ]);
  return wanted;
}

/** Grain, number of bins, and how a measure is summed up: a word of the formula itself. */
function formulaChoices(axis: AxisName, { formula, interval }: Channel, writing: Writing): Record<string, Wanted[]> {
  const path = writing.channel(axis);
  if (!path || formula.type !== "call") return {};
  const to = (says: string, other: Formula): Wanted => ({
    says,
    isNow: printFormula(other) === printFormula(formula),
    path,
    value: printFormula(other),
  });
  if (interval?.type === "period" && typeof interval.grain === "string")
    return { grain: GRAINS.map((grain) => to(grain, { ...formula, name: `by_${grain}` })) };
  if (interval?.type === "bin" && interval.count.type === "number") {
    const [of] = formula.arguments;
    const counts = [...new Set([...BINS, interval.count.value])].sort((a, b) => a - b);
    return {
      bins: counts.map((value) =>
        to(String(value), { ...formula, arguments: [of as Formula, { type: "number", value }] }),
      ),
    };
  }
  const isSum = (SUMS as readonly string[]).includes(formula.name);
  return isSum ? { "summed up by": SUMS.map((name) => to(name, { ...formula, name })) } : {};
}

/** Categories by name, or by what the other axis measures. */
function orderChoices(chart: ChartPlan, axis: AxisName): Wanted[] {
  const measure = leadingLayer(chart).query.channels[axis === "x" ? "y" : "x"];
  const sort = chart.sort[axis];
  const by = sort && "by" in sort ? sort : undefined;
  const path = ["sort", axis];
  const plain: Wanted = { says: "by name", isNow: sort === undefined, path, value: undefined };
  if (!measure?.aggregate) return [plain];
  const isBy = by?.by.text === measure.text;
  return [
    { says: "largest first", isNow: isBy && by?.descending === true, path, value: `-${measure.text}` },
    { says: "smallest first", isNow: isBy && by?.descending === false, path, value: measure.text },
    plain,
  ];
}

function colorChoices({ legend }: ChartPlan, { kind }: Channel, writing: Writing): Record<string, Wanted[]> {
  const names = kind === "text" || kind === "boolean" ? PALETTE_NAMES : RAMP_NAMES;
  const isNamed = writing.isThere(["colors"]);
  return {
    colours: [
      { says: "the house's own", isNow: !isNamed, path: ["colors"], value: undefined },
      ...names.map(
        (name): Wanted => ({ says: name, isNow: writing.has(["colors"], name), path: ["colors"], value: name }),
      ),
    ],
    "legend stands": LEGEND_PLACES.map(
      (at): Wanted => ({ says: at.replaceAll("_", " "), isNow: legend.at === at, path: ["legend", "at"], value: at }),
    ),
    "an entry, pressed,": (["remove", "fade", "nothing"] as const).map(
      (press): Wanted => ({
        says: { remove: "takes its marks away", fade: "makes them faint", nothing: "does nothing" }[press],
        isNow: legend.press === press,
        path: ["legend", "press"],
        value: press,
      }),
    ),
  };
}

const PLAIN_MARKS = ["bars", "line", "area", "points"] as const;

function markChoices({ layers, layered, stage, stacking }: ChartPlan, writing: Writing): Record<string, Wanted[]> {
  const [first] = layers;
  if (!first || layered || stage !== "plane") return {};
  const { channels } = first.query;
  const isPlain = (PLAIN_MARKS as readonly string[]).includes(first.draw) && channels.x && channels.y;
  const stacks = first.draw === "area" ? ["off", "sum", "percent", "stream"] : ["off", "sum", "percent", "beside"];
  const isStacked = channels.color !== undefined && (first.draw === "bars" || first.draw === "area");
  return {
    ...(isPlain && writing.isThere(["draw"])
      ? {
          drawn: PLAIN_MARKS.map(
            (draw): Wanted => ({ says: draw, isNow: first.draw === draw, path: ["draw"], value: draw }),
          ),
        }
      : {}),
    ...(isStacked
      ? {
          stacked: stacks.map(
            (name): Wanted => ({ says: name, isNow: stacking === name, path: ["stacking"], value: name }),
          ),
        }
      : {}),
  };
}
