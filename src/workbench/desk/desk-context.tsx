"use client";

import { createContext, useContext } from "react";
import type { Desk } from "./desk";
import type { DeskState } from "./state";
import { useStore } from "./store";

export const DeskContext = createContext<Desk | undefined>(undefined);

export function useDesk(): Desk {
  const desk = useContext(DeskContext);
  if (!desk) throw new Error("no desk here");
  return desk;
}

/** A part of the desk's state, watched. */
export function useDeskState<P>(part: (state: DeskState) => P): P {
  return useStore(useDesk().state, part);
}
