/** The axis of the frame, unit; its opposite is the one normal about which frames turn at once. */
const AXIS = [2 / 7, 3 / 7, 6 / 7] as const
/** Two vectors square to it and to each other. */
const FIRST = [6 / 7, 2 / 7, -3 / 7] as const
const SECOND = [-3 / 7, 6 / 7, -2 / 7] as const
/** Nearer than this to the opposite the frame is not turned on. */
const LEAST = -0.9999999

function put(frame: Float64Array, at: number, x: number, y: number, z: number): void {
  for (let k = 0; k < 3; k++) frame[at + k] = x * FIRST[k]! + y * SECOND[k]! + z * AXIS[k]!
}

/**
 * Two unit vectors square to a unit vector n and to each other, into `frame[0…5]`: those of a fixed axis, turned as
 * little as takes it to n (Frisvad 2012, "Building an Orthonormal Basis from a 3D Unit Vector Without Normalization",
 * about another axis). They turn smoothly as n does, but about the axis's opposite.
 */
export function smoothFrame(frame: Float64Array, nx: number, ny: number, nz: number): void {
  const [ax, ay, az] = AXIS
  // n in the axis's own frame, whose first two vectors are FIRST and SECOND
  const x = nx * FIRST[0] + ny * FIRST[1] + nz * FIRST[2]
  const y = nx * SECOND[0] + ny * SECOND[1] + nz * SECOND[2]
  const z = Math.max(nx * ax + ny * ay + nz * az, LEAST)
  const a = 1 / (1 + z)
  const b = -x * y * a
  put(frame, 0, 1 - x * x * a, b, -x)
  put(frame, 3, b, 1 - y * y * a, -y)
}
