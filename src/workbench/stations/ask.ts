"use client";

import type { Remote } from "comlink";
import { useEffect, useState } from "react";
import { useDesk, useDeskState } from "../desk/desk-context";
import type { CompileWorker } from "../worker/compile-worker";

/**
 * Asks the compiler something about its last result, again whenever there is a new one. The answer
 * before stays until the next has come, so that nothing on the screen jumps.
 */
export function useAsked<T>(
  question: (call: Remote<CompileWorker>) => Promise<T> | undefined,
  about: readonly unknown[],
): T | undefined {
  const desk = useDesk();
  const reply = useDeskState((state) => state.reply);
  const [answer, setAnswer] = useState<T>();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the question is new at every drawing; what it is about says when it is another one.
  useEffect(() => {
    let late = false;
    const { call } = desk.builder;
    if (!reply || !call) return;
    void question(call)?.then((result) => {
      if (!late) setAnswer(result as T);
    });
    return () => {
      late = true;
    };
  }, [desk, reply, ...about]);
  return answer;
}
