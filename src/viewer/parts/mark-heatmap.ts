import { MARKS } from "../../core/mark/draws";
import { heatmapDraw } from "../../core/mark/heatmap";

MARKS.add("heatmap", heatmapDraw);
