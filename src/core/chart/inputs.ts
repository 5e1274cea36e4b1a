import type { Column } from "../table/column";
import type { Paint } from "../scene/scene";
import type { Answer, Prepared } from "./query";
import type { ChartPlan, LayerPlan } from "./plan";
import { channelValues } from "./query";

/** Colours of categories or of a ramp, one for every colour channel with the same formula. */
export type ColorScale =
  | { type: "categories"; names: (string | null)[]; paints: Paint[] }
  | { type: "ramp"; low: number; high: number };

/** A layer with its answers for several choices of rows. */
export interface LayerInput {
  plan: LayerPlan;
  /** No selection on: categories, bins and `of all` come from here. */
  all: Answer;
  /** Only controls on: the default for the ends of axes. */
  controls: Answer;
  /** All that was on when the last gesture ended: for axes whose range is `left`. */
  left: Answer;
  /** What is drawn in full ink. */
  current: Answer;
  /** What is drawn faintly under it, where a selection fades instead of filtering. */
  base?: { answer: Answer; opacity: number };
  /** 1 for groups or rows that the chart's own selection holds. */
  picked?: (ids: Int32Array) => Uint8Array | undefined;
}

export interface SortInput {
  all: Answer;
  controls: Answer;
  left: Answer;
}

export interface ChartInput {
  plan: ChartPlan;
  layers: LayerInput[];
  sorts: Partial<Record<"x" | "y" | "color", SortInput>>;
  color?: ColorScale;
  /** Legend entries that the reader has pressed, and what that did. */
  off: ReadonlySet<string | null>;
  width: number;
  height: number;
  empty?: string;
}

/** Columns of all channels of a layer under an answer, made once each. */
export class LayerValues {
  private readonly columns = new Map<string, Column>();

  constructor(
    readonly answer: Answer,
    private readonly all: Answer,
  ) {}

  get prepared(): Prepared {
    return this.answer.prepared;
  }

  get(name: string): Column | undefined {
    if (!(name in this.prepared.query.channels)) return undefined;
    let column = this.columns.get(name);
    if (!column) {
      column = channelValues(name, this.answer, this.all);
      this.columns.set(name, column);
    }
    return column;
  }

  /** Numbers of a channel, one a group or row; nothing for texts. */
  numbers(name: string): Float64Array | undefined {
    const column = this.get(name);
    return column && column.kind !== "text" ? column.values : undefined;
  }
}
