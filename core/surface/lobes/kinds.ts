/**
 * Every way of scattering, a line each: its file in this folder, and the number by which lobes tell what they are.
 * `scripts/write-dispatch.mjs` writes the switches of `dispatch.ts` from it.
 */
export const KIND = {
  'diffuse': 0,
  'reflection': 1,
  'conductor': 2,
  'metal': 3,
  'glass': 4,
  'sheet': 5,
  'rough-diffuse': 6,
  'again-diffuse': 7,
  'again-metal': 8,
  'again-glass': 9,
  'fuzz': 10,
  'translucent': 11,
  'walk': 12,
  'through': 13,
} as const
