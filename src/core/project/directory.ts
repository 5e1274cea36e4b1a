/** One file of a zip, as its directory describes it. */
export interface ArchiveEntry {
  path: string;
  method: number;
  packedSize: number;
  size: number;
  check: number;
  offset: number;
}

export interface ArchiveProblem {
  ok: false;
  problem: string;
}

export const MOST_ENTRIES = 500;
/** All files of a project together, unpacked. */
export const MOST_BYTES = 1_000_000_000;
/** Tables pack well, but not like this: beyond it a file is there to fill the memory. */
const MOST_GAIN = 400;
const SMALL = 5_000_000;

const END = 0x06054b50;
const ENTRY = 0x02014b50;

const refuse = (problem: string): ArchiveProblem => ({ ok: false, problem });

/** A path that stays beside the sheet: no way up, no root, no drive, nothing that cannot be read. */
export function pathProblem(path: string): string | undefined {
  const shown = JSON.stringify(path.slice(0, 60));
  if (path.length === 0 || path.length > 200) return `a file's name is ${path.length === 0 ? "empty" : "too long"}`;
  if (/[\u0000-\u001f\u007f\u202a-\u202e\u2066-\u2069]/.test(path)) return `${shown} holds signs that cannot be seen`;
  if (path.includes("\\") || path.startsWith("/") || /^[A-Za-z]:/.test(path))
    return `${shown} names a place outside the project`;
  if (path.split("/").some((part) => part === ".." || part === "." || part === ""))
    return `${shown} leads out of the project's folder`;
  return undefined;
}

const TABLE = Uint32Array.from({ length: 256 }, (_, value) => {
  let rest = value;
  for (let bit = 0; bit < 8; bit++) rest = rest & 1 ? (rest >>> 1) ^ 0xedb88320 : rest >>> 1;
  return rest >>> 0;
});

/** The check sum of zip files (CRC-32, ISO 3309). */
export function crc32(bytes: Uint8Array): number {
  let rest = 0xffffffff;
  for (let at = 0; at < bytes.length; at++)
    rest = (TABLE[(rest ^ (bytes[at] as number)) & 255] as number) ^ (rest >>> 8);
  return (rest ^ 0xffffffff) >>> 0;
}

/** Reads a zip's directory and refuses what no project holds, before anything is unpacked. */
export function readDirectory(bytes: Uint8Array): { ok: true; entries: ArchiveEntry[] } | ArchiveProblem {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let end = bytes.length - 22;
  const furthest = Math.max(0, end - 65_535);
  while (end >= furthest && view.getUint32(end, true) !== END) end -= 1;
  if (end < furthest || end < 0) return refuse("this is no zip file");
  const promised = view.getUint16(end + 10, true);
  if (promised === 0xffff) return refuse(`this zip holds too many files; a project has at most ${MOST_ENTRIES}`);
  if (view.getUint16(end + 4, true) !== 0) return refuse("this zip is one part of several");
  const entries: ArchiveEntry[] = [];
  const taken = new Set<string>();
  let total = 0;
  let count = 0;
  let at = view.getUint32(end + 16, true);
  while (at + 46 <= end && view.getUint32(at, true) === ENTRY) {
    count += 1;
    if (count > MOST_ENTRIES) return refuse(`this zip holds too many files; a project has at most ${MOST_ENTRIES}`);
    const flags = view.getUint16(at + 8, true);
    const method = view.getUint16(at + 10, true);
    const packedSize = view.getUint32(at + 20, true);
    const size = view.getUint32(at + 24, true);
    const nameLength = view.getUint16(at + 28, true);
    const mode = view.getUint32(at + 38, true) >>> 16;
    const path = new TextDecoder().decode(bytes.subarray(at + 46, at + 46 + nameLength));
    const entry: ArchiveEntry = {
      path,
      method,
      packedSize,
      size,
      check: view.getUint32(at + 16, true),
      offset: view.getUint32(at + 42, true),
    };
    at += 46 + nameLength + view.getUint16(at + 30, true) + view.getUint16(at + 32, true);
    if (path.endsWith("/") && size === 0) {
      const wrong = pathProblem(path.slice(0, -1));
      if (wrong) return refuse(wrong);
      continue;
    }
    const wrong = pathProblem(path);
    if (wrong) return refuse(wrong);
    if ((mode & 0xf000) === 0xa000) return refuse(`"${path}" is a link to another place; only files are taken`);
    if (flags & 1) return refuse(`"${path}" is locked with a password`);
    if (method !== 0 && method !== 8) return refuse(`"${path}" is packed in a way that is not read here`);
    if (taken.has(path.toLowerCase())) return refuse(`"${path}" stands twice in this zip`);
    taken.add(path.toLowerCase());
    total += size;
    if (total > MOST_BYTES) return refuse(`unpacked, this zip would hold over ${MOST_BYTES / 1e9} GB`);
    if (size > SMALL && size > packedSize * MOST_GAIN)
      return refuse(
        `"${path}" would grow ${Math.round(size / Math.max(1, packedSize))} times when unpacked; no table does that`,
      );
    entries.push(entry);
  }
  if (count !== promised) return refuse("this zip is damaged: its directory does not hold what it promises");
  return { ok: true, entries };
}
