const ENTITIES: Record<string, string> = { lt: "<", gt: ">", quot: '"', apos: "'", amp: "&" };

/** The five entities of XML and numbered characters; those that a file defines itself are not followed. */
export function decodeEntities(text: string): string {
  if (!text.includes("&")) return text;
  return text.replace(
    /&(?:#(\d{1,7})|#x([0-9a-fA-F]{1,6})|(lt|gt|quot|apos|amp));/g,
    (whole, decimal?: string, hex?: string, name?: string) => {
      if (name !== undefined) return ENTITIES[name] as string;
      const point = decimal === undefined ? Number.parseInt(hex as string, 16) : Number(decimal);
      return point > 0 && point <= 0x10ffff ? String.fromCodePoint(point) : whole;
    },
  );
}

/** An attribute of a tag's text, whatever prefix its name has. */
export function attributeOf(tag: string, name: string): string | undefined {
  const found = new RegExp(`[\\s:]${name}\\s*=\\s*(?:"([^"]*)"|'([^']*)')`).exec(tag);
  return found ? decodeEntities(found[1] ?? found[2] ?? "") : undefined;
}

/** All tags of one name, as their texts between the angle brackets; a prefix is no matter. */
export function tagsOf(xml: string, name: string): string[] {
  return Array.from(
    xml.matchAll(new RegExp(`<(?:[\\w.-]+:)?${name}(?=[\\s/>])((?:[^>"']|"[^"]*"|'[^']*')*)>`, "g")),
    (found) => ` ${found[1]}`,
  );
}
