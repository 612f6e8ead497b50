import type { Camera } from './camera-schema'

export type { Camera }

/**
 * Camera that the contracts name as default: from direction (1, 0.6, 1.6), the bounding sphere filling 90 % of the
 * shorter side.
 */
export function defaultCamera(bounds: ArrayLike<number>, width: number, height: number, fov = 30): Camera {
  const centre = [0, 1, 2].map(k => (bounds[k]! + bounds[k + 3]!) / 2) as [number, number, number]
  const radius = Math.max(1e-9, Math.hypot(...[0, 1, 2].map(k => bounds[k + 3]! - bounds[k]!)) / 2)
  const direction = [1, 0.6, 1.6]
  const l = Math.hypot(...direction)
  // half angle of the shorter side; the sphere's outline lies at sin = r/d
  const half = Math.atan(Math.tan((fov * Math.PI) / 360) * Math.min(1, width / height))
  const distance = radius / Math.sin(Math.atan(0.9 * Math.tan(half)))
  return {
    name: 'Default',
    position: centre.map((c, k) => c + (direction[k]! / l) * distance) as [number, number, number],
    target: centre,
    fov,
  }
}

/** Words of a camera's frame beyond eye (0–2), right (3–5), up (6–8) and forward (9–11). */
export const FRAME = { radius: 12, focus: 13, blades: 14, words: 15 } as const
/** Height of a sensor where a camera names none, mm: that of 36 × 24. */
export const SENSOR = 24

/** Focal length of a camera, mm. */
export const focalLength = (camera: Pick<Camera, 'fov' | 'sensor'>): number =>
  (camera.sensor ?? SENSOR) / (2 * Math.tan((camera.fov * Math.PI) / 360))
/** Field of view of a focal length in mm, degrees. */
export const fovOf = (focal: number, sensor = SENSOR): number =>
  (2 * Math.atan(sensor / (2 * focal)) * 180) / Math.PI

/**
 * Frame of a camera: eye, then the directions of one unit right, up and forward on the picture plane, scaled so
 * that x and y in −1…1 span the picture; then the radius of its aperture (metres; focal length over twice the
 * f-number), the distance that is sharp, and the blades.
 */
export function cameraFrame(camera: Camera, width: number, height: number): Float64Array {
  const f = [0, 1, 2].map(k => camera.target[k]! - camera.position[k]!)
  const l = Math.hypot(...f) || 1
  const w = f.map(x => x / l)
  const up = Math.abs(w[1]!) > 0.99999 ? [0, 0, -Math.sign(w[1]!)] : [0, 1, 0]
  const r = [w[1]! * up[2]! - w[2]! * up[1]!, w[2]! * up[0]! - w[0]! * up[2]!, w[0]! * up[1]! - w[1]! * up[0]!]
  const rl = Math.hypot(...r)
  const right = r.map(x => x / rl)
  const above = [
    right[1]! * w[2]! - right[2]! * w[1]!,
    right[2]! * w[0]! - right[0]! * w[2]!,
    right[0]! * w[1]! - right[1]! * w[0]!,
  ]
  const t = Math.tan((camera.fov * Math.PI) / 360)
  const a = width / height
  return Float64Array.from([
    ...camera.position,
    ...right.map(x => x * t * a),
    ...above.map(x => x * t),
    ...w,
    camera.fNumber ? focalLength(camera) / 1000 / (2 * camera.fNumber) : 0,
    camera.focus ?? l,
    camera.blades ?? 0,
  ])
}

/**
 * Moves a ray of a pinhole to a point of the aperture, keeping what it meets at the distance that is sharp (thin
 * lens).
 * @param u two draws; dx, dy, dz the pinhole's direction, one long along the axis
 */
export function throughLens(
  camera: Float64Array,
  u: Float64Array,
  origin: Float64Array,
  direction: Float64Array,
  o: number,
  dx: number,
  dy: number,
  dz: number,
): void {
  const blades = camera[FRAME.blades]!
  const focus = camera[FRAME.focus]!
  const rl = Math.hypot(camera[3]!, camera[4]!, camera[5]!)
  const ul = Math.hypot(camera[6]!, camera[7]!, camera[8]!)
  let a: number
  let b: number
  if (blades >= 3) {
    // one triangle of the polygon, drawn evenly over its area
    const wedge = Math.floor(u[0]! * blades)
    const t = Math.sqrt(u[0]! * blades - wedge)
    const p = (2 * Math.PI * wedge) / blades
    const q = p + (2 * Math.PI) / blades
    const v = u[1]!
    a = t * ((1 - v) * Math.cos(p) + v * Math.cos(q))
    b = t * ((1 - v) * Math.sin(p) + v * Math.sin(q))
  } else {
    const r = Math.sqrt(u[0]!)
    const p = 2 * Math.PI * u[1]!
    a = r * Math.cos(p)
    b = r * Math.sin(p)
  }
  a *= camera[FRAME.radius]! / rl
  b *= camera[FRAME.radius]! / ul
  const sx = a * camera[3]! + b * camera[6]!
  const sy = a * camera[4]! + b * camera[7]!
  const sz = a * camera[5]! + b * camera[8]!
  const x = focus * dx - sx
  const y = focus * dy - sy
  const z = focus * dz - sz
  const l = 1 / Math.sqrt(x * x + y * y + z * z)
  origin[o]! += sx
  origin[o + 1]! += sy
  origin[o + 2]! += sz
  direction[o] = x * l
  direction[o + 1] = y * l
  direction[o + 2] = z * l
}
