import { plainValue } from "../query/categories";
import type { Column } from "../table/column";
import type { Table } from "../table/table";

/** A length of time as it is read back: hours, minutes, seconds and what is left of them. */
function lengthText(seconds: number): string {
  // A mean of lengths seldom ends with a thousandth: such are told in seconds, which are read back to the last bit.
  const plain = String(seconds);
  if (seconds >= 0 && !Number.isInteger(seconds * 1000) && !plain.includes("e")) return `${plain} s`;
  const whole = Math.floor(Math.abs(seconds));
  const rest = Math.round((Math.abs(seconds) - whole) * 1000);
  const two = (value: number) => String(value).padStart(2, "0");
  const text = `${Math.floor(whole / 3600)}:${two(Math.floor(whole / 60) % 60)}:${two(whole % 60)}`;
  return `${seconds < 0 ? "-" : ""}${text}${rest ? `.${String(rest).padStart(3, "0")}` : ""}`;
}

function cellText(column: Column, row: number): string {
  const value = plainValue(column, row);
  if (value === null) return "";
  const text = column.kind === "duration" ? lengthText(Number(value)) : String(value);
  return /[",\r\n]|^\s|\s$/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

/** A table as CSV that is read back as the same table. */
export function csvOf(table: Table): string {
  const columns = [...table.columns];
  const head = columns.map(([name]) => `"${name.replaceAll('"', '""')}"`).join(",");
  const lines = [head];
  for (let row = 0; row < table.rowCount; row++)
    lines.push(columns.map(([, column]) => cellText(column, row)).join(","));
  return `${lines.join("\n")}\n`;
}
