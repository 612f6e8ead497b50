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
  /**
   * Radius of what a pixel covers at the path's length, metres, whatever the path met; 0 where nobody looks
   * through pixels.
   */
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
  /**
   * How position, normal and coordinates change over half a pixel, along the picture's width and its height; laid
   * there by `layFootprint` for networks that ask.
   */
  dpdx: 32,
  dpdy: 35,
  dndx: 38,
  dndy: 41,
  duvdx: 44,
  duvdy: 46,
  /** Results of the probes that the network's first stage asked for. */
  probe: 48,
} as const

/** Probes a network may ask for. */
export const MAX_PROBES = 6
export const POINT_STRIDE = POINT.probe + MAX_PROBES
