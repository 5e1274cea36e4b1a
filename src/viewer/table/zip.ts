/** A zip of texts, packed by the browser's own deflate. The same texts give the same bytes. */

const CRC = Uint32Array.from({ length: 256 }, (_, byte) => {
  let value = byte;
  for (let bit = 0; bit < 8; bit++) value = value & 1 ? (value >>> 1) ^ 0xedb88320 : value >>> 1;
  return value;
});

/** The check sum of zip files (CRC-32, as in ISO 3309). */
function checkSum(bytes: Uint8Array): number {
  let value = 0xffffffff;
  for (const byte of bytes) value = (CRC[(value ^ byte) & 255] as number) ^ (value >>> 8);
  return ~value >>> 0;
}

async function deflated(bytes: Uint8Array<ArrayBuffer>): Promise<Uint8Array> {
  const stream = new Blob([bytes]).stream().pipeThrough(new CompressionStream("deflate-raw"));
  return new Uint8Array(await new Response(stream).arrayBuffer());
}

/** 1 January 2000, 0:00, as zip files write it. */
const DAY = ((2000 - 1980) << 9) | (1 << 5) | 1;

/** Numbers of two or four bytes, least significant first. */
function header(fields: readonly (readonly [width: 2 | 4, value: number])[]): Uint8Array {
  const view = new DataView(new ArrayBuffer(fields.reduce((sum, [width]) => sum + width, 0)));
  let at = 0;
  for (const [width, value] of fields) {
    if (width === 2) view.setUint16(at, value, true);
    else view.setUint32(at, value, true);
    at += width;
  }
  return new Uint8Array(view.buffer);
}

/** Packs texts under their paths. */
export async function zipped(texts: Readonly<Record<string, string>>): Promise<Blob> {
  const parts: Uint8Array[] = [];
  const directory: Uint8Array[] = [];
  let offset = 0;
  const add = (list: Uint8Array[], ...bytes: Uint8Array[]) => {
    list.push(...bytes);
    return bytes.reduce((sum, { length }) => sum + length, 0);
  };
  let directorySize = 0;
  for (const [path, text] of Object.entries(texts)) {
    const [name, bytes] = [new TextEncoder().encode(path), new TextEncoder().encode(text)];
    const packed = await deflated(bytes);
    // Version 2.0, names in UTF-8, deflated.
    const facts = [
      [2, 20],
      [2, 0x800],
      [2, 8],
      [2, 0],
      [2, DAY],
      [4, checkSum(bytes)],
      [4, packed.length],
      [4, bytes.length],
      [2, name.length],
      [2, 0],
    ] as const;
    directorySize += add(
      directory,
      header([[4, 0x02014b50], [2, 20], ...facts, [2, 0], [2, 0], [2, 0], [4, 0], [4, offset]]),
      name,
    );
    offset += add(parts, header([[4, 0x04034b50], ...facts]), name, packed);
  }
  const count = Object.keys(texts).length;
  const end = header([
    [4, 0x06054b50],
    [2, 0],
    [2, 0],
    [2, count],
    [2, count],
    [4, directorySize],
    [4, offset],
    [2, 0],
  ]);
  return new Blob([...parts, ...directory, end] as BlobPart[]);
}
