import { listed, nearest } from "../finding/nearest";
import type { Kind } from "../table/column";
import { AGGREGATES } from "./aggregate-names";
import { isMoment } from "./arithmetic-kinds";
import { binary, comparable, truth } from "./check-operators";
import { ROW_FUNCTIONS } from "./functions/function";
import { bareGrain, bareText, notColumn } from "./not-columns";
import { optionsOf, selectionName } from "./options";
import { otherName } from "./other-names";
import "./functions/all";
import type { CheckedKind, Scope } from "./scope";
import { article, type Blame, BROKEN, join, loose, type Seen } from "./seen";
import { FUNCTION_NAMES, type Parameter, signatureOf, writeSignature } from "./signatures";
import { FormulaProblem } from "./tokens";
import type { Formula } from "./tree";
import { writeName } from "./words";

const NOWHERE = { start: 0, end: 0 };

/** The kind of a call's result where it is not that of its argument. */
function kindOfCall(name: string, out: CheckedKind): CheckedKind {
  if (name === "by") return "date";
  if (name === "sum" && out === "boolean") return "number";
  if (name === "mean") return out === "date" ? "datetime" : out === "boolean" ? "number" : out;
  return out;
}

/** One formula on its way through the checks, node by node. */
export class Checker {
  readonly problems: FormulaProblem[] = [];
  /** What `before` is in the recurrences that are looked into, the innermost last. */
  private readonly befores: CheckedKind[] = [];

  constructor(private readonly scope: Scope) {}

  private readonly blame: Blame = (node, code, message, fix) => {
    const at = node.at ?? NOWHERE;
    this.problems.push(
      new FormulaProblem(code, message, at.start, at.end, fix ? { ...fix, start: at.start, end: at.end } : undefined),
    );
  };

  private nameFix(wanted: string, known: Iterable<string>, write: (name: string) => string) {
    const near = nearest(wanted, known);
    return near === undefined ? undefined : { title: `write ${write(near)}`, text: write(near) };
  }

  private quoted(node: Formula, text: string, code: string, what: string): Seen {
    this.blame(node, code, `${what} stands in quotes: ${text}`, { title: `write ${text}`, text });
    return BROKEN;
  }

  /** A text without its quotes on one side of a comparison. */
  private bareSide(node: Formula, other: Formula): Seen | undefined {
    const text = bareText(node, other, this.scope);
    return text === undefined ? undefined : this.quoted(node, text, "unknown-column", "a text");
  }

  private bareComparison({ operator, left, right }: Formula & { type: "binary" }): Seen | undefined {
    if (operator !== "=" && operator !== "!=") return undefined;
    return this.bareSide(right, left) ?? this.bareSide(left, right);
  }

  private column(node: Formula & { type: "column" }): Seen {
    const kind = this.scope.columns.get(node.name);
    if (kind) return { kind, aggregate: false, constant: false };
    if (this.scope.settings.has(node.name)) {
      const [message, text] = [`"${node.name}" is a setting and no column of ${this.scope.tableName}`, `$${node.name}`];
      this.blame(node, "unknown-column", `${message}: write ${text}`, { title: `write ${text}`, text });
      return BROKEN;
    }
    const near = nearest(node.name, this.scope.columns.keys());
    const other = near?.toLowerCase() === node.name.toLowerCase() ? undefined : notColumn(node.name);
    if (other) {
      const message = `${this.scope.tableName} has no column "${node.name}"; ${other.says}`;
      this.blame(node, "unknown-column", message, { title: `write ${other.text}`, text: other.text });
      return BROKEN;
    }
    const text = near && writeName(near);
    const fix = text === undefined ? undefined : { title: `write ${text}`, text };
    const hint = fix
      ? `; did you mean ${fix.text}?`
      : this.scope.columns.size
        ? `; its columns are ${listed(this.scope.columns.keys())}`
        : "";
    this.blame(node, "unknown-column", `${this.scope.tableName} has no column "${node.name}"${hint}`, fix);
    return BROKEN;
  }

