import type { PackedTable } from "../core/dashboard/encoding";
import { unpackColumn } from "../core/dashboard/unpack";
import type { Plan } from "../core/plan/plan";
import { fromBase64 } from "../core/table/base64";
import type { Column } from "../core/table/column";
import { makeTable, type Table } from "../core/table/table";
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
  // A column is read as soon as it is inflated, while the browser's own threads inflate those behind it.
  let next = 0;
  const tables = await Promise.all(
    packed.map(async ({ name, rowCount, columns }): Promise<[string, Table]> => {
      const read = columns.map(async (column): Promise<[string, Column]> => {
        const block = blocks[next++] as HTMLTemplateElement;
        const bytes = fromBase64(block.content.textContent ?? "");
        // The text is not needed again and would double the memory of large tables.
        block.content.textContent = "";
        return [column.name, unpackColumn(column, await inflate(bytes), rowCount)];
      });
      return [name, makeTable(rowCount, await Promise.all(read))];
    }),
  );
  const pictures = document.getElementById("pictures")?.textContent;
  return { plan, tables: new Map(tables), seal, pictures: pictures ? JSON.parse(pictures) : {} };
}
