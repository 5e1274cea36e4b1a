import { Kit } from "../core/finding/kit";
import type { PlanPiece } from "../core/plan/plan";
import type { App, View } from "./app";

/** Views of charts, figures and data tables. */
export const PIECES = new Kit<(app: App, piece: PlanPiece, section: HTMLElement) => View>("piece");
