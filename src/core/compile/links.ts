import type { ChartPlan, LayerPlan } from "../chart/plan";
import { listed, nearest } from "../finding/nearest";
import type { Formula } from "../formula/tree";
import type { SelectionEffect, SelectionPlan, SelectionWords } from "../link/selection";
import type { ControlPlan, PickControlPlan, PlanPiece } from "../plan/plan";
import type { Channel } from "../query/query";
import type { Gesture, LinkSentence, PlacedName } from "../sheet/link-sentence";
import type { Path } from "../sheet/tree";
import { channelOf } from "./channels";
import { ancestry, type Compiling, routeOf } from "./compiling";

interface Linking {
  compiling: Compiling;
  pieces: Map<string, PlanPiece>;
  controls: ControlPlan[];
  selections: SelectionPlan[];
  /** Selections that were named with `as`. */
  namedByAuthor: Set<string>;
}

function blame(
  linking: Linking,
  path: Path,
  word: { start: number; end: number },
  code: string,
  message: string,
  replacement?: string,
) {
  const span = linking.compiling.sheet.source.insideSpan(path, word.start, Math.max(word.end, word.start + 1));
  linking.compiling.findings.push({
    code,
    severity: "error",
    message,
    ...(span ? { span } : {}),
    ...(replacement && span ? { fix: { title: `write ${replacement}`, edits: [{ ...span, text: replacement }] } } : {}),
  });
}

/** All selections: those of controls first, then those of links. */
export function readSelections(
  compiling: Compiling,
  pieces: Map<string, PlanPiece>,
  controls: ControlPlan[],
): SelectionPlan[] {
  const linking: Linking = { compiling, pieces, controls, selections: [], namedByAuthor: new Set() };
  for (const control of controls) if (control.type === "pick") controlSelection(linking, control);
  const { links } = compiling.sheet;
  for (const { sentence, path } of links) if (sentence.type === "gesture") gestureSelection(linking, sentence, path);
  for (const { sentence, path } of links)
    if (sentence.type === "cross-filter") crossFilter(linking, sentence.table, path);
  if (linking.selections.length > 31) {
    compiling.findings.push({
      code: "too-many-selections",
      severity: "error",
      message: `this version keeps at most 31 selections and picks in one dashboard; here are ${linking.selections.length}`,
    });
  }
  return linking.selections;
}

/** Pieces drawn from a table, from one made of it or in which its rows are stacked, or from one whose rows were looked up in it. */
function dependants({ compiling, pieces }: Linking, table: string): PlanPiece[] {
  return [...pieces.values()].filter(({ plan }) => {
    if (ancestry(compiling, plan.from).includes(table)) return true;
    const route = routeOf(compiling, table, plan.from);
    return route?.stack === "into" || route?.tie?.right === table;
  });
}

function controlSelection(linking: Linking, control: PickControlPlan) {
  const { compiling } = linking;
  const spec = compiling.sheet.controls.get(control.name);
  const path = ["controls", control.name];
  const named = (key: "only" | "fade") =>
    (spec?.[key] ?? []).filter((target, at) => knownPiece(linking, target, [...path, key, at]));
  const fades = named("fade");
  const targets = spec?.only ? named("only") : dependants(linking, control.from).map(({ name }) => name);
  const effects: SelectionEffect[] = targets
    .filter((target) => !fades.includes(target))
    .map((target) => ({ effect: "filter", target }));
  for (const target of fades) effects.push({ effect: "fade", target });
  const selection: SelectionPlan = {
    name: control.name,
    source: control.name,
    gesture: "control",
    table: control.from,
    axes: control.as === "range" ? { x: control.channel.formula } : {},
    keys: control.as === "range" ? {} : { [control.channel.text]: control.channel.formula },
    ...(control.split === undefined ? {} : { split: control.split }),
    by: [],
    inclusive: true,
    effects,
    words: {
      [control.as === "range" ? "x" : control.channel.text]: { ...channelWords(control.channel), label: control.label },
    },
  };
  linking.selections.push(selection);
}

function knownPiece(linking: Linking, name: string, path: Path): boolean {
  if (linking.pieces.has(name)) return true;
  if (linking.compiling.sheet.broken.has(name)) return false;
  const near = nearest(name, linking.pieces.keys());
  const span = linking.compiling.sheet.source.valueSpan(path);
  linking.compiling.findings.push({
    code: "unknown-piece",
    severity: "error",
    message: `there is no chart "${name}"${near ? `; did you mean ${near}?` : `; charts are ${listed(linking.pieces.keys())}`}`,
    ...(span ? { span } : {}),
    ...(near && span ? { fix: { title: `write ${near}`, edits: [{ ...span, text: near }] } } : {}),
  });
  return false;
}

