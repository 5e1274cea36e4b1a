import { extentOf, justAbove } from "../../table/extent";
import { heldRange } from "../predicate";
import { alongAxis, valuesOn } from "./brush-index";
import { type Indexer, indexerOf } from "./in-hand";

/** An index of a control's range, along the steps of its rail. */
export const rangeIndexer = (steps: Float64Array): Indexer =>
  indexerOf((of) => {
    const values = valuesOn(of, "x");
    const formula = of.plan.axes.x;
    const extent = values && extentOf(values);
    if (!formula || !extent) return undefined;
    const [least, most] = extent;
    const past = justAbove(most);
    const { kind } = of.columns.get(formula);
    // Where an end belongs to the range, so do rows just at it: what lies between one step and the next begins past it.
    const ends = Array.from(steps, (step) => heldRange(of.plan, kind, [step, step])).flat();
    const inner = Float64Array.from(ends.filter((end) => end > least && end < past)).sort();
    const edges = [least, ...inner.filter((end, at) => end !== inner[at - 1]), past];
    return alongAxis(of, "x", values, Float64Array.from(edges));
  });
