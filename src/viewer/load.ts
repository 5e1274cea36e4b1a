import { fromBase64 } from "../core/dashboard/base64";
import type { PackedTable } from "../core/dashboard/encoding";
import { unpackTable } from "../core/dashboard/unpack";
import type { Plan } from "../core/plan/plan";
import type { Table } from "../core/table/table";

async function inflate(bytes: Uint8Array<ArrayBuffer>): Promise<Uint8Array> {
  const stream = new Blob([bytes]).stream().pipeThrough(new DecompressionStream("deflate-raw"));
  return new Uint8Array(await new Response(stream).arrayBuffer());
}

/** Reads plan and tables out of the page itself. */
export async function load(): Promise<{ plan: Plan; tables: Map<string, Table>; seal: string }> {
  const {
    plan,
    tables: packed,
    seal,
  } = JSON.parse(document.getElementById("plan")?.textContent ?? "") as {
    plan: Plan;
    tables: PackedTable[];
    seal: string;
  };
  const blocks = [...document.querySelectorAll<HTMLTemplateElement>("template[data-column]")];
  const inflated = await Promise.all(
    blocks.map((block) => {
      const bytes = fromBase64(block.content.textContent ?? "");
      // The text is not needed again and would double the memory of large tables.
      block.content.textContent = "";
      return inflate(bytes);
    }),
  );
  const tables = new Map<string, Table>();
  let next = 0;
  for (const table of packed) {
    const own = inflated.slice(next, next + table.columns.length);
    next += table.columns.length;
    tables.set(table.name, unpackTable(table, own));
  }
  return { plan, tables, seal };
}
