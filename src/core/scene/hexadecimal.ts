/** `#abc` as `#aabbcc`. */
export const longForm = (color: string) =>
  color.length === 4 ? `#${[...color.slice(1)].map((digit) => digit + digit).join("")}` : color;

export type Rgb = [number, number, number];

/** Red, green and blue of a colour in hexadecimal, 0 to 255. */
export function channelsOf(color: string): Rgb {
  const long = longForm(color);
  return [1, 3, 5].map((at) => Number.parseInt(long.slice(at, at + 2), 16)) as Rgb;
}

/** A colour in hexadecimal in linear light, each channel 0 to 1 (sRGB, IEC 61966-2-1). */
export const linearLight = (color: string): Rgb =>
  channelsOf(color).map((channel) => {
    const part = channel / 255;
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
  }) as Rgb;
