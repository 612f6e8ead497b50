/** Names of the numbers in this room's flat arrays. The build replaces them by the numbers themselves. */

/** Words of a panel in `Lights.panels`. */
export const PANEL = {
  x: 0,
  y: 1,
  z: 2,
  /** Half edges, metres; a ball has the first of them as its radius. */
  u: 3,
  v: 6,
  /** Unit, the way light leaves. */
  nx: 9,
  ny: 10,
  nz: 11,
  /** What it shows to a point that faces it, m². */
  area: 12,
  radiance: 13,
  /** Whether the camera sees it. */
  visible: 16,
  /** Luminance of its radiance. */
  power: 17,
  /** Squared first half edge: of balls and suns that of their radius. */
  uu: 18,
  /** Squared radius of a sphere about it, m². */
  radius2: 19,
  /** Number of its shape, see `scene/shape-kinds.ts`. */
  shape: 20,
  /** Share of the half edges over which light fades out. */
  soft: 21,
  blocks: 22,
  /** Of a ball's cone: (cos θ · scale + offset)², within 0..1, is what is left. */
  coneScale: 23,
  coneOffset: 24,
  /** What gives a place's share of each half edge, 1/m: they make up for edges that are not square to each other. */
  du: 25,
  dv: 28,
  stride: 31,
} as const

/** Words of a node of the tree over shining triangles. */
export const EMITTER = {
  /** Centre and squared radius of its sphere. */
  centre: 0,
  radius2: 3,
  power: 4,
  /** Number of its first child, the second follows; −1 for a leaf. */
  child: 5,
  /** Place of a leaf's triangle. */
  place: 6,
  parent: 7,
  stride: 8,
} as const
