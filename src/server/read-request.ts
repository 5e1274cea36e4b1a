import { pathProblem } from "../core/project/directory";
import type { Limits } from "./limits";

/** What was sent to be built. */
export interface BuildJob {
  text: string;
  files: [string, Uint8Array][];
}

export interface Refusal {
  status: number;
  code: string;
  message: string;
}

export const isRefusal = (found: BuildJob | Refusal): found is Refusal => "status" in found;

const refuse = (status: number, code: string, message: string): Refusal => ({ status, code, message });

/** Reads a body up to a limit; whoever sends more is stopped there and not read to the end. */
async function bodyOf(request: Request, most: number): Promise<Uint8Array | undefined> {
  if (Number(request.headers.get("content-length") ?? 0) > most) return undefined;
  const parts: Uint8Array[] = [];
  let length = 0;
  const reader = request.body?.getReader();
  if (!reader) return new Uint8Array(0);
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    length += value.length;
    if (length > most) {
      await reader.cancel();
      return undefined;
    }
    parts.push(value);
  }
  const body = new Uint8Array(length);
  let at = 0;
  for (const part of parts) {
    body.set(part, at);
    at += part.length;
  }
  return body;
}

/** Reads a build request: one part `sheet`, and a part `file` for every table, named as `read:` has it. */
export async function readRequest(request: Request, limits: Limits): Promise<BuildJob | Refusal> {
  const site = request.headers.get("sec-fetch-site");
  if (site !== null && site !== "same-origin" && site !== "none")
    return refuse(
      403,
      "other-site",
      "a page of another site asked for this; builds are asked for from scripts and from the workbench",
    );
  const type = request.headers.get("content-type") ?? "";
  if (!type.startsWith("multipart/form-data"))
    return refuse(415, "not-multipart", "send multipart/form-data with a part named sheet and parts named file");
  const body = await bodyOf(request, limits.bytes);
  if (!body)
    return refuse(
      413,
      "too-large",
      `a request may hold ${limits.bytes / 1e6} MB; larger tables are built from the terminal`,
    );
  let form: FormData;
  try {
    form = await new Response(body as BodyInit, { headers: { "content-type": type } }).formData();
  } catch {
    return refuse(400, "bad-multipart", "the parts of this request cannot be told apart");
  }
  const odd = [...form.keys()].find((key) => key !== "sheet" && key !== "file");
  if (odd !== undefined)
    return refuse(400, "unknown-part", `there is no part "${odd.slice(0, 40)}"; parts are sheet and file`);
  const sheets = form.getAll("sheet");
  if (sheets.length !== 1) return refuse(400, "no-sheet", "one part named sheet is needed");
  const sheet = sheets[0] as File | string;
  const size = typeof sheet === "string" ? sheet.length : sheet.size;
  if (size > limits.sheetBytes)
    return refuse(413, "sheet-too-large", `a sheet may hold ${limits.sheetBytes / 1e6} MB; tables belong into files`);
  // A plain field's line breaks become CRLF on the way (RFC 7578); a file's stay as they are.
  const text = typeof sheet === "string" ? sheet.replaceAll("\r\n", "\n") : await sheet.text();
  const sent = form.getAll("file");
  if (sent.length > limits.files) return refuse(413, "too-many-files", `at most ${limits.files} files are taken`);
  const files = new Map<string, Uint8Array>();
  for (const file of sent) {
    if (typeof file === "string")
      return refuse(400, "no-file-name", "each part named file needs a file name: the path that read: gives");
    const problem = pathProblem(file.name);
    if (problem) return refuse(400, "bad-file-name", problem);
    if (files.has(file.name)) return refuse(400, "doubled-file", `"${file.name}" was sent twice`);
    files.set(file.name, new Uint8Array(await file.arrayBuffer()));
  }
  return { text, files: [...files] };
}
