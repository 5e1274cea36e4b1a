import type { Remote } from "comlink";
import type { TextEdit } from "../../core/finding/finding";
import type { CompileWorker } from "../worker/compile-worker";
import type { Desk } from "./desk";

/** Edits, and the text in which their places are counted. */
export interface EditsOver {
  text: string;
  edits: TextEdit[] | undefined;
}

/**
 * Waits until the text that stands is compiled; false where another report is opened meanwhile, or work ends without
 * it: what was pressed is not done long after, when something else is compiled.
 */
export function compiled({ state }: Pick<Desk, "state">): Promise<boolean> {
  const { id } = state.get();
  return new Promise((resolve) => {
    let began = false;
    const look = () => {
      const now = state.get();
      const isCompiled = now.replyText === now.text;
      const isOver = isCompiled || now.id !== id || (began && now.work === undefined);
      began ||= now.work !== undefined;
      if (!isOver) return;
      stop();
      resolve(isCompiled && now.id === id);
    };
    const stop = state.watch(look);
    look();
  });
}

/**
 * Takes edits that the compiler works out. What is on the screen may be of a text before, in which all places were
 * others: they are asked for again until they are of the text that stands.
 */
export async function editOver(
  desk: Pick<Desk, "state" | "builder" | "edit">,
  ask: (call: Remote<CompileWorker>) => Promise<EditsOver>,
): Promise<void> {
  while (await compiled(desk)) {
    const { call } = desk.builder;
    if (!call) return;
    const { text, edits } = await ask(call);
    const { text: now, replyText } = desk.state.get();
    if (text === now) {
      desk.edit(edits);
      return;
    }
    // What is compiled is older than the text although nothing is on its way: that text is no sheet.
    if (replyText === now) {
      desk.state.set({ notice: "nothing was changed: the sheet cannot be read at the moment" });
      return;
    }
  }
}
