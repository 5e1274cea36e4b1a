import type { LiveWords, WordPart } from "../chart/words";
import type { Formula } from "../formula/tree";
import type { Channel, Query } from "../query/query";
import type { Path } from "../sheet/tree";
import { readChannel } from "./channels";
import { type Place, wrongAt } from "./piece-place";

const BRACES = /\{([^{}]*)\}/g;

/** `$name`, or `NAME.column` of a selection or pick control. */
const SETTING = /^\$([a-z][a-z0-9_]*)$/;
const HELD = /^([a-z][a-z0-9_]*(?:\.(?:hover|legend))?)\.([A-Za-z_][A-Za-z0-9_]*)$/;

/** A text cut at its braces; `value` reads what stands in them. */
export function wordParts(text: string, value: (inside: string) => WordPart): WordPart[] {
  const parts: WordPart[] = [];
  let from = 0;
  for (const match of text.matchAll(BRACES)) {
    if (match.index > from) parts.push(text.slice(from, match.index));
    parts.push(value((match[1] as string).trim()));
    from = match.index + match[0].length;
  }
  if (from < text.length) parts.push(text.slice(from));
  return parts;
}

/** A setting or a selection's column in braces; nothing for what must be a formula, words where it is found wrong. */
export function namedPart(
  { settings, used, selections, promised }: Place["compiling"],
  text: string,
): WordPart | { wrong: string } | undefined {
  const setting = SETTING.exec(text)?.[1];
  if (setting !== undefined && settings.has(setting)) {
    used.add(setting);
    return { setting };
  }
  const held = HELD.exec(text);
  const columns = held && selections?.get(held[1] as string);
  // What a link would make that was found wrong there is not found wrong here too.
  if (held && !columns && promised?.has(held[1] as string)) return "…";
  if (!held || !columns) return undefined;
  if (columns.has(held[2] as string)) return { selection: held[1] as string, column: held[2] as string };
  return { wrong: `the rows of ${held[1]} have no column "${held[2]}"` };
}

/** A piece whose words are read; without a table where none of them can be a formula. */
type LivePlace = Omit<Place, "built"> & Partial<Pick<Place, "built">>;

/** Gathers the texts of a piece in which values stand in braces, with the question that answers them. */
export class LiveReader {
  private readonly channels: Record<string, Channel> = {};
  private readonly parts: LiveWords["parts"] = {};
  private sound = true;

  constructor(
    private readonly place: LivePlace,
    private readonly keep: Formula | undefined,
  ) {}

  /** Reads a text; answers what stands for it until values are known. */
  read(key: string, text: string, path: Path): string {
    if (!text.includes("{")) return text;
    this.parts[key] = wordParts(text, (inside) => this.value(inside, path));
    return text.replace(BRACES, "…");
  }

  private value(text: string, path: Path): WordPart {
    const { compiling, built } = this.place;
    const named = namedPart(compiling, text);
    const isDay = typeof named === "object" && "setting" in named && compiling.settings.get(named.setting)?.day;
    if (named === undefined || (isDay && built)) return { channel: this.channel(text, path) };
    if (typeof named === "string" || !("wrong" in named)) return named;
    this.wrong(path, "unknown-column", named.wrong);
    return "";
  }

  /** The channel of a formula in braces: one number or word for all rows that the piece shows. */
  private channel(text: string, path: Path): string {
    const { compiling, built, name } = this.place;
    if (!built) return "";
    const read = readChannel({ compiling, path, tableName: built.name, table: built.table, piece: name }, text);
    if (!read) {
      this.sound = false;
      return "";
    }
    const known = Object.keys(this.channels).find((key) => this.channels[key]?.text === read.channel.text);
    if (known !== undefined) return known;
    if (!read.channel.aggregate && !read.checked.constant)
      this.wrong(
        path,
        "bare-column",
        `${read.channel.text} has one value a row; in words take sum(), mean(), first() or another aggregate`,
      );
    const key = `word${Object.keys(this.channels).length}`;
    this.channels[key] = { ...read.channel, aggregate: true };
    return key;
  }

  private wrong(path: Path, code: string, message: string) {
    this.sound = false;
    wrongAt(this.place, path, code, message);
  }

  /** All of them; nothing where there are none, `null` where one was found wrong. */
  done(): LiveWords | null | undefined {
    if (!this.sound) return null;
    if (Object.keys(this.parts).length === 0) return undefined;
    const query: Query = {
      from: this.place.built?.name ?? "",
      channels: this.channels,
      groupBy: [],
      grouped: true,
      ...(this.keep ? { keep: this.keep } : {}),
    };
    return { parts: this.parts, query };
  }
}
