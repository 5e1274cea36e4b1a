import { listed, nearest } from "../finding/nearest";
import type { Kind } from "../table/column";
import { AGGREGATES } from "./aggregate-names";
import { ROW_FUNCTIONS } from "./row-functions";
import { FUNCTION_NAMES, type Parameter, signatureOf, writeSignature } from "./signatures";
import { FormulaProblem } from "./tokens";
import { type Formula, mapFormula } from "./tree";
import { writeName } from "./words";

/** What a formula may refer to where it stands. */
export interface Scope {
  /** Columns of the table by name. */
  columns: ReadonlyMap<string, Kind>;
  /** Settings by name, without `$`. */
  settings: ReadonlyMap<string, Kind>;
  /** How the table is called in messages. */
  tableName: string;
  aggregates: "allowed" | "none";
  /** Whether functions that look at other rows may stand here. */
  rowFunctions?: "allowed" | "none";
  /** Selections that the formula may speak of, with the columns of their tables; absent where there are none, as in steps. */
  selections?: ReadonlyMap<string, ReadonlyMap<string, Kind>>;
  /** What `chosen` may choose can be of different kinds: each is checked by itself elsewhere. */
  mixed?: boolean;
  /** What settings with a closed list may be, for `chosen` and `agg`. */
  options?: ReadonlyMap<string, readonly string[]>;
}

export type CheckedKind = Kind | "list" | "missing";

export interface Checked {
  kind: CheckedKind;
  /** Holds an aggregate. */
  aggregate: boolean;
  /** The same for every row: built from literals and settings alone. */
  constant: boolean;
  problems: FormulaProblem[];
}

const article = (kind: CheckedKind) =>
  kind === "missing" ? "missing" : kind === "boolean" ? "true or false" : `a ${kind}`;
const isMoment = (kind: CheckedKind) => kind === "date" || kind === "datetime";
const NOWHERE = { start: 0, end: 0 };

