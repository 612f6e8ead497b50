/** Layout of a shading point S: one array of numbers that a compiled network reads. Vectors are in world space, lengths in metres. */
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
  /** Radius of the ray's footprint, metres. */
  footprint: 20,
  part: 21,
  /** Results of the probes that the network's first stage asked for. */
  probe: 22,
} as const

/** Probes a network may ask for. */
export const MAX_PROBES = 6
export const POINT_STRIDE = POINT.probe + MAX_PROBES
