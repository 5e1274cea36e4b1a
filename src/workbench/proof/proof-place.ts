import type { FoundMarks } from "../../core/finding/finding";
import type { ProofTracks } from "../../viewer/proof/listen";
import { Store } from "../desk/store";

/** Where the one proof stands, as the station in sight asks for it. */
export interface ProofPlace {
  /** The box in CSS pixels, relative to the station; nothing while no station shows the proof. */
  box: { left: number; top: number; width: number; height: number } | undefined;
  /** Only this piece is shown. */
  alone: string | undefined;
  /** The width of the dashboard in CSS pixels; 0 fits the box. */
  width: number;
  /** Smaller than true size so that the whole width is seen. */
  fit: boolean;
}

/** Marks that are lit in the proof while an advice speaks of them. */
export const lighting = new Store<{ piece: string | undefined; marks: FoundMarks | undefined }>({
  piece: undefined,
  marks: undefined,
});

/** The page is laid out by hand: where its tracks are, as the proof says. */
export interface Laying {
  on: boolean;
  tracks: ProofTracks | undefined;
}

export const laying = new Store<Laying>({ on: false, tracks: undefined });

export const proofPlace = new Store<ProofPlace>({ box: undefined, alone: undefined, width: 0, fit: true });
