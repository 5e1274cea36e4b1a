import { Glob } from "../../finding/glob";
import { keepBound } from "../../finding/limits";
import { writer } from "../format";
import { fillNumeric, fillText, mapTexts, measureTexts, stepOf, type TextVector, textAt, type Vector } from "../vector";
import { numeric, text, type ValueFunction } from "./function";

let lastGlob: { pattern: string; glob: Glob } | undefined;

/** The pattern made ready; it is mostly the same for all rows. */
function globOf(pattern: string): Glob {
  if (lastGlob?.pattern !== pattern) {
    keepBound("patternLength", pattern.length, "a pattern");
    lastGlob = { pattern, glob: new Glob(pattern) };
  }
  return lastGlob.glob;
}

/** Every place of one text exchanged for another. How long that becomes is known before it is made. */
function replaced(text: string, from: string, to: string): string {
  if (to.length > from.length) {
    let times = from === "" ? text.length - 1 : 0;
    if (from !== "") for (let at = text.indexOf(from); at >= 0; at = text.indexOf(from, at + from.length)) times += 1;
    keepBound("textLength", text.length + times * (to.length - from.length), "a text that replace() makes");
  }
  return text.split(from).join(to);
}

/** A boolean from a text and constant texts. */
function textTest(test: (value: string, ...others: string[]) => boolean): ValueFunction {
  return (args, length) => {
    const [first, ...others] = args.map(text);
    const subject = first as TextVector;
    if (others.every((other) => other.step === 0)) {
      const constants = others.map((other) => textAt(other, 0));
      if (constants.includes(null)) return fillNumeric("boolean", length, 0, () => Number.NaN);
      return measureTexts(subject, "boolean", (value) => (test(value, ...(constants as string[])) ? 1 : 0));
    }
    return fillNumeric("boolean", length, 1, (row) => {
      const values = [subject, ...others].map((vector) => textAt(vector, row));
      if (values.includes(null)) return Number.NaN;
      const [value, ...rest] = values as string[];
      return test(value as string, ...rest) ? 1 : 0;
    });
  };
}

function toText(args: Vector[], length: number): Vector {
  const vector = args[0] as Vector;
  if (vector.kind === "text") return vector;
  const format = args[1] ? (textAt(text(args[1]), 0) ?? undefined) : undefined;
  const write = writer(vector.kind, format);
  return fillText(length, vector.step, (row) => {
    const value = vector.values[row * vector.step] as number;
    return value !== value ? null : write(value);
  });
}

/** Functions of texts, by name. Their help stands in signatures.ts. */
export const TEXT_FUNCTIONS: Readonly<Record<string, ValueFunction>> = {
  lower: (args) => mapTexts(text(args[0]), (value) => value.toLowerCase()),
  upper: (args) => mapTexts(text(args[0]), (value) => value.toUpperCase()),
  trim: (args) => mapTexts(text(args[0]), (value) => value.trim()),
  length: (args) => measureTexts(text(args[0]), "number", (value) => [...value].length),
  contains: textTest((value, other) => value.includes(other)),
  starts: textTest((value, other) => value.startsWith(other)),
  ends: textTest((value, other) => value.endsWith(other)),
  glob: textTest((value, pattern) => globOf(pattern).fits(value)),
  replace: (args, length) => {
    const [subject, from, to] = args.map(text) as [TextVector, TextVector, TextVector];
    return fillText(length, stepOf(args), (row) => {
      const [a, b, c] = [textAt(subject, row), textAt(from, row), textAt(to, row)];
      return a === null || b === null || c === null ? null : replaced(a, b, c);
    });
  },
  part: (args, length) => {
    const subject = text(args[0]);
    const [from, count] = [numeric(args[1]), args[2] ? numeric(args[2]) : undefined];
    return fillText(length, stepOf(args), (row) => {
      const value = textAt(subject, row);
      const start = from.values[row * from.step] as number;
      const many = count ? (count.values[row * count.step] as number) : Number.POSITIVE_INFINITY;
      if (value === null || start !== start || many !== many) return null;
      const first = Math.max(0, Math.floor(start) - 1);
      return [...value].slice(first, Math.max(first, Math.floor(start) - 1 + many)).join("");
    });
  },
  concat: (args, length) => {
    const texts = args.map((arg) => text(toText([arg], length)));
    return fillText(length, stepOf(args), (row) => {
      let joined = "";
      for (const vector of texts) {
        const value = textAt(vector, row);
        if (value === null) return null;
        joined += value;
      }
      return joined;
    });
  },
  text: toText,
};
