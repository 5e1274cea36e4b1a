import type { Desk } from "./desk";

/** Says something in the line at the foot. */
export function say(desk: Desk, notice: string) {
  desk.state.set({ notice });
}