  private call(node: Formula & { type: "call" }, inAggregate: boolean): Seen {
    const signature = signatureOf(node.name);
    if (!signature) return this.unknownFunction(node, inAggregate);
    const bare = bareGrain(node, this.scope);
    if (bare) return this.quoted(bare.grain, bare.text, "wrong-kind", "a grain");
    if (ROW_FUNCTIONS.has(node.name)) this.rowFunctionHere(node, inAggregate);
    if (node.name === "picked" && node.arguments.length === 1) {
      this.selection(node.arguments[0] as Formula, selectionName(node.arguments[0] as Formula) ?? "");
      return { kind: "boolean", aggregate: false, constant: false };
    }
    if ((node.name === "chosen" || node.name === "agg") && node.arguments.length === (node.name === "agg" ? 2 : 1))
      return this.chosen(node, inAggregate);
    const isAggregate = AGGREGATES.has(node.name);
    if (isAggregate && this.scope.aggregates === "none")
      this.blame(node, "aggregate-here", `${node.name}() makes one value of many rows and cannot stand here`);
    if (isAggregate && inAggregate && node.name !== "share")
      this.blame(node, "nested-aggregate", `${node.name}() cannot stand inside another aggregate`);
    const within = inAggregate || (isAggregate && node.name !== "share");
    const seen =
      node.name === "recur"
        ? this.recurrence(node, within)
        : node.arguments.map((argument) => this.visit(argument, within));
    const { parameters } = signature;
    const least = parameters.filter((parameter) => !parameter.optional).length;
    const repeats = parameters.at(-1)?.repeats === true;
    if (seen.length < least || (seen.length > parameters.length && !repeats)) {
      this.blame(
        node,
        "argument-count",
        `${node.name}() takes ${writeSignature(signature)}, such as ${signature.example}; ` +
          `here ${seen.length === 1 ? "is 1 argument" : `are ${seen.length} arguments`}`,
      );
      return { ...join("missing", seen), broken: true };
    }
    for (const [place, argument] of seen.entries())
      this.checkArgument(node, place, argument, seen, parameters[Math.min(place, parameters.length - 1)] as Parameter);
    this.checkParts(node, seen);
    const out =
      typeof signature.returns === "string" ? signature.returns : this.resultKind(signature.returns.like, seen);
    const result = join(kindOfCall(node.name, out), seen);
    if (node.name === "recur") return { ...result, constant: false };
    return isAggregate ? { ...result, aggregate: true, constant: false } : result;
  }

  private unknownFunction(node: Formula & { type: "call" }, inAggregate: boolean): Seen {
    for (const argument of node.arguments) this.visit(argument, inAggregate);
    const other = otherName(node.name);
    const near = other ? other.name : nearest(node.name, FUNCTION_NAMES);
    const at = node.at ?? NOWHERE;
    const end = at.start + node.name.length;
    const fix = near ? { title: `write ${near}()`, text: near, start: at.start, end } : undefined;
    const hint = other ? `; ${other.says}` : near ? `; did you mean ${near}()?` : "";
    this.problems.push(
      new FormulaProblem("unknown-function", `there is no function "${node.name}"${hint}`, at.start, end, fix),
    );
    return BROKEN;
  }

  /** Functions that look at other rows stand neither in aggregates nor everywhere. */
  private rowFunctionHere(node: Formula & { type: "call" }, inAggregate: boolean) {
    if (inAggregate)
      this.blame(
        node,
        "row-function-here",
        `${node.name}() looks at other rows and cannot stand inside an aggregate; add it as a column first`,
      );
    else if (this.scope.rowFunctions === "none")
      this.blame(
        node,
        "row-function-here",
        `${node.name}() looks at other rows and cannot stand here; add it as a column in a step`,
      );
  }

  /** In the formula of a recurrence `before` is of the kind of its start. */
  private recurrence(node: Formula & { type: "call" }, inAggregate: boolean): Seen[] {
    const [start, ...rest] = node.arguments;
    const first = start ? this.visit(start, inAggregate) : BROKEN;
    this.befores.push(first.kind);
    const seen = rest.map((argument) => this.visit(argument, inAggregate));
    this.befores.pop();
    return start ? [first, ...seen] : [];
  }

