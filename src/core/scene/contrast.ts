/** Relative luminance of a colour in hexadecimal, 0 to 1 (WCAG 2.2). */
export function luminanceOf(color: string): number {
  const hex = color.length === 4 ? color.replace(/[0-9a-f]/gi, "$&$&") : color;
  const linear = (at: number) => {
    const part = Number.parseInt(hex.slice(at, at + 2), 16) / 255;
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
  };
  return 0.2126 * linear(1) + 0.7152 * linear(3) + 0.0722 * linear(5);
}

/** The contrast ratio of two colours, 1 to 21 (WCAG 2.2). */
export function contrastOf(a: string, b: string): number {
  const [x, y] = [luminanceOf(a), luminanceOf(b)];
  return (Math.max(x, y) + 0.05) / (Math.min(x, y) + 0.05);
}
