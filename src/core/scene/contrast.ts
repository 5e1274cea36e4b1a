import { linearLight } from "./hexadecimal";

/** Relative luminance of a colour in hexadecimal, 0 to 1 (WCAG 2.2). */
export function luminanceOf(color: string): number {
  const [red, green, blue] = linearLight(color);
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue;
}

/** The contrast ratio of two colours, 1 to 21 (WCAG 2.2). */
export function contrastOf(a: string, b: string): number {
  const [x, y] = [luminanceOf(a), luminanceOf(b)];
  return (Math.max(x, y) + 0.05) / (Math.min(x, y) + 0.05);
}
