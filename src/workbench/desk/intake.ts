import type { IntakeReply } from "../worker/reply";
import type { Desk } from "./desk";

/** What is to become of a file that comes in place of another of its name. */
export type IntakeChoice = "replace" | "keep" | "beside";

/** A question to the author: a file is here again, and this is not as it was. */
export interface IntakeQuestion {
  path: string;
  replies: IntakeReply[];
}

let answer: ((choice: IntakeChoice) => void) | undefined;

/** Gives the author's answer to the question that stands. */
export function answerIntake(desk: Desk, choice: IntakeChoice): void {
  const waiting = answer;
  answer = undefined;
  desk.state.set({ intake: undefined, dialog: undefined });
  waiting?.(choice);
}

/**
 * Compares a file that came in with the one of its name that is there. Where something is not as
 * it was, the author is asked before anything is exchanged; otherwise it is simply replaced.
 */
export async function checkIntake(desk: Desk, path: string, hash: string, bytes: Uint8Array): Promise<IntakeChoice> {
  const { text, files } = desk.state.get();
  const { call } = desk.builder;
  if (!call || files.get(path) === hash) return "replace";
  await call.put(hash, bytes);
  const replies = await call.intake(text, [...files], path, hash);
  // Its progress was told by the way; no build ends it.
  desk.state.set({ work: undefined });
  if (replies.every(({ changes, findings }) => changes.length === 0 && findings.length === 0)) return "replace";
  answer?.("keep");
  return new Promise((decide) => {
    answer = decide;
    desk.state.set({ intake: { path, replies }, dialog: "intake" });
  });
}