function placedPiece(linking: Linking, word: PlacedName, path: Path): PlanPiece | undefined {
  const name = word.name.split(".")[0] as string;
  const piece = linking.pieces.get(name);
  if (piece || linking.compiling.sheet.broken.has(name)) return piece;
  const isControl = linking.compiling.sheet.controls.has(name);
  const near = nearest(name, linking.pieces.keys());
  blame(
    linking,
    path,
    word,
    "unknown-piece",
    isControl
      ? `"${name}" is a control; gestures are made on charts`
      : `there is no chart "${name}"${near ? `; did you mean ${near}?` : `; charts are ${listed(linking.pieces.keys())}`}`,
    isControl ? undefined : near,
  );
  return undefined;
}

/** The layer on which a gesture is made: the one named, else the first. */
function layerOf(piece: PlanPiece, word?: PlacedName): LayerPlan | undefined {
  if (piece.plan.type !== "chart") return undefined;
  const wanted = word?.name.split(".")[1];
  return wanted === undefined ? piece.plan.layers[0] : piece.plan.layers.find((layer) => String(layer.name) === wanted);
}

/** What a brush on a channel selects on: the argument of a bin or a period, else the channel itself. */
function brushed(channel: Channel): Formula {
  return channel.interval ? channel.interval.of : channel.formula;
}

const isContinuous = (channel: Channel | undefined): channel is Channel =>
  channel !== undefined && channel.kind !== "text" && channel.kind !== "boolean";

/** What a sentence about a selection needs to know of a channel. */
function channelWords({ label, kind, unit, format, interval }: Channel): SelectionWords {
  return {
    label,
    kind,
    ...(unit === undefined ? {} : { unit }),
    ...(format === undefined ? {} : { format }),
    ...(interval?.type === "period" && typeof interval.grain === "string" ? { grain: interval.grain } : {}),
  };
}

interface Basis {
  axes: SelectionPlan["axes"];
  keys: SelectionPlan["keys"];
  words: SelectionPlan["words"];
}

/** What a gesture on a piece selects on, or why it cannot be made there. */
function gestureBasis(piece: PlanPiece, layer: LayerPlan | undefined, gesture: Gesture): Basis | { problem: string } {
  const { plan } = piece;
  if (plan.type === "figure") return { problem: `${piece.name} is a figure, on which nothing can be picked` };
  if (plan.type === "table") {
    if (gesture !== "rows" && gesture !== "click" && gesture !== "hover")
      return { problem: `on the data table ${piece.name} rows are picked: rows on ${piece.name}` };
    const own = plan.query.groupBy.map((name) => plan.query.channels[name] as Channel);
    return { axes: {}, keys: keysOf(own), words: wordsOf(own) };
  }
  if (gesture === "rows") return { problem: `rows are picked in data tables; ${piece.name} is a chart` };
  const channels = layer?.query.channels ?? {};
  const grouping =
    gesture === "legend"
      ? channels.color
        ? [channels.color]
        : []
      : (layer?.query.groupBy ?? []).map((name) => channels[name] as Channel);
  const wants =
    gesture === "brush x" || gesture === "hover x"
      ? ["x"]
      : gesture === "brush y"
        ? ["y"]
        : gesture === "brush xy"
          ? ["x", "y"]
          : [];
  const axes: SelectionPlan["axes"] = {};
  const words: SelectionPlan["words"] = wordsOf(grouping);
  for (const axis of wants as ("x" | "y")[]) {
    const channel = channels[axis];
    if (!channel) return { problem: `${piece.name} has nothing on ${axis}` };
    const category = (plan.axes[axis]?.scale ?? "linear") === "category";
    if (gesture === "hover x") continue;
    if (category || !isContinuous(channel))
      return {
        problem: `${axis} of ${piece.name} shows categories; a brush needs numbers or dates, a click picks categories`,
      };
    if (channel.aggregate)
      return {
        problem: `${axis} of ${piece.name} shows ${channel.text}, which belongs to groups, not to rows; this version brushes values of rows only`,
      };
    axes[axis] = brushed(channel);
    // A brush is spoken of by the values that it holds, not by their bins.
    words[axis] = { ...channelWords(channel), kind: channel.kind };
    delete (words[axis] as SelectionWords).grain;
  }
  return { axes, keys: keysOf(grouping), words };
}

