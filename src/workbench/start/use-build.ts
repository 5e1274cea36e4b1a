"use client";

import type { Remote } from "comlink";
import { useCallback, useEffect, useRef, useState } from "react";
import type { BuildReply, CompileWorker } from "../worker/compile-worker";
import { startWorker } from "../worker/client";
import { DEMO, openDemo } from "./demo";

interface Building {
  text: string;
  setText: (text: string) => void;
  reply: BuildReply | undefined;
  /** The last dashboard that could be drawn. */
  html: string | undefined;
  busy: boolean;
  problem: string | undefined;
}

/** Opens the demo report and compiles the sheet as it is written; the newest text wins. */
export function useBuild(): Building {
  const [text, setShownText] = useState("");
  const [reply, setReply] = useState<BuildReply>();
  const [html, setHtml] = useState<string>();
  const [busy, setBusy] = useState(true);
  const [problem, setProblem] = useState<string>();
  const worker = useRef<Remote<CompileWorker>>(undefined);
  const wanted = useRef<string>(undefined);
  const running = useRef(false);

  const run = useCallback(async () => {
    if (running.current || !worker.current) return;
    running.current = true;
    setBusy(true);
    try {
      while (wanted.current !== undefined) {
        const next = wanted.current;
        wanted.current = undefined;
        const result = await worker.current.build(next, DEMO.sheet);
        if (wanted.current !== undefined) continue;
        setReply(result);
        if (result.html !== undefined) setHtml(result.html);
      }
    } catch (fault) {
      setProblem(`The compiler stopped: ${fault instanceof Error ? fault.message : String(fault)}`);
    } finally {
      running.current = false;
      setBusy(false);
    }
  }, []);

  const setText = useCallback(
    (next: string) => {
      setShownText(next);
      wanted.current = next;
      void run();
    },
    [run],
  );

  useEffect(() => {
    let left = false;
    openDemo().then(
      async (demo) => {
        if (left) return;
        worker.current ??= startWorker();
        await worker.current.open(demo.viewer, demo.files);
        setText(demo.text);
      },
      (fault: unknown) => setProblem(`The demo report could not be opened: ${fault instanceof Error ? fault.message : String(fault)}`),
    );
    return () => {
      left = true;
    };
  }, [setText]);

  return { text, setText, reply, html, busy, problem };
}
