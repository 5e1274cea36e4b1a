import { z } from "zod";

/**
 * The smallest parts of the schema. Every scalar of a sheet arrives as its own source text,
 * never as YAML's reading of it, so numbers and switches are texts that look like ones.
 * `role` says what a text is, for the guard against texts that YAML cuts, completion and docs.
 */
export type Role =
  | "formula"
  | "sort item"
  | "words"
  | "format"
  | "name"
  | "table"
  | "file"
  | "number"
  | "switch"
  | "choice"
  | "colour"
  | "link"
  | "value";

declare module "zod" {
  interface GlobalMeta {
    role?: Role;
    /** One sentence of help. */
    says?: string;
  }
}

const plainNumber = /^[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?$/;

export const number = (says: string, error = "a number is expected") =>
  z
    .string()
    .refine((text) => plainNumber.test(text), { error })
    .transform(Number)
    .meta({ role: "number", says });

export const onOff = (says: string) =>
  z
    .enum(["true", "false"], { error: "true or false is expected" })
    .transform((text) => text === "true")
    .meta({ role: "switch", says });

/** A number, or a setting that stands for one. */
export const numberOrSetting = (says: string) =>
  z
    .string()
    .refine((text) => plainNumber.test(text) || /^\$[a-z][a-z0-9_]*$/.test(text), {
      error: "a number or a setting such as $bins is expected",
    })
    .meta({ role: "number", says });

/** An end of an axis: a number, a date or a moment, a length of time by the clock, or a setting that stands for one. */
export const end = (says: string) =>
  z
    .string()
    .refine((text) => plainNumber.test(text) || /^\$[a-z][a-z0-9_]*$|^\d{4}-\d\d|^\d+:\d/.test(text), {
      error: "a number, a date or a setting such as $most is expected",
    })
    .meta({ role: "number", says });

export const formula = (says: string) => z.string().meta({ role: "formula", says });
export const words = (says: string) => z.string().meta({ role: "words", says });
export const format = (says: string) => z.string().meta({ role: "format", says });
export const value = (says: string) => z.string().meta({ role: "value", says });
export const tableName = (says: string) => z.string().meta({ role: "table", says });
export const columnName = (says: string) => z.string().meta({ role: "name", says });
export const colour = (says: string) =>
  z
    .string()
    .refine((text) => /^#(?:[0-9a-fA-F]{3}|[0-9a-fA-F]{6})$/.test(text), {
      error: 'a colour is written as "#1d5f5a", in quotes',
    })
    .meta({ role: "colour", says });
export const choice = <const T extends string>(options: readonly T[], says: string) =>
  z.enum(options as readonly [T, ...T[]]).meta({ role: "choice", says });

/** One item or a list of them. */
export const oneOrMore = <T extends z.ZodType>(item: T) => z.union([item, z.array(item)]);

export const NAME = /^[a-z][a-z0-9_]*$/;
