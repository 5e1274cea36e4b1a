import { queriesOf } from "../chart/piece-formulas";
import { boundMessage, LIMITS } from "../finding/limits";
import type { PlanPiece } from "../plan/plan";
import type { Path } from "../sheet/tree";
import { toBase64 } from "../table/base64";
import type { Table } from "../table/table";
import { addFinding, type Compiling } from "./compiling";

/** Pictures that go along in the file, as `data:` addresses. */
export interface Media {
  logo?: string;
  /** By the path that stands in the cells. */
  pictures: ReadonlyMap<string, string>;
}

const KINDS: Readonly<Record<string, string>> = {
  png: "image/png",
  jpg: "image/jpeg",
  jpeg: "image/jpeg",
  gif: "image/gif",
  webp: "image/webp",
  avif: "image/avif",
  svg: "image/svg+xml",
};

/** So many pictures that are not there are named. */
const MOST_NAMED = 3;

const kindOf = (path: string): string | undefined => KINDS[/\.([a-z]+)$/i.exec(path)?.[1]?.toLowerCase() ?? ""];

/** Reads the logo, and those pictures beside the sheet whose rows leave. */
export function readMedia(
  compiling: Compiling,
  tables: ReadonlyMap<string, Table>,
  pieces: readonly PlanPiece[],
): Media {
  const { style } = compiling.sheet;
  const logo = style.logo === undefined ? undefined : readLogo(compiling, style.logo);
  const pictures =
    style.pictures === "outside"
      ? new Map<string, string>()
      : packedPictures(compiling, tables, groupedPictures(pieces));
  return { ...(logo === undefined ? {} : { logo }), pictures };
}

function readLogo(compiling: Compiling, path: string): string | undefined {
  const wrong = (code: string, message: string) => {
    addFinding(compiling, ["style", "logo"], code, message);
    return undefined;
  };
  const kind = kindOf(path);
  if (kind !== "image/png" && kind !== "image/svg+xml")
    return wrong("wrong-value", `a logo is an SVG or PNG file, not "${path}"`);
  const bytes = compiling.readFile(path);
  if (!bytes) return wrong("no-such-file", `there is no file "${path}" beside the sheet`);
  if (bytes.length > LIMITS.pictureBytes) return wrong("too-large", boundMessage("pictureBytes", bytes.length, path));
  return `data:${kind};base64,${toBase64(bytes)}`;
}

/** Columns of pictures in tables of groups that are packed in place of rows. */
const groupedPictures = (pieces: readonly PlanPiece[]): Set<string> =>
  new Set(
    pieces
      .flatMap(({ plan }) => queriesOf(plan))
      .flatMap(({ channels, finished }) =>
        finished
          ? Object.values(channels).flatMap(({ image, text }) => (image ? `${finished.table} ${text}` : []))
          : [],
      ),
  );

/** The addresses that stand in columns of pictures, of rows that leave. */
function addressesIn(
  compiling: Compiling,
  tables: ReadonlyMap<string, Table>,
  grouped: ReadonlySet<string>,
): Set<string> {
  const found = new Set<string>();
  for (const [name, table] of tables) {
    const info = compiling.tables.get(name.split("/")[0] as string)?.table.info;
    for (const [column, values] of table.columns) {
      const isPicture = info?.get(column)?.role === "image" || grouped.has(`${name} ${column}`);
      if (values.kind !== "text" || !isPicture) continue;
      const isThere = new Uint8Array(values.dictionary.length);
      for (const code of values.codes) if (code >= 0) isThere[code] = 1;
      values.dictionary.forEach((text, code) => {
        if (isThere[code]) found.add(text);
      });
    }
  }
  return found;
}

function packedPictures(...asked: Parameters<typeof addressesIn>): Map<string, string> {
  const [compiling] = asked;
  const pictures = new Map<string, string>();
  const absent: string[] = [];
  for (const address of [...addressesIn(...asked)].sort()) {
    const kind = kindOf(address);
    // An address on a network stays a text: nothing is fetched.
    if (!kind || /^[a-z][a-z0-9+.-]*:/i.test(address)) continue;
    const bytes = compiling.readFile(address);
    if (!bytes) absent.push(`there is no file "${address}"`);
    else if (bytes.length > LIMITS.pictureBytes) absent.push(boundMessage("pictureBytes", bytes.length, address));
    else pictures.set(address, `data:${kind};base64,${toBase64(bytes)}`);
  }
  const more = absent.length > MOST_NAMED ? `, and ${absent.length - MOST_NAMED} more like this` : "";
  const message = `pictures of rows: ${absent.slice(0, MOST_NAMED).join("; ")}${more}`;
  if (absent.length)
    addFinding(compiling, picturesPath(compiling), "no-such-picture", message, { severity: "warning" });
  return pictures;
}

/** Where the sheet says first that a column holds pictures. */
function picturesPath({ sheet }: Compiling): Path {
  for (const [table, { columns }] of sheet.tables)
    for (const [column, spec] of Object.entries(columns ?? {}))
      if (typeof spec === "object" && spec.role === "image") return ["tables", table, "columns", column, "role"];
  return ["tables"];
}
