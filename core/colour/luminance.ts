/**
 * Luminance of the linear Rec.709 colour that begins at `o` (ITU-R BT.709-6, item 3.2). Apart from `rgb.ts`, whose
 * tables few workers need.
 */
export const luminanceAt = (rgb: ArrayLike<number>, o: number): number =>
  0.2126 * rgb[o]! + 0.7152 * rgb[o + 1]! + 0.0722 * rgb[o + 2]!
