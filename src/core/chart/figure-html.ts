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

/** Rows of figures by how many signs stand in them; rows of more than the most are wrapped. */
const ROW_SIGNS = { least: 12, step: 6, most: 60 };
/** Signs of what a figure of a row is called are as much smaller than those of its number; so wide is the gap. */
const NAME_SIGN = 0.5;
const GAP_SIGNS = 1.8;

/** How wide figures are beside one another, in signs of their numbers: by this they are made to stand in one row. */
function rowSignsOf(parts: readonly FigurePart[]): number {
  const widths = parts.map(({ texts, by }) => Math.max(signsOf(texts), (by ?? MISSING_NAME).length * NAME_SIGN));
  const signs = widths.reduce((sum, width) => sum + width, (parts.length - 1) * GAP_SIGNS);
  return Math.min(ROW_SIGNS.most, Math.max(ROW_SIGNS.least, Math.ceil(signs / ROW_SIGNS.step) * ROW_SIGNS.step));
}

/** The share of a piece's width that a sign's letters may be high where so many stand in a line. */
const heightOf = (signs: number) => `${Math.floor(1800 / signs) / 10}cqi`;

/** Sizes of numbers by how many signs they have: a sign is about half as wide as its letters are high. */
export function figureSizes(): string {
  let css = "";
  for (let signs = SIGNS.least; signs <= SIGNS.most; signs += 1)
    css += `.signs-${signs}{font-size:min(27px,${heightOf(signs)})}`;
  for (let signs = ROW_SIGNS.least; signs <= ROW_SIGNS.most; signs += ROW_SIGNS.step)
    css += `.row-of-${signs} .number span{font-size:clamp(16px,${heightOf(signs)},27px)}`;
  return css;
}

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
  if (parts.length === 0) return '<p class="compare">No rows pass</p>';
  return `<div class="figures row-of-${rowSignsOf(parts)}">${parts.map((part) => `<div>${one(part)}</div>`).join("")}</div>`;
}