  /** What the arguments of some functions must be to one another. */
  private checkParts(node: Formula & { type: "call" }, seen: readonly Seen[]) {
    const [, yes, no] = seen;
    if (node.name === "if" && yes && no && !loose(yes) && !loose(no) && yes.kind !== no.kind)
      this.blame(
        node,
        "kinds-differ",
        `if() gives ${article(yes.kind)} or ${article(no.kind)}; both must be of one kind`,
      );
    const [inner] = node.arguments;
    const isCount = inner?.type === "call" && ["sum", "count"].includes(inner.name);
    if (node.name === "share" && inner && !isCount)
      this.blame(node, "share-of", "share() takes a sum or a count, such as share(count())");
  }

  /** The columns of a selection's table, or what is wrong with its name. */
  private selection(node: Formula, name: string): ReadonlyMap<string, Kind> | undefined {
    const known = this.scope.selections?.get(name);
    if (known) return known;
    if (!this.scope.selections)
      this.blame(node, "no-selections-here", "what readers pick is known in charts, not in steps");
    else if (!this.scope.promised?.has(name)) {
      const near = nearest(name, this.scope.selections.keys());
      this.blame(
        node,
        "unknown-selection",
        `there is no selection "${name}"${near ? `; did you mean ${near}?` : this.scope.selections.size ? `; selections are ${listed(this.scope.selections.keys())}` : "; links make them"}`,
      );
    }
    return undefined;
  }

  /** What a reader chooses by name: every option is checked as if it stood there. */
  private chosen(node: Formula & { type: "call" }, inAggregate: boolean): Seen {
    const [setting] = node.arguments as [Formula];
    const known = setting.type === "setting" ? this.visit(setting, inAggregate) : undefined;
    const options = setting.type === "setting" ? this.scope.options?.get(setting.name) : undefined;
    if (known?.broken) return BROKEN;
    if (!options) {
      this.blame(
        setting,
        "closed-list",
        `${node.name}() takes a setting with a closed list, such as $axis with of: [tonnes, waited]`,
      );
      return BROKEN;
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
      this.blame(
        setting,
        "unknown-word",
        `"${wrong}" among the values of $${(setting as { name: string }).name} is no aggregate of one column`,
      );
      return BROKEN;
    }
    const seen = optionsOf(node, options).map((option) => this.visit(option, inAggregate));
    const first = seen.find((option) => !loose(option));
    const other = seen.find((option) => !loose(option) && option.kind !== first?.kind);
    if (first && other && !this.scope.mixed)
      this.blame(
        node,
        "kinds-differ",
        `what $${(setting as { name: string }).name} may choose is ` +
          `${article(first.kind)} or ${article(other.kind)}; all must be of one kind`,
      );
    return { ...join(first?.kind ?? "missing", seen), constant: false };
  }

  private resultKind(like: number, seen: Seen[]): CheckedKind {
    const first = seen[like];
    if (first && !loose(first)) return first.kind;
    return seen.slice(like + 1).find((other) => !loose(other))?.kind ?? first?.kind ?? "missing";
  }

