import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { COMMANDS, commandOf } from "./commands";
import { tableNameFor } from "./take-files";

/** As much of an element as a key needs to know where it was pressed. */
class FakeElement {
  constructor(private readonly writes: boolean) {}
  closest() {
    return this.writes ? this : null;
  }
}

describe("keys and their commands", () => {
  beforeEach(() => vi.stubGlobal("Element", FakeElement));
  afterEach(() => vi.unstubAllGlobals());
  const pressed = (key: string, more: Partial<KeyboardEvent> = {}, writes = false) =>
    commandOf({
      key,
      ctrlKey: false,
      metaKey: false,
      altKey: false,
      shiftKey: false,
      target: new FakeElement(writes),
      ...more,
    } as unknown as KeyboardEvent)?.id;

  it("are those that are shown beside each command, once each", () => {
    const keys = COMMANDS.flatMap(({ keys: own }) => own ?? []);
    expect(new Set(keys).size).toBe(keys.length);
    expect(new Set(COMMANDS.map(({ id }) => id)).size).toBe(COMMANDS.length);
    for (const { id, keys: own } of COMMANDS) {
      const [modifier, key] = own?.split(" ") ?? [];
      if (modifier === "Ctrl") expect(pressed((key as string).toLowerCase(), { ctrlKey: true })).toBe(id);
      if (modifier === "Alt") expect(pressed(key as string, { altKey: true })).toBe(id);
    }
    expect(pressed("F8")).toBe("next");
    expect(pressed("?")).toBe("keys");
    expect(pressed("z", { metaKey: true, shiftKey: true })).toBe("redo");
  });

  it("leave to somebody who writes what a text needs", () => {
    expect(pressed("?", {}, true)).toBeUndefined();
    expect(pressed("z", { ctrlKey: true }, true)).toBeUndefined();
    expect(pressed("y", { ctrlKey: true }, true)).toBeUndefined();
    expect(pressed("s", { ctrlKey: true }, true)).toBe("write");
    expect(pressed("2", { altKey: true }, true)).toBe("charts");
  });

  it("take nothing else from the browser", () => {
    for (const key of ["t", "w", "n", "l", "f", "c", "v", "a"]) expect(pressed(key, { ctrlKey: true })).toBeUndefined();
    for (const key of ["ArrowLeft", "d", "6"]) expect(pressed(key, { altKey: true })).toBeUndefined();
    expect(pressed("s", { ctrlKey: true, shiftKey: true })).toBeUndefined();
  });
});

describe("the name of a table made of a file's", () => {
  it.each([
    ["calls.csv", [], "calls"],
    ["Bakery waste (spring).csv", [], "bakery_waste_spring"],
    ["2024-01 Über.tsv", [], "ber"],
    ["deep/below/t.csv", [], "t"],
    ["123.csv", [], "table"],
    ["calls.csv", ["calls", "calls_2"], "calls_3"],
  ])("%s", (path, taken, name) => {
    expect(tableNameFor(path, taken)).toBe(name);
    expect(tableNameFor(path, taken)).toMatch(/^[a-z][a-z0-9_]*$/);
  });
});
