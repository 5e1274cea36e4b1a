import { describe, expect, it, vi } from "vitest";
import type { TextEdit } from "../../core/finding/finding";
import type { Desk } from "./desk";
import { compiled, type EditsOver, editOver } from "./standing-text";
import { AT_FIRST, type DeskState } from "./state";
import { Store } from "./store";

/** A desk whose compiler is moved by hand: what it has compiled is what it answers over. */
function deskOver(text: string) {
  const state = new Store<DeskState>({ ...AT_FIRST, id: "one", text, replyText: text });
  const taken: (readonly TextEdit[] | undefined)[] = [];
  const desk = {
    state,
    builder: { call: {} } as Desk["builder"],
    edit: (edits: readonly TextEdit[] | undefined) => {
      taken.push(edits);
      return edits !== undefined;
    },
  };
  return { desk, state, taken };
}

/** An edit at the end of a text, by which one sees over which text it was reckoned. */
const atEndOf = (text: string): EditsOver => ({ text, edits: [{ start: text.length, end: text.length, text: "!" }] });

const turn = () => new Promise((done) => setTimeout(done));

describe("edits over the text that stands", () => {
  it("are taken at once where that text is compiled", async () => {
    const { desk, taken } = deskOver("abc");
    await editOver(desk, async () => atEndOf("abc"));
    expect(taken).toEqual([atEndOf("abc").edits]);
  });

  it("wait for the compile of a text that was changed just before", async () => {
    const { desk, state, taken } = deskOver("abc");
    state.set({ text: "abcdef" });
    const ask = vi.fn(async () => atEndOf(state.get().replyText));
    const done = editOver(desk, ask);
    await turn();
    expect(ask).not.toHaveBeenCalled();
    state.set({ replyText: "abcdef" });
    await done;
    expect(taken).toEqual([atEndOf("abcdef").edits]);
  });

  it("are asked for again where the text changes while they are reckoned", async () => {
    const { desk, state, taken } = deskOver("abc");
    const answers = ["abc", "abcdef"];
    await editOver(desk, async () => {
      const over = answers.shift() as string;
      if (over === "abc") {
        state.set({ text: "abcdef" });
        void turn().then(() => state.set({ replyText: "abcdef" }));
      }
      return atEndOf(over);
    });
    expect(answers).toEqual([]);
    expect(taken).toEqual([atEndOf("abcdef").edits]);
  });

  it("are not taken into a text that is no sheet, and it is said", async () => {
    const { desk, state, taken } = deskOver("a: [");
    await editOver(desk, async () => atEndOf("a: []"));
    expect(taken).toEqual([]);
    expect(state.get().notice).toContain("cannot be read");
  });

  it("are let go of where work ends without that text, and not taken with a later one", async () => {
    const { desk, state, taken } = deskOver("abc");
    state.set({ text: "abcdef" });
    const done = editOver(desk, async () => atEndOf(state.get().replyText));
    state.set({ work: { what: "compiling", part: 0 } });
    state.set({ work: undefined });
    await done;
    state.set({ replyText: "abcdef" });
    expect(taken).toEqual([]);
  });

  it("are let go of where another report is opened meanwhile", async () => {
    const { desk, state, taken } = deskOver("abc");
    state.set({ text: "abcdef" });
    const done = editOver(desk, async () => atEndOf("abcdef"));
    expect(await Promise.race([compiled(desk), turn().then(() => "waits")])).toBe("waits");
    state.set({ id: "two", text: "xyz", replyText: "xyz" });
    await done;
    expect(taken).toEqual([]);
  });
});