/** Checks names and kinds of a formula. Every problem has its place in the formula's text. */
export function checkFormula(formula: Formula, scope: Scope): Checked {
  const problems: FormulaProblem[] = [];
  const blame = (node: Formula, code: string, message: string, fix?: { title: string; text: string }) => {
    const at = node.at ?? NOWHERE;
    problems.push(
      new FormulaProblem(code, message, at.start, at.end, fix ? { ...fix, start: at.start, end: at.end } : undefined),
    );
  };
  type Seen = { kind: CheckedKind; aggregate: boolean; constant: boolean; broken?: boolean };
  const broken: Seen = { kind: "missing", aggregate: false, constant: false, broken: true };
  const join = (kind: CheckedKind, parts: Seen[]): Seen => ({
    kind,
    aggregate: parts.some((part) => part.aggregate),
    constant: parts.every((part) => part.constant),
    broken: parts.some((part) => part.broken),
  });
  const loose = (seen: Seen) => seen.broken || seen.kind === "missing";

  function nameFix(wanted: string, known: Iterable<string>, write: (name: string) => string) {
    const near = nearest(wanted, known);
    return near === undefined ? undefined : { title: `write ${write(near)}`, text: write(near) };
  }

  function column(node: Formula & { type: "column" }): Seen {
    const kind = scope.columns.get(node.name);
    if (kind) return { kind, aggregate: false, constant: false };
    const fix = nameFix(node.name, scope.columns.keys(), writeName);
    const hint = fix
      ? `; did you mean ${fix.text}?`
      : scope.columns.size
        ? `; its columns are ${listed(scope.columns.keys())}`
        : "";
    blame(node, "unknown-column", `${scope.tableName} has no column "${node.name}"${hint}`, fix);
    return broken;
  }

  function call(node: Formula & { type: "call" }, inAggregate: boolean): Seen {
    const signature = signatureOf(node.name);
    if (!signature) {
      for (const argument of node.arguments) visit(argument, inAggregate);
      const near = nearest(node.name, FUNCTION_NAMES);
      const at = node.at ?? NOWHERE;
      const fix = near
        ? { title: `write ${near}()`, text: near, start: at.start, end: at.start + node.name.length }
        : undefined;
      problems.push(
        new FormulaProblem(
          "unknown-function",
          `there is no function "${node.name}"${near ? `; did you mean ${near}()?` : ""}`,
          at.start,
          at.start + node.name.length,
          fix,
        ),
      );
      return broken;
    }
    if (Object.hasOwn(ROW_FUNCTIONS, node.name)) {
      if (inAggregate)
        blame(
          node,
          "row-function-here",
          `${node.name}() looks at other rows and cannot stand inside an aggregate; add it as a column first`,
        );
      else if (scope.rowFunctions === "none")
        blame(
          node,
          "row-function-here",
          `${node.name}() looks at other rows and cannot stand here; add it as a column in a step`,
        );
    }
    if (node.name === "picked" && node.arguments.length === 1) {
      selection(node.arguments[0] as Formula, selectionName(node.arguments[0] as Formula) ?? "");
      return { kind: "boolean", aggregate: false, constant: false };
    }
    if ((node.name === "chosen" || node.name === "agg") && node.arguments.length === (node.name === "agg" ? 2 : 1))
      return chosen(node, inAggregate);
    const isAggregate = AGGREGATES.has(node.name);
    if (isAggregate && scope.aggregates === "none")
      blame(node, "aggregate-here", `${node.name}() makes one value of many rows and cannot stand here`);
    if (isAggregate && inAggregate && node.name !== "share")
      blame(node, "nested-aggregate", `${node.name}() cannot stand inside another aggregate`);
    const seen = node.arguments.map((argument) =>
      visit(argument, inAggregate || (isAggregate && node.name !== "share")),
    );
    const { parameters } = signature;
    const least = parameters.filter((parameter) => !parameter.optional).length;
    const repeats = parameters.at(-1)?.repeats === true;
    if (seen.length < least || (seen.length > parameters.length && !repeats)) {
      blame(
        node,
        "argument-count",
        `${node.name}() takes ${writeSignature(signature)}; here ${seen.length === 1 ? "is 1 argument" : `are ${seen.length} arguments`}`,
      );
      return { ...join("missing", seen), broken: true };
    }
    for (const [place, argument] of seen.entries())
      checkArgument(node, place, argument, seen, parameters[Math.min(place, parameters.length - 1)] as Parameter);
    if (
      node.name === "if" &&
      seen[1] &&
      seen[2] &&
      !loose(seen[1]) &&
      !loose(seen[2]) &&
      seen[1].kind !== seen[2].kind
    ) {
      blame(
        node,
        "kinds-differ",
        `if() gives ${article(seen[1].kind)} or ${article(seen[2].kind)}; both must be of one kind`,
      );
    }
    if (
      node.name === "share" &&
      node.arguments[0] &&
      !(node.arguments[0].type === "call" && ["sum", "count"].includes(node.arguments[0].name))
    ) {
      blame(node, "share-of", "share() takes a sum or a count, such as share(count())");
    }
    const out = typeof signature.returns === "string" ? signature.returns : resultKind(signature.returns.like, seen);
    const result = join(
      node.name === "by"
        ? "date"
        : node.name === "sum" && out === "boolean"
          ? "number"
          : node.name === "mean" && out === "date"
            ? "datetime"
            : node.name === "mean" && out === "boolean"
              ? "number"
              : out,
      seen,
    );
    return isAggregate ? { ...result, aggregate: true, constant: false } : result;
  }

  /** The columns of a selection's table, or what is wrong with its name. */
  function selection(node: Formula, name: string): ReadonlyMap<string, Kind> | undefined {
    const known = scope.selections?.get(name);
    if (known) return known;
    if (!scope.selections) blame(node, "no-selections-here", "what readers pick is known in charts, not in steps");
    else {
      const near = nearest(name, scope.selections.keys());
      blame(
        node,
        "unknown-selection",
        `there is no selection "${name}"${near ? `; did you mean ${near}?` : scope.selections.size ? `; selections are ${listed(scope.selections.keys())}` : "; links make them"}`,
      );
    }
    return undefined;
  }

  /** What a reader chooses by name: every option is checked as if it stood there. */
  function chosen(node: Formula & { type: "call" }, inAggregate: boolean): Seen {
    const [setting] = node.arguments as [Formula];
    const known = setting.type === "setting" ? visit(setting, inAggregate) : undefined;
    const options = setting.type === "setting" ? scope.options?.get(setting.name) : undefined;
    if (known?.broken) return broken;
    if (!options) {
      blame(
        setting,
        "closed-list",
        `${node.name}() takes a setting with a closed list, such as $axis with of: [tonnes, waited]`,
      );
      return broken;
    }
    const wrong =
      node.name === "agg"
        ? options.find(
            (option) =>
              !AGGREGATES.has(option) ||
              option === "share" ||
              option === "quantile" ||
              option === "corr" ||
              option === "slope",
          )
        : undefined;
    if (wrong !== undefined) {
      blame(
        setting,
        "unknown-word",
        `"${wrong}" among the values of $${(setting as { name: string }).name} is no aggregate of one column`,
      );
      return broken;
    }
    const seen = optionsOf(node, options).map((option) => visit(option, inAggregate));
    const first = seen.find((option) => !loose(option));
    const other = seen.find((option) => !loose(option) && option.kind !== first?.kind);
    if (first && other && !scope.mixed)
      blame(
        node,
        "kinds-differ",
        `what $${(setting as { name: string }).name} may choose is ${article(first.kind)} or ${article(other.kind)}; all must be of one kind`,
      );
    return { ...join(first?.kind ?? "missing", seen), constant: false };
  }

  function resultKind(like: number, seen: Seen[]): CheckedKind {
    const first = seen[like];
    if (first && !loose(first)) return first.kind;
    return seen.slice(like + 1).find((other) => !loose(other))?.kind ?? first?.kind ?? "missing";
  }

  function checkArgument(
    node: Formula & { type: "call" },
    place: number,
    seen: Seen,
    all: Seen[],
    parameter: Parameter,
  ) {
    const argument = node.arguments[place] as Formula;
    if (parameter.constant && !seen.constant && !seen.broken)
      blame(
        argument,
        "not-constant",
        `"${parameter.name}" of ${node.name}() must be a number, text or setting, not change from row to row`,
      );
    if (parameter.words && argument.type === "text" && !parameter.words.includes(argument.value)) {
      const near = nearest(argument.value, parameter.words);
      blame(
        argument,
        "unknown-word",
        `"${parameter.name}" of ${node.name}() is one of ${parameter.words.join(", ")}`,
        near ? { title: `write ${near}`, text: JSON.stringify(near) } : undefined,
      );
    }
    if (loose(seen)) return;
    if (parameter.takes === "same") {
      const first = all.find((other) => !loose(other)) as Seen;
      if (seen.kind !== first.kind && !(isMoment(seen.kind) && isMoment(first.kind)))
        blame(
          argument,
          "wrong-kind",
          `${node.name}() is given ${article(first.kind)} and ${article(seen.kind)}; they must be of one kind`,
        );
    } else if (parameter.takes === "any") {
      if (seen.kind === "list") blame(argument, "wrong-kind", `${node.name}() does not take a list`);
    } else if (!(parameter.takes as readonly string[]).includes(seen.kind)) {
      blame(
        argument,
        "wrong-kind",
        `"${parameter.name}" of ${node.name}() takes ${parameter.takes.map(article).join(" or ")}, not ${article(seen.kind)}`,
      );
    }
  }

  function arithmetic(node: Formula & { type: "binary" }, left: Seen, right: Seen): Seen {
    const { operator } = node;
    const pair = [left, right];
    const wrong = () => {
      const hint =
        operator === "+" && (left.kind === "text" || right.kind === "text") ? "; texts are joined with concat()" : "";
      blame(node, "wrong-kind", `${article(left.kind)} ${operator} ${article(right.kind)} has no meaning${hint}`);
      return { ...join("number", pair), broken: true };
    };
    if (loose(left) || loose(right)) {
      const known = loose(left) ? right : left;
      return join(loose(known) ? "number" : known.kind, pair);
    }
    const [a, b] = [left.kind, right.kind];
    const number = (kind: CheckedKind) => kind === "number" || kind === "boolean";
    if (number(a) && number(b)) return join("number", pair);
    if (operator === "+" || operator === "-") {
      if (a === "duration" && b === "duration") return join("duration", pair);
      if (isMoment(a) && isMoment(b) && operator === "-") return join("duration", pair);
      if (isMoment(a) && b === "duration") return join("datetime", pair);
      if (a === "duration" && isMoment(b) && operator === "+") return join("datetime", pair);
    } else if (operator === "*") {
      if ((a === "duration" && number(b)) || (number(a) && b === "duration")) return join("duration", pair);
    } else if (operator === "/") {
      if (a === "duration" && number(b)) return join("duration", pair);
      if (a === "duration" && b === "duration") return join("number", pair);
    }
    return wrong();
  }

  function comparable(node: Formula, left: Seen, right: Seen) {
    if (loose(left) || loose(right) || left.kind === right.kind || (isMoment(left.kind) && isMoment(right.kind)))
      return;
    const isText = (seen: Seen) => seen.kind === "text";
    const hint =
      isText(left) && isMoment(right.kind)
        ? ""
        : isText(right) && isMoment(left.kind)
          ? '; write a date as date("2024-03-01")'
          : "";
    blame(node, "wrong-kind", `${article(left.kind)} is compared with ${article(right.kind)}${hint}`);
  }

  function truth(part: Formula, seen: Seen) {
    if (!loose(seen) && seen.kind !== "boolean")
      blame(part, "wrong-kind", `true or false is expected here, not ${article(seen.kind)}`);
  }

  function visit(node: Formula, inAggregate: boolean): Seen {
    const down = (part: Formula) => visit(part, inAggregate);
    switch (node.type) {
      case "number":
      case "text":
      case "boolean":
        return { kind: node.type, aggregate: false, constant: true };
      case "missing":
        return { kind: "missing", aggregate: false, constant: true };
      case "column":
        return column(node);
      case "setting": {
        const kind = scope.settings.get(node.name);
        if (kind) return { kind, aggregate: false, constant: true };
        const fix = nameFix(node.name, scope.settings.keys(), (name) => `$${name}`);
        blame(
          node,
          "unknown-setting",
          `there is no setting "${node.name}" among the controls${fix ? `; did you mean ${fix.text}?` : ""}`,
          fix,
        );
        return broken;
      }
      case "list": {
        const items = node.items.map(down);
        node.items.forEach((item, place) => {
          if (!(items[place] as Seen).constant && !(items[place] as Seen).broken)
            blame(item, "not-constant", "a list holds only plain values and settings");
        });
        return { ...join("list", items), constant: true };
      }
      case "call":
        return call(node, inAggregate);
      case "minus": {
        const operand = down(node.operand);
        if (!loose(operand) && operand.kind !== "number" && operand.kind !== "duration")
          blame(node, "wrong-kind", `minus ${article(operand.kind)} has no meaning`);
        return join(operand.kind, [operand]);
      }
      case "not": {
        const operand = down(node.operand);
        truth(node.operand, operand);
        return join("boolean", [operand]);
      }
      case "binary": {
        const [left, right] = [down(node.left), down(node.right)];
        if (node.operator === "and" || node.operator === "or") {
          truth(node.left, left);
          truth(node.right, right);
          return join("boolean", [left, right]);
        }
        if (["=", "!=", "<", "<=", ">", ">="].includes(node.operator)) {
          checkMissingComparison(node);
          comparable(node, left, right);
          return join("boolean", [left, right]);
        }
        return arithmetic(node, left, right);
      }
      case "between": {
        const parts = [down(node.value), down(node.low), down(node.high)] as [Seen, Seen, Seen];
        comparable(node.low, parts[0], parts[1]);
        comparable(node.high, parts[0], parts[2]);
        return join("boolean", parts);
      }
      case "in": {
        const [value, list] = [down(node.value), down(node.list)];
        if (node.list.type !== "list") blame(node.list, "wrong-kind", "after in comes a list in square brackets");
        else for (const item of node.list.items) comparable(item, value, visit(item, inAggregate));
        return join("boolean", [value, list]);
      }
      case "of": {
        const aggregate = down(node.aggregate);
        if (!(node.aggregate.type === "call" && AGGREGATES.has(node.aggregate.name)))
          blame(node.aggregate, "wrong-kind", "before of stands an aggregate, such as sum(tonnes) of all");
        if (node.selection !== "all") selection(node, node.selection);
        return aggregate;
      }
      case "selected": {
        const columns = selection(node, node.selection);
        if (!columns) return broken;
        const kind = columns.get(node.column);
        if (kind) return { kind, aggregate: false, constant: true };
        const near = nearest(node.column, columns.keys());
        blame(
          node,
          "unknown-column",
          `the rows of the selection ${node.selection} have no column "${node.column}"${near ? `; did you mean ${near}?` : ""}`,
        );
        return broken;
      }
      case "picked":
        return { kind: "boolean", aggregate: false, constant: false };
    }
  }

  function checkMissingComparison(node: Formula & { type: "binary" }) {
    const other = node.right.type === "missing" ? node.left : node.left.type === "missing" ? node.right : undefined;
    if (!other) return;
    const name = other.type === "column" ? writeName(other.name) : undefined;
    const word = node.operator === "!=" ? "known" : "missing";
    blame(
      node,
      "equals-missing",
      `nothing equals missing; ask ${word}(${name ?? "…"})`,
      name ? { title: `write ${word}(${name})`, text: `${word}(${name})` } : undefined,
    );
  }

  const seen = visit(formula, false);
  return { kind: seen.kind, aggregate: seen.aggregate, constant: seen.constant, problems };
}

