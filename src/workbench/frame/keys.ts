"use client";

import { useEffect } from "react";
import { commandOf } from "../desk/commands";
import { useDesk } from "../desk/desk-context";

/** Listens for the keys of commands on the whole page. */
export function useKeys() {
  const desk = useDesk();
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.defaultPrevented) return;
      const command = commandOf(event);
      if (!command) return;
      event.preventDefault();
      if (!command.isDisabled?.(desk)) command.run(desk);
    };
    document.addEventListener("keydown", listen);
    return () => document.removeEventListener("keydown", listen);
  }, [desk]);
}
