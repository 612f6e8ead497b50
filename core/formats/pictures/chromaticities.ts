/** x and y of red, green, blue and white: ITU-R BT.709-6 with D65; ACES S-2014-004. */
export const CHROMATICITIES = {
  rec709: [0.64, 0.33, 0.3, 0.6, 0.15, 0.06, 0.3127, 0.329],
  acescg: [0.713, 0.293, 0.165, 0.83, 0.128, 0.044, 0.32168, 0.33767],
} as const