  private checkArgument(
    node: Formula & { type: "call" },
    place: number,
    seen: Seen,
    all: Seen[],
    parameter: Parameter,
  ) {
    const argument = node.arguments[place] as Formula;
    if (parameter.constant && !seen.constant && !seen.broken)
      this.blame(
        argument,
        "not-constant",
        `"${parameter.name}" of ${node.name}() must be a number, text or setting, not change from row to row`,
      );
    if (parameter.words && argument.type === "text" && !parameter.words.includes(argument.value)) {
      const near = nearest(argument.value, parameter.words);
      this.blame(
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
        this.blame(
          argument,
          "wrong-kind",
          `${node.name}() is given ${article(first.kind)} and ${article(seen.kind)}; they must be of one kind`,
        );
    } else if (parameter.takes === "any") {
      if (seen.kind === "list") this.blame(argument, "wrong-kind", `${node.name}() does not take a list`);
    } else if (!(parameter.takes as readonly string[]).includes(seen.kind)) {
      this.blame(
        argument,
        "wrong-kind",
        `"${parameter.name}" of ${node.name}() takes ` +
          `${parameter.takes.map(article).join(" or ")}, not ${article(seen.kind)}`,
      );
    }
  }

  visit(node: Formula, inAggregate: boolean): Seen {
    const down = (part: Formula) => this.visit(part, inAggregate);
    switch (node.type) {
      case "number":
      case "text":
      case "boolean":
        return { kind: node.type, aggregate: false, constant: true };
      case "missing":
        return { kind: "missing", aggregate: false, constant: true };
      case "before":
        return { kind: this.befores.at(-1) ?? "missing", aggregate: false, constant: false };
      case "column":
        return this.column(node);
      case "setting":
        return this.setting(node);
      case "list":
        return this.list(node, inAggregate);
      case "call":
        return this.call(node, inAggregate);
      case "minus": {
        const operand = down(node.operand);
        if (!loose(operand) && operand.kind !== "number" && operand.kind !== "duration")
          this.blame(node, "wrong-kind", `minus ${article(operand.kind)} has no meaning`);
        return join(operand.kind, [operand]);
      }
      case "not": {
        const operand = down(node.operand);
        truth(this.blame, node.operand, operand);
        return join("boolean", [operand]);
      }
      case "binary":
        return this.bareComparison(node) ?? binary(this.blame, node, down(node.left), down(node.right));
      case "between": {
        const parts = [down(node.value), down(node.low), down(node.high)] as [Seen, Seen, Seen];
        comparable(this.blame, node.low, parts[0], parts[1]);
        comparable(this.blame, node.high, parts[0], parts[2]);
        return join("boolean", parts);
      }
      case "in":
        return this.isIn(node, inAggregate);
      case "of": {
        const aggregate = down(node.aggregate);
        if (!(node.aggregate.type === "call" && AGGREGATES.has(node.aggregate.name)))
          this.blame(node.aggregate, "wrong-kind", "before of stands an aggregate, such as sum(tonnes) of all");
        if (node.selection !== "all") this.selection(node, node.selection);
        return aggregate;
      }
      case "selected":
        return this.selected(node);
      case "picked":
        return { kind: "boolean", aggregate: false, constant: false };
    }
  }

  private isIn({ value: of, list }: Formula & { type: "in" }, inAggregate: boolean): Seen {
    const value = this.visit(of, inAggregate);
    const listed = list.type === "setting" ? this.scope.lists?.get(list.name) : undefined;
    if (listed) {
      comparable(this.blame, list, value, { kind: listed, aggregate: false, constant: true });
      return join("boolean", [value]);
    }
    const isBare = list.type === "list" && list.items.some((item) => bareText(item, of, this.scope) !== undefined);
    const seen = isBare ? BROKEN : this.visit(list, inAggregate);
    if (list.type === "list") {
      for (const item of list.items)
        if (!this.bareSide(item, of)) comparable(this.blame, item, value, this.visit(item, inAggregate));
    } else this.blame(list, "wrong-kind", "after in comes a list in square brackets");
    return join("boolean", [value, seen]);
  }

  private setting(node: Formula & { type: "setting" }): Seen {
    const kind = this.scope.settings.get(node.name);
    if (kind) return { kind, aggregate: false, constant: true };
    if (this.scope.lists?.has(node.name)) {
      this.blame(
        node,
        "list-here",
        `$${node.name} is a list: it stands after in, or among the columns of a data table`,
      );
      return BROKEN;
    }
    const fix = this.nameFix(node.name, this.scope.settings.keys(), (name) => `$${name}`);
    const hint = fix ? `; did you mean ${fix.text}?` : "";
    this.blame(node, "unknown-setting", `there is no setting "${node.name}" among the controls${hint}`, fix);
    return BROKEN;
  }

  private list(node: Formula & { type: "list" }, inAggregate: boolean): Seen {
    const items = node.items.map((item) => this.visit(item, inAggregate));
    node.items.forEach((item, place) => {
      if (!(items[place] as Seen).constant && !(items[place] as Seen).broken)
        this.blame(item, "not-constant", "a list holds only plain values and settings");
    });
    return { ...join("list", items), constant: true };
  }

  private selected(node: Formula & { type: "selected" }): Seen {
    const columns = this.selection(node, node.selection);
    if (!columns) return BROKEN;
    const kind = columns.get(node.column);
    if (kind) return { kind, aggregate: false, constant: true };
    const near = nearest(node.column, columns.keys());
    const hint = near ? `; did you mean ${near}?` : "";
    this.blame(
      node,
      "unknown-column",
      `the rows of the selection ${node.selection} have no column "${node.column}"${hint}`,
    );
    return BROKEN;
  }
}
