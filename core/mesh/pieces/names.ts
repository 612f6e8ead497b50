/** Names of the test pieces, as people read them, with what they are for. */
export const PIECE_NAMES = {
  'Ball on steps': 'any material, with contact and shadow',
  'Cloth': 'fuzz, folds, two-sided sheets',
  'Soft and sharp cube': 'edge wear, coats',
  'Thin bowl': 'glass, thickness, films',
  'Prism': 'dispersion, caustics',
  'Turned disc': 'brushed and spun metal',
  'Terrain': 'displacement, slopes, curvature',
  'Corner of a room': 'plaster, wood, daylight',
} as const

export type PieceName = keyof typeof PIECE_NAMES
