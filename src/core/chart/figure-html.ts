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

/** Numbers of fewer signs have room in any piece, and no style is made for more than the most. */
const SIGNS = { least: 8, most: 28 };

/** Signs of a unit are smaller than those of its number. */
const UNIT_SIGN = 0.6;

/** How wide a number is, in signs: by this it is made small enough for its piece, so that none is ever cut off. */
function signsOf({ value, unit = "" }: FigurePart["texts"]): number {
  const signs = Math.ceil(value.length + (unit === "" ? 0 : 0.5 + unit.length * UNIT_SIGN));
  return Math.min(SIGNS.most, signs);
}

/** Sizes of numbers by how many signs they have: a sign is about half as wide as its letters are high. */
export const figureSizes = (): string =>
  Array.from({ length: SIGNS.most - SIGNS.least + 1 }, (_, at) => {
    const signs = SIGNS.least + at;
    return `.signs-${signs}{font-size:min(27px,${Math.floor(1800 / signs) / 10}cqi)}`;
  }).join("");

/** A figure, or one for each value of a column: number, unit, comparison and small line. */
export function figureHtml(parts: readonly FigurePart[], isRepeated: boolean, ground: Ground): string {
  const one = ({ texts, by, spark }: FigurePart) => {
    const unit = texts.unit ? ` <small>${escapeText(texts.unit)}</small>` : "";
    const head = isRepeated ? `<p class="by">${escapeText(by ?? MISSING_NAME)}</p>` : "";
    const line = spark ? sparkHtml(spark, ground) : "";
    const signs = signsOf(texts);
    const size = signs < SIGNS.least ? "" : ` class="signs-${signs}"`;
    return `${head}<p class="number"><span${size}>${escapeText(texts.value)}${unit}</span>${line}</p><p class="compare">${escapeText(texts.compare)}</p>`;
  };
  if (!isRepeated) return parts[0] ? one(parts[0]) : "";
  return `<div class="figures">${parts.map((part) => `<div>${one(part)}</div>`).join("")}</div>`;
}
