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
  /** 1 for what is met within its first half edge on all sides, 0 for what is met within both. */
  round: 31,
  /** Radians about the way light leaves within which the ways lie that it faces: 0 for what is flat. */
  spread: 32,
  stride: 33,
} as const

/** Whether a word of a panel says how bright it is and of what colour. */
export const isColour = (word: number): boolean =>
  (word >= PANEL.radiance && word < PANEL.radiance + 3) || word === PANEL.power

/** Words of a box in `PanelBoxes.nodes`. */
export const BOX = {
  low: 0,
  high: 3,
  /** Of a leaf: where its panels begin in `order`, and how many they are; else the first child, and 0. */
  first: 6,
  count: 7,
  stride: 8,
} as const

/** Words of a node of a tree over lights (`tree.ts`). */
export const NODE = {
  /** Centre and squared radius of its sphere. */
  centre: 0,
  radius2: 3,
  power: 4,
  /** Number of its first child, the second follows; −1 for a leaf. */
  child: 5,
  /** Number of a leaf's light: a panel, or the place of a triangle. */
  leaf: 6,
  parent: 7,
  /** Unit, about which the ways lie that its lights face. */
  axis: 8,
  /** Cosine and sine of the widest angle between the axis and those ways. */
  cos: 11,
  sin: 12,
  /** 1 where light leaves on the side of the axis, 2 where it leaves on both; 0 where it leaves all around. */
  sides: 13,
  /** Share of its area that is seen where light leaves all around. */
  shown: 14,
  stride: 15,
} as const
