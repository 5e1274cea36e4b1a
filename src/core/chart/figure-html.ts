import { MISSING_NAME } from "../query/categories";
import { escapeText } from "../scene/escape";
import { colorAttribute, px } from "../scene/shapes/shape";
import type { Ground } from "../scene/theme";
import type { FigurePart } from "./figure-texts";

/** The box of a small line beside a figure, in pixels. */
const SPARK = { width: 96, height: 24 };

/** A small line through some values, from the least to the largest; what is missing breaks it. */
function sparkHtml(values: readonly number[], ground: Ground): string {
  const known = values.filter(Number.isFinite);
  if (known.length < 2) return "";
  const [low, high] = [Math.min(...known), Math.max(...known)];
  let path = "";
  let isOn = false;
  values.forEach((value, at) => {
    if (!Number.isFinite(value)) {
      isOn = false;
      return;
    }
    const x = 2 + (at / (values.length - 1)) * (SPARK.width - 4);
    const y = SPARK.height - 3 - ((value - low) / (high - low || 1)) * (SPARK.height - 6);
    path += `${isOn ? "L" : "M"}${px(x)} ${px(y)}`;
    isOn = true;
  });
  const stroke = colorAttribute("sea", ground);
  return `<svg class="spark" viewBox="0 0 ${SPARK.width} ${SPARK.height}" aria-hidden="true"><path d="${path}" fill="none" stroke="${stroke}" stroke-width="1.6" stroke-linejoin="round"/></svg>`;
}

/** A figure, or one for each value of a column: number, unit, comparison and small line. */
export function figureHtml(parts: readonly FigurePart[], isRepeated: boolean, ground: Ground): string {
  const one = ({ texts, by, spark }: FigurePart) => {
    const unit = texts.unit ? ` <small>${escapeText(texts.unit)}</small>` : "";
    const head = isRepeated ? `<p class="by">${escapeText(by ?? MISSING_NAME)}</p>` : "";
    const line = spark ? sparkHtml(spark, ground) : "";
    return `${head}<p class="number"><span>${escapeText(texts.value)}${unit}</span>${line}</p><p class="compare">${escapeText(texts.compare)}</p>`;
  };
  if (!isRepeated) return parts[0] ? one(parts[0]) : "";
  return `<div class="figures">${parts.map((part) => `<div>${one(part)}</div>`).join("")}</div>`;
}
