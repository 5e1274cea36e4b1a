import { inflateSync } from "fflate";
import type { PackedTable } from "../dashboard/encoding";
import { unpackTable } from "../dashboard/unpack";
import type { Plan } from "../plan/plan";
import { fromBase64 } from "../table/base64";
import type { Table } from "../table/table";
import { pathProblem } from "./directory";

/** What stands in a written dashboard: its plan, its tables as packed, and its sheet if that went along. */
export interface DashboardFile {
  plan: Plan;
  tables: Map<string, Table>;
  /** Whole tables as they were read, where the author let them go along. */
  whole: Map<string, Table>;
  sheet?: string;
  /** Sheets and house styles that the sheet uses, by path. */
  used: Map<string, string>;
  /** Pictures of rows by the address in their cells. */
  pictures: Map<string, Uint8Array>;
  logo?: Uint8Array;
}

/** The text of a data block of ours. */
function block(html: string, id: string): string | undefined {
  const open = `<script type="application/json" id="${id}">`;
  const start = html.indexOf(open);
  const end = start < 0 ? -1 : html.indexOf("</script>", start);
  return end < 0 ? undefined : html.slice(start + open.length, end);
}

/** Packed columns in the order of the file. */
function blocks(html: string, kind: string): Uint8Array[] {
  const open = `<template data-${kind}>`;
  const found: Uint8Array[] = [];
  for (let at = html.indexOf(open); at >= 0; at = html.indexOf(open, at + 1)) {
    const end = html.indexOf("</template>", at);
    if (end < 0) break;
    found.push(inflateSync(fromBase64(html.slice(at + open.length, end))));
  }
  return found;
}

/** What a `data:` address of ours holds. */
const bytesOfAddress = (address: string): Uint8Array => fromBase64(address.slice(address.indexOf(",") + 1));

function unpacked(tables: readonly PackedTable[], columns: readonly Uint8Array[]): Map<string, Table> {
  let next = 0;
  return new Map(
    tables.map((table) => {
      const own = columns.slice(next, next + table.columns.length);
      next += table.columns.length;
      return [table.name, unpackTable(table, own)];
    }),
  );
}

/** Reads a dashboard's own HTML; nothing where the text is none of ours or is not whole. Never throws. */
export function readDashboardFile(html: string): DashboardFile | undefined {
  const head = block(html, "plan");
  if (head === undefined) return undefined;
  try {
    const { plan, tables } = JSON.parse(head) as { plan: Plan; tables: PackedTable[] };
    const [sheet, whole, used] = [block(html, "sheet"), block(html, "whole"), block(html, "used")];
    const inside = (text: string | undefined) =>
      // Paths lead to no place but beside the sheet, whatever a foreign file says.
      Object.entries(JSON.parse(text ?? "{}") as Record<string, string>).filter(([path]) => !pathProblem(path));
    const logo = /<img class="logo" alt="" src="(data:[^"]*)">/.exec(html)?.[1];
    return {
      plan,
      tables: unpacked(tables, blocks(html, "column")),
      whole: whole === undefined ? new Map() : unpacked(JSON.parse(whole) as PackedTable[], blocks(html, "whole")),
      ...(sheet === undefined ? {} : { sheet: JSON.parse(sheet) as string }),
      pictures: new Map(inside(block(html, "pictures")).map(([address, data]) => [address, bytesOfAddress(data)])),
      ...(logo === undefined ? {} : { logo: bytesOfAddress(logo) }),
      used: new Map(inside(used)),
    };
  } catch {
    // Whatever a cut or foreign file holds in these places: it is no dashboard of ours.
    return undefined;
  }
}
