import type { Camera } from './camera-schema'

export type { Camera }

/** Camera that the contracts name as default: from direction (1, 0.6, 1.6), the bounding sphere filling 90 % of the shorter side. */
export function defaultCamera(bounds: ArrayLike<number>, width: number, height: number, fov = 30): Camera {
  const centre = [0, 1, 2].map(k => (bounds[k]! + bounds[k + 3]!) / 2) as [number, number, number]
  const radius = Math.max(1e-9, Math.hypot(...[0, 1, 2].map(k => bounds[k + 3]! - bounds[k]!)) / 2)
  const direction = [1, 0.6, 1.6], l = Math.hypot(...direction)
  // half angle of the shorter side; the sphere's outline lies at sin = r/d
  const half = Math.atan(Math.tan(fov * Math.PI / 360) * Math.min(1, width / height))
  const distance = radius / Math.sin(Math.atan(0.9 * Math.tan(half)))
  return { name: 'Default', position: centre.map((c, k) => c + direction[k]! / l * distance) as [number, number, number], target: centre, fov }
}

/** Frame of a camera: eye, then the directions of one unit right, up and forward on the picture plane, scaled so that x and y in −1…1 span the picture. */
export function cameraFrame(camera: Camera, width: number, height: number): Float64Array {
  const f = [0, 1, 2].map(k => camera.target[k]! - camera.position[k]!), l = Math.hypot(...f) || 1
  const w = f.map(x => x / l)
  const up = Math.abs(w[1]!) > 0.99999 ? [0, 0, -Math.sign(w[1]!)] : [0, 1, 0]
  const r = [w[1]! * up[2]! - w[2]! * up[1]!, w[2]! * up[0]! - w[0]! * up[2]!, w[0]! * up[1]! - w[1]! * up[0]!], rl = Math.hypot(...r)
  const right = r.map(x => x / rl)
  const above = [right[1]! * w[2]! - right[2]! * w[1]!, right[2]! * w[0]! - right[0]! * w[2]!, right[0]! * w[1]! - right[1]! * w[0]!]
  const t = Math.tan(camera.fov * Math.PI / 360), a = width / height
  return Float64Array.from([...camera.position, ...right.map(x => x * t * a), ...above.map(x => x * t), ...w])
}
