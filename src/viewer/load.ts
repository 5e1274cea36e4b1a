import type { PackedTable } from "../core/dashboard/encoding";
import { unpackTable } from "../core/dashboard/unpack";
import type { Plan } from "../core/plan/plan";
import { fromBase64 } from "../core/table/base64";
import type { Table } from "../core/table/table";
import type { Loaded } from "./dashboard";

async function inflate(bytes: Uint8Array<ArrayBuffer>): Promise<Uint8Array> {
  const stream = new Blob([bytes]).stream().pipeThrough(new DecompressionStream("deflate-raw"));
  return new Uint8Array(await new Response(stream).arrayBuffer());
}

/** Reads plan and tables out of the page itself. */
export async function load(): Promise<Loaded> {
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
  const pictures = document.getElementById("pictures")?.textContent;
  return { plan, tables, seal, pictures: pictures ? JSON.parse(pictures) : {} };
}
