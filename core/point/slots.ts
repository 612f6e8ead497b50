/**
 * Layout of a shading point S: one array of numbers that a compiled network reads. Vectors are in world space,
 * lengths in metres.
 */
export const POINT = {
  position: 0,
  /** Shading normal, unit, on the outer side. */
  normal: 3,
  /** Geometric normal, unit, on the outer side. */
  geometric: 6,
  tangent: 9,
  bitangent: 12,
  /** From the eye to the point, unit. */
  view: 15,
  uv: 18,
  /** Radius of what the point stands for, across the way in which it is seen, metres; 0: nothing but itself. */
  footprint: 20,
  part: 21,
  /** Vertex colour, linear Rec.709 and opacity; white where a part has none. */
  colour: 22,
  /**
   * How the point moves as u and as v grow by one, metres; along the tangents, a metre for one, where a part has
   * no coordinates.
   */
  dpdu: 26,
  dpdv: 29,
  /** How the shading normal turns as u and as v grow by one. */
  dndu: 32,
  dndv: 35,
  /**
   * What the point stands for: how position, normal and coordinates change over half of it, along the way in which
   * it is seen and across. Laid there by `layFootprint` for networks that ask.
   */
  dpdx: 38,
  dpdy: 41,
  dndx: 44,
  dndy: 47,
  duvdx: 50,
  duvdy: 52,
  /** Position, normal and tangent in the part's own space, before its file or a copy moved it. */
  objectPosition: 54,
  objectNormal: 57,
  objectTangent: 60,
  /** Whether that space is another than the scene's (1); then the 3 × 3 part of the way there, row by row. */
  moved: 63,
  toObject: 64,
  /** Further sets of coordinates, up to three; 0 where a part does not have them. */
  uvMore: 73,
  /** How each of them grows with the first: du/du, du/dv, dv/du, dv/dv. */
  uvMoreBy: 79,
  /** Position and normal before the part was displaced, in its own space. */
  restPosition: 91,
  restNormal: 94,
  /** Whether it was (1); then how the position before moves as u and as v grow by one. */
  displaced: 97,
  restByU: 98,
  restByV: 101,
  /** Way from the point to the smooth surface that its triangle stands for, see `scene/fill-smooth.ts`. */
  smooth: 104,
  /** Place of its triangle among the packets of the hierarchy, −1 where it has none; its weights there. */
  place: 107,
  barycentric: 108,
  /** How many fields the network asked for; then what they are there, and how each grows a metre along x, y, z. */
  fields: 110,
  field: 111,
  fieldBy: 117,
} as const

/** Sets of coordinates beside the first. */
export const MORE_SETS = 3

/** Fields a network may ask for. */
export const MAX_FIELDS = 6
export const POINT_STRIDE = POINT.fieldBy + 3 * MAX_FIELDS