function wordsOf(channels: readonly Channel[]): SelectionPlan["words"] {
  return Object.fromEntries(channels.map((channel) => [channel.text, channelWords(channel)]));
}

function keysOf(channels: readonly Channel[]): Record<string, Formula> {
  return Object.fromEntries(channels.map((channel) => [channel.text, channel.formula]));
}

function gestureSelection(linking: Linking, sentence: LinkSentence & { type: "gesture" }, path: Path) {
  const { compiling } = linking;
  const piece = placedPiece(linking, sentence.source, path);
  if (!piece) return;
  const layer = layerOf(piece, sentence.source);
  if (piece.plan.type === "chart" && !layer) {
    blame(
      linking,
      path,
      sentence.source,
      "unknown-layer",
      `${piece.name} has no layer "${sentence.source.name.split(".")[1]}"; layers are ${listed(piece.plan.layers.map((one) => String(one.name)))}`,
    );
    return;
  }
  const basis = gestureBasis(piece, layer, sentence.gesture);
  if ("problem" in basis) {
    blame(linking, path, { start: 0, end: sentence.source.end }, "gesture-here", basis.problem);
    return;
  }
  const table = compiling.tables.get(piece.plan.from);
  const by: string[] = [];
  for (const column of sentence.by) {
    if (table?.table.columns.has(column.name)) {
      by.push(column.name);
      continue;
    }
    const near = nearest(column.name, table?.table.columns.keys() ?? []);
    blame(
      linking,
      path,
      column,
      "unknown-column",
      `${piece.plan.from} has no column "${column.name}"${near ? `; did you mean ${near}?` : ""}`,
      near,
    );
    return;
  }
  const effects = readEffects(linking, sentence, piece, path);
  if (!effects) return;
  const short =
    sentence.gesture === "hover" || sentence.gesture === "hover x"
      ? ".hover"
      : sentence.gesture === "legend"
        ? ".legend"
        : "";
  const name = sentence.as?.name ?? `${piece.name}${short}`;
  if (sentence.as && (linking.pieces.has(name) || linking.controls.some((control) => control.name === name))) {
    blame(linking, path, sentence.as, "doubled-name", `"${name}" is the name of a piece already`);
    return;
  }
  const clash = linking.selections.find((selection) => selection.name === name);
  if (clash) {
    const word = sentence.as ?? sentence.source;
    blame(
      linking,
      path,
      word,
      "doubled-selection",
      sentence.as
        ? `there is a selection "${name}" already`
        : `two selections on ${piece.name} have no name of their own; give one with as NAME`,
    );
    return;
  }
  if (sentence.as) linking.namedByAuthor.add(name);
  linking.selections.push({
    name,
    source: piece.name,
    gesture: sentence.gesture,
    table: piece.plan.from,
    axes: basis.axes,
    keys: by.length ? keysOfColumns(by) : basis.keys,
    by,
    effects,
    words: { ...basis.words, ...columnWords(compiling, piece.plan.from, by) },
  });
}

const keysOfColumns = (columns: readonly string[]): Record<string, Formula> =>
  Object.fromEntries(columns.map((name) => [name, { type: "column", name } satisfies Formula]));

/** Words of the columns that `by` names. */
function columnWords(compiling: Compiling, table: string, columns: readonly string[]): SelectionPlan["words"] {
  const built = compiling.tables.get(table);
  return Object.fromEntries(
    columns.flatMap((name) => {
      const kind = built?.table.columns.get(name)?.kind;
      return built && kind
        ? [
            [
              name,
              channelWords(
                channelOf(
                  { formula: { type: "column", name }, kind, aggregate: false, constant: false },
                  table,
                  built.table,
                ),
              ),
            ],
          ]
        : [];
    }),
  );
}