/** All that a call of `chosen` or `agg` may become, one for each value of its setting. */
function optionsOf(node: Formula & { type: "call" }, options: readonly string[]): Formula[] {
  const at = node.at ? { at: node.at } : {};
  if (node.name === "chosen") return options.map((name) => ({ type: "column", name, ...at }));
  return options.map((name) => ({ type: "call", name, arguments: [node.arguments[1] as Formula], ...at }));
}

/** The name in `picked(NAME)`, which the parser takes for a column, or for a column of a selection. */
function selectionName(node: Formula): string | undefined {
  return node.type === "column" ? node.name : node.type === "selected" ? `${node.selection}.${node.column}` : undefined;
}

/** Makes `picked(NAME)` a node of its own and tells values of selections their kind, so that no name is taken for a column. */
export function withSelections(formula: Formula, selections: Scope["selections"]): Formula {
  return mapFormula(formula, (node) => {
    if (node.type === "call" && node.name === "picked" && node.arguments[0])
      return { type: "picked", selection: selectionName(node.arguments[0]) ?? "", ...(node.at ? { at: node.at } : {}) };
    const kind = node.type === "selected" ? selections?.get(node.selection)?.get(node.column) : undefined;
    return kind && node.type === "selected" ? { ...node, kind } : undefined;
  });
}

/** Writes behind the setting of every `chosen` and `agg` all that it may choose: evaluation, pruning and grouping then see columns and aggregates. */
export function withOptions(formula: Formula, options: Scope["options"]): Formula {
  return mapFormula(formula, (node) => {
    const setting =
      node.type === "call" && (node.name === "chosen" || node.name === "agg") ? node.arguments[0] : undefined;
    const known = setting?.type === "setting" ? options?.get(setting.name) : undefined;
    if (!known || node.type !== "call") return undefined;
    return {
      ...node,
      arguments: [setting as Formula, ...optionsOf(node, known).map((option) => withOptions(option, options))],
    };
  });
}