function readEffects(
  linking: Linking,
  sentence: LinkSentence & { type: "gesture" },
  source: PlanPiece,
  path: Path,
): SelectionEffect[] | undefined {
  const { compiling } = linking;
  const effects: SelectionEffect[] = [];
  let sound = true;
  for (const clause of sentence.effects) {
    for (const target of clause.targets) {
      const amount = clause.amount === undefined ? {} : { amount: clause.amount };
      if (target.name === "all") {
        for (const piece of linking.pieces.values()) {
          if (piece.name === source.name || !routeOf(compiling, source.plan.from, piece.plan.from)) continue;
          if (clause.effect === "crosshair" && !sharesAxis(source, piece)) continue;
          effects.push({ effect: clause.effect, target: piece.name, ...amount });
        }
        continue;
      }
      const piece = placedPiece(linking, target, path);
      if (!piece) {
        sound = false;
        continue;
      }
      const problem = effectProblem(linking, clause.effect, source, piece);
      if (problem) {
        sound = false;
        blame(linking, path, target, "effect-here", problem);
        continue;
      }
      effects.push({ effect: clause.effect, target: piece.name, ...amount });
    }
  }
  return sound ? effects : undefined;
}

function effectProblem(
  linking: Linking,
  effect: SelectionEffect["effect"],
  source: PlanPiece,
  target: PlanPiece,
): string | undefined {
  if (effect === "filter" && source.name === target.name)
    return `${source.name} cannot filter itself; it marks its own pick`;
  if (effect === "crosshair")
    return target.plan.type !== "chart"
      ? `a crosshair needs a chart, and ${target.name} is a ${target.plan.type}`
      : sharesAxis(source, target)
        ? undefined
        : `${target.name} does not share the axis of ${source.name}`;
  if (effect === "fade" && target.plan.type !== "chart")
    return `only charts fade; ${target.name} is a ${target.plan.type}, use filter`;
  if (!routeOf(linking.compiling, source.plan.from, target.plan.from))
    return `${target.name} is drawn from ${target.plan.from}, which shares no rows with ${source.plan.from}; tables are tied by a join, or by being made from one another`;
  return undefined;
}

/** Two charts whose x axes show the same sort of values. */
function sharesAxis(a: PlanPiece, b: PlanPiece): boolean {
  if (a.plan.type !== "chart" || b.plan.type !== "chart") return false;
  const [x, other] = [a.plan.axes.x, b.plan.axes.x];
  if (!x || !other) return false;
  const moment = (plan: ChartPlan["axes"]["x"]) => plan?.kind === "date" || plan?.kind === "datetime";
  return x.scale === other.scale && (x.kind === other.kind || (moment(x) && moment(other)));
}

/** The gesture that suits a piece best, for cross-filtering. */
function naturalGesture(piece: PlanPiece): Gesture | undefined {
  const { plan } = piece;
  if (plan.type === "figure") return undefined;
  if (plan.type === "table") return "rows";
  const layer = plan.layers[0];
  const free = (axis: "x" | "y") => {
    const channel = layer?.query.channels[axis];
    return isContinuous(channel) && !channel.aggregate && plan.axes[axis]?.scale !== "category";
  };
  if (layer?.draw === "points" && free("x") && free("y")) return "brush xy";
  if (free("x")) return "brush x";
  return free("y") ? "brush y" : "click";
}

function crossFilter(linking: Linking, word: PlacedName, path: Path) {
  const { compiling } = linking;
  if (!compiling.tables.has(word.name)) {
    if (compiling.sheet.broken.has(`tables.${word.name}`)) return;
    const near = nearest(word.name, compiling.tables.keys());
    blame(
      linking,
      path,
      word,
      "unknown-table",
      `there is no table "${word.name}"${near ? `; did you mean ${near}?` : ""}`,
      near,
    );
    return;
  }
  const pieces = [...linking.pieces.values()].filter((piece) => piece.plan.from === word.name);
  for (const piece of pieces) {
    const gesture = naturalGesture(piece);
    if (!gesture) continue;
    const basis = gestureBasis(piece, layerOf(piece), gesture);
    if ("problem" in basis) continue;
    const effects: SelectionEffect[] = pieces
      .filter((other) => other.name !== piece.name)
      .map((other) => ({ effect: "filter", target: other.name }));
    const known = linking.selections.find((selection) => selection.name === piece.name);
    if (known) {
      // The author's own link on this chart stands; what it leaves out is added if the gesture is the same.
      if (known.gesture === gesture && !linking.namedByAuthor.has(known.name))
        for (const effect of effects)
          if (!known.effects.some((own) => own.target === effect.target)) known.effects.push(effect);
      continue;
    }
    linking.selections.push({
      name: piece.name,
      source: piece.name,
      gesture,
      table: piece.plan.from,
      axes: basis.axes,
      keys: basis.keys,
      by: [],
      effects,
      words: basis.words,
    });
  }
}
